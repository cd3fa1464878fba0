import { carrierById } from '@tin-ghost/core';
import { noteWithUndo } from '../state/undo-note';
import { texts } from '../../messages/chain';

/** Says what went along when a life was put on another carrier. @param changes one sentence each */
export function tellSwitched(carrier: string, changes: readonly string[]): void {
  if (changes.length) noteWithUndo(texts.onName(carrierById(carrier)!.name), changes.join(' '));
}
