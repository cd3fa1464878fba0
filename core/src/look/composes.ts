import type { TraitUse } from './look';

/** Whether a use is laid back over what was under it, rather than simply put in its place. */
export const composes = (use: TraitUse, strength: number): boolean =>
  strength < 1 || (use.blend ?? 'normal') !== 'normal' || (use.zone !== undefined && (use.zone.kind !== 'all' || use.zone.tones !== undefined));
