import { actOf, carrierById, traitById, type Look, type Setting, type TraitUse } from '@tin-ghost/core';

import type { Work } from './keeper';
import { shownVersion } from './versions';
import { ACT_NAMES } from '../../messages/acts';
import { texts } from '../../messages/state';

const nameOf = (use: TraitUse): string => use.name ?? traitById(use.trait)?.name ?? use.trait;
const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);
const share = (v: number | undefined): string => `${Math.round((v ?? 1) * 100)} %`;

/** A value as its card has it. */
function valueWords(setting: Setting | undefined, value: unknown): string {
  if (value === undefined) return texts.default;
  if (typeof value === 'boolean') return value ? texts.on : texts.off;
  if (typeof value === 'number') return `${Math.round(value * 1000) / 1000}${setting?.kind === 'number' && setting.sign ? ` ${setting.sign}` : ''}`;
  if (setting?.kind === 'choice' && typeof value === 'string') return (setting.options as Record<string, string>)[value] ?? value;
  return typeof value === 'string' && value.length < 24 ? value : '';
}

/** What differs in a trait. */
function traitWords(before: TraitUse, after: TraitUse): string {
  const name = nameOf(after);
  if ((before.on ?? true) !== (after.on ?? true)) return after.on === false ? texts.nameOff(name) : texts.nameOn(name);
  if (before.name !== after.name) return texts.nameRenamed(nameOf(before), name);
  if (before.strength !== after.strength) return texts.strengthOf(name, share(after.strength));
  const keys = new Set([...Object.keys(before.settings ?? {}), ...Object.keys(after.settings ?? {})]);
  const changed = [...keys].filter((key) => !same(before.settings?.[key], after.settings?.[key]));
  if (changed.length === 1) {
    const setting = (traitById(after.trait)?.settings as Record<string, Setting> | undefined)?.[changed[0]!];
    return `${name}: ${setting?.name ?? changed[0]} ${valueWords(setting, after.settings?.[changed[0]!])}`.trim();
  }
  if (changed.length > 1) return texts.settingsOf(name, changed.length);
  if (!same(before.motions, after.motions)) return texts.motionOf(name);
  if (!same(before.events, after.events)) return texts.eventsOf(name);
  if (!same(before.zone, after.zone)) return texts.whereItActs(name);
  if (!same(before.when, after.when)) return texts.whenItActs(name);
  if (actOf(before) !== actOf(after)) return texts.movedToAct(name, ACT_NAMES[actOf(after)]);
  return name;
}

/** What differs in the traits of a life. */
function traitsWords(before: readonly TraitUse[], after: readonly TraitUse[]): string {
  const has = (list: readonly TraitUse[], use: TraitUse): boolean => list.some((one) => same(one, use));
  const [gone, come] = [before.filter((use) => !has(after, use)), after.filter((use) => !has(before, use))];
  if (gone.length === 0 && come.length === 0) return texts.orderOfTraits;
  if (gone.length === 0) return come.length === 1 ? texts.nameAdded(nameOf(come[0]!)) : texts.traitsAdded(come.length);
  if (come.length === 0) return gone.length === 1 ? texts.nameRemoved(nameOf(gone[0]!)) : texts.traitsRemoved(gone.length);
  const [one, other] = [gone[0]!, come[0]!];
  return gone.length === 1 && come.length === 1 && one.trait === other.trait ? traitWords(one, other) : texts.traitsChanged(come.length);
}

function lookWords(before: Look, after: Look): string {
  if (before.lives.length !== after.lives.length && before.name === after.name) return after.lives.length > before.lives.length ? texts.lifeAdded : texts.lifeRemoved;
  const changed = after.lives.map((_, i) => i).filter((i) => !same(before.lives[i], after.lives[i]));
  if (before.name !== after.name && (changed.length > 0 || before.lives.length !== after.lives.length)) return texts.lookPutOn(after.name);
  if (before.name !== after.name) return texts.lookNamedName(after.name);
  if (before.seed !== after.seed && changed.length === 0) return texts.seed(after.seed);
  if (before.shape !== after.shape) return texts.shapeOfPicture;
  if (changed.length !== 1) return texts.look;
  const [was, is] = [before.lives[changed[0]!]!, after.lives[changed[0]!]!];
  return was.carrier !== is.carrier ? texts.onName(carrierById(is.carrier)?.name ?? is.carrier) : traitsWords(was.traits, is.traits);
}

const PREPARED: Record<string, string> = {
  trim: texts.trim,
  speed: texts.speed,
  between: texts.frameBlending,
  curve: texts.inputColour,
  primaries: texts.inputColour,
  table: texts.inputColour,
  shape: texts.shape,
  framing: texts.framing,
  moves: texts.framing,
  mirror: texts.mirror,
  quarter: texts.quarterTurn,
  beyond: texts.blackEdges,
};

/** What was done between two states of a shot, in a few words. */
export function changeWords(before: Work, after: Work): string {
  if (!same(before.versions, after.versions)) {
    if (before.versions.length !== after.versions.length) return after.versions.length > before.versions.length ? texts.versionAdded(after.look.name) : texts.versionRemoved;
    if (shownVersion(before) !== shownVersion(after)) return texts.versionNameShown(after.look.name);
  }
  if (!same(before.preparation, after.preparation)) {
    const keys = [...new Set([...Object.keys(before.preparation), ...Object.keys(after.preparation)])] as (keyof Work['preparation'])[];
    const key = keys.find((one) => !same(before.preparation[one], after.preparation[one]));
    return (key && PREPARED[key]) ?? texts.shot;
  }
  return lookWords(before.look, after.look);
}
