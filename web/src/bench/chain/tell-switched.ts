import { toast } from 'sonner';
import { carrierById } from '@tin-ghost/core';
import { undo } from '../state/document';

/** Says what went along when a life was put on another carrier. @param changes one sentence each */
export function tellSwitched(carrier: string, changes: readonly string[]): void {
  if (changes.length) toast(`On ${carrierById(carrier)!.name}`, { description: changes.join(' '), duration: 12_000, action: { label: 'Undo', onClick: undo } });
}
