import { traitById } from '../traits/known';
import type { Act } from '../traits/trait';
import type { TraitUse } from './look';

/** The act a use stands in: its trait's own, unless it was moved. */
export const actOf = (use: TraitUse): Act => use.act ?? traitById(use.trait)!.act;

/** A use in an act; its own act is not written. */
export function inAct({ act: _was, ...use }: TraitUse, act: Act): TraitUse {
  return traitById(use.trait)!.act === act ? use : { ...use, act };
}
