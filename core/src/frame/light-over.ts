import type { Kernels, Store } from '../engine';
import { LUMA_WEIGHTS } from './encoding';
import { floatStride, rowAt, type Surface } from './surface';

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

/**
 * As `lightOver`, at half the size: means of two by two.
 * @param over address of each plane, whose rows are as far apart as those of half the width are, and its threshold @param rows for two rows of the surface
 */
export function lightOverHalved(k: Kernels, over: readonly { readonly at: number; readonly from: number }[], surface: Surface, knee: number, rows: Store): void {
  const { width, height } = surface;
  const wide = (width + 1) >> 1;
  const stride = floatStride(wide);
  const wider = floatStride(width + 8);
  const first = rows.at(2 * wider);
  const next = first + wider;
  for (let y = 0; 2 * y < height; y++) {
    // The last row and column of an odd number of them stand for their neighbour.
    for (const [row, at] of [
      [2 * y, first],
      [Math.min(2 * y + 1, height - 1), next],
    ] as const) {
      k.lumaRow(at, rowAt(surface, 0, row), rowAt(surface, 1, row), rowAt(surface, 2, row), width, kr, kb);
      k.copy(at + 4 * width, at + 4 * (width - 1), 4);
    }
    for (const { at, from } of over) k.halveOverRow(at + y * stride, first, next, wide, from, from * knee);
  }
}
