import type { ResolvedUse } from '../look/resolve';

export interface Size {
  readonly width: number;
  readonly height: number;
}

export const sizeKey = ({ width, height }: Size): string => `${width}x${height}`;

/** The size of the picture a use works on: the carrier's raster from Stock to Machine, else that of the result. */
export function workingSize({ act, carrier, trait }: ResolvedUse, out: Size): Size {
  // What happens to lines happens on the raster, wherever it stands.
  if (!carrier.raster || ((act === 'lens' || act === 'screen') && !trait.needs)) return out;
  return { width: carrier.raster.width, height: carrier.raster.height };
}
