import { toast } from 'sonner';
import { LOOK_LIMITS, traitById, type Act, type TraitUse } from '@tin-ghost/core';
import { useClipboard } from '../state/clipboard';
import { changeLook, useDocument } from '../state/document';
import { pasteUses } from '../state/life-edits';
import { removeUse, traitUseAt, type UseAt } from '../state/look-edits';
import { noteWithUndo } from '../state/undo-note';
import { texts } from '../../messages/chain';

/** Removes a trait and says so, with the way back. */
export function removeTold(at: UseAt): void {
  const { look } = useDocument.getState();
  const use = traitUseAt(look, at);
  if (!use) return;
  changeLook(removeUse(look, at), null);
  noteWithUndo(texts.nameRemoved(use.name ?? traitById(use.trait)!.name));
}

/** Puts copies of traits into a life, says which found no room, and opens the card of the last. @param after, into as in `pasteUses` */
export function pasteInto(life: number, uses: readonly TraitUse[], after: UseAt | null, into?: Act): void {
  const { look } = useDocument.getState();
  const over = look.lives[life]!.traits.length + uses.length - LOOK_LIMITS.traits;
  if (over > 0) toast.error(texts.tooManyTraits(LOOK_LIMITS.traits, over, uses.length));
  if (over >= uses.length) return;
  const pasted = pasteUses(look, life, uses, after, into);
  changeLook(pasted.look, pasted.at);
}

/** As `pasteInto`, of what was copied last. */
export function pasteCopied(life: number, after: UseAt | null, into?: Act): void {
  const { uses } = useClipboard.getState();
  if (uses) pasteInto(life, uses, after, into);
}
