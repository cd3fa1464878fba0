import { toast } from 'sonner';
import { traitById } from '@tin-ghost/core';
import { changeLook, undo, useDocument } from '../state/document';
import { removeUse, traitUseAt, type UseAt } from '../state/look-edits';

/** Removes a trait and says so, with the way back. */
export function removeTold(at: UseAt): void {
  const { look } = useDocument.getState();
  const use = traitUseAt(look, at);
  if (!use) return;
  changeLook(removeUse(look, at), null);
  toast(`${use.name ?? traitById(use.trait)!.name} removed`, { action: { label: 'Undo', onClick: undo } });
}
