import type { Key, Motion } from '@tin-ghost/core';
import { changeLook, useDocument } from './document';
import { changeMotion, traitUseAt, type UseAt } from './look-edits';
import { withKey, withoutKey, type KeyValue } from './motion-edits';
import { chooseKey } from './session';

const motionOf = (at: UseAt, setting: string): Motion | undefined => traitUseAt(useDocument.getState().look, at)?.motions?.[setting];

/** Gives a setting a motion, or none. */
export const setMotion = (at: UseAt, setting: string, motion: Motion | undefined): void => changeLook(changeMotion(useDocument.getState().look, at, setting, motion));

/** Changes the keys of a setting that is moved by some; without any it is steady. */
export function editKeys(at: UseAt, setting: string, edit: (keys: readonly Key[]) => Key[] | undefined): void {
  const motion = motionOf(at, setting);
  if (motion?.motion !== 'keys') return;
  const keys = edit(motion.keys);
  setMotion(at, setting, keys && { ...motion, keys });
}

/** Sets a key, and chooses it. A setting that moved in another way moves by keys then. */
export function addKey(at: UseAt, setting: string, seconds: number, value: KeyValue): void {
  const motion = motionOf(at, setting);
  const held = motion?.motion === 'keys' ? motion : undefined;
  const keys = withKey(held?.keys ?? [], seconds, value);
  setMotion(at, setting, { ...held, motion: 'keys', keys });
  const found = keys.findIndex((key) => Math.abs(key.at - seconds) < 0.002);
  chooseKey(found < 0 ? null : found);
}

export function removeKey(at: UseAt, setting: string, i: number): void {
  chooseKey(null);
  editKeys(at, setting, (keys) => withoutKey(keys, i));
}
