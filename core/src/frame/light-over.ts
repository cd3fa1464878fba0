import type { Kernels } from '../engine';
import { LUMA_WEIGHTS } from './encoding';
import { rowAt, type Surface } from './surface';

const { kr, kb } = LUMA_WEIGHTS.bt709;

/** A plane of what of a picture's luminance lies over a threshold, with a soft knee of a share of it. @param dst address of the plane, rows as the surface's */
export function lightOver(k: Kernels, dst: number, surface: Surface, from: number, knee: number): void {
  for (let y = 0; y < surface.height; y++) {
    const row = dst + y * surface.stride;
    k.lumaRow(row, rowAt(surface, 0, y), rowAt(surface, 1, y), rowAt(surface, 2, y), surface.width, kr, kb);
    k.kneeRow(row, surface.width, from, from * knee);
  }
}
