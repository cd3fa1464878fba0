import { composes } from '../look/composes';
import type { ResolvedUse } from '../look/resolve';

/** Up to so many MHz of luma the shorter of the two filters between a picture and a line raster is as flat as the longer one, within 0.1 dB. */
const NARROW_MHZ = 3.6;

/** Whether a use holds luma below that, always and all over. */
const narrows = ({ trait, use, values, strength }: ResolvedUse): boolean => {
  const limit = trait.limits?.(values as never);
  if (limit?.name !== 'luma' || limit.megahertz > NARROW_MHZ) return false;
  return !use.when && Object.keys(use.motions ?? {}).length === 0 && !composes(use, strength);
};

/** Lives of a look whose luma ends far below what their raster could hold: on the way into it and out of it nothing finer need be kept. */
export const narrowLives = (uses: readonly ResolvedUse[]): ReadonlySet<number> => new Set(uses.filter(narrows).map(({ life }) => life));
