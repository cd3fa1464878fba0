import { toast } from 'sonner';
import { carrierById } from '@tin-ghost/core';
import { undo } from '../state/document';
import { texts } from '../../messages/chain';

/** Says what went along when a life was put on another carrier. @param changes one sentence each */
export function tellSwitched(carrier: string, changes: readonly string[]): void {
  if (changes.length) toast(texts.onName(carrierById(carrier)!.name), { description: changes.join(' '), duration: 12_000, action: { label: texts.undo, onClick: undo } });
}
