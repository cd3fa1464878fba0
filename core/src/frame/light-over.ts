import type { Kernels } from '../engine';
import { LUMA_WEIGHTS } from './encoding';
import { rowAt, type Surface } from './surface';

const { kr, kb } = LUMA_WEIGHTS.bt709;

/**
 * Planes of what of a picture's luminance lies over thresholds, with a soft knee of a share of each.
 * @param over address of each plane (rows as the surface's) and its threshold
 */
export function lightOver(k: Kernels, over: readonly { readonly at: number; readonly from: number }[], surface: Surface, knee: number): void {
  const { stride, width } = surface;
  const first = over[0]!.at;
  for (let y = 0; y < surface.height; y++) {
    const luma = first + y * stride;
    k.lumaRow(luma, rowAt(surface, 0, y), rowAt(surface, 1, y), rowAt(surface, 2, y), width, kr, kb);
    for (const { at } of over.slice(1)) k.copy(at + y * stride, luma, width * 4);
    for (const { at, from } of over) k.kneeRow(at + y * stride, width, from, from * knee);
  }
}
