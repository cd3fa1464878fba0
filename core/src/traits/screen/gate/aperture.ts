import { floatStride, rowAt, type Surface } from '../../../frame/surface';
import { perSettings, type Setup } from '../../trait';
import { BURR_MOST, burr, inside, outside } from './edge';
import type { GateSettings } from './settings';

// Taken once: in hot loops each look-up of a global costs.
const { abs, ceil, floor, max, min } = Math;

/** Signal of what the aperture holds back. */
const BLACK = 0.035;

/** The hole through which the film is seen: round corners, and an edge that was filed by hand. @returns what lays it on a picture */
export function aperture({ engine, units: { width, height }, seed, store }: Setup): (surface: Surface, s: GateSettings) => void {
  const k = engine.kernels;
  const mask = store();
  const stride = floatStride(width);

  /** Works out how much of each pixel it holds back, and from which column on and up to which it holds back nothing. */
  const clearOf = perSettings((s: GateSettings) => {
    const dark = engine.floats(mask.at(stride * height), (stride / 4) * height);
    const edge = max(1, s.fuzz);
    // The aperture grows from the picture's own size to all that there is.
    const size = s.scale + s.open * (1.02 - s.scale);
    const shape = s.shape > 0 ? Math.max(0.2, s.shape) : width / height;
    const halfWidth = (Math.min(width, height * shape) / 2) * size;
    const halfHeight = (Math.min(height, width / shape) / 2) * size;
    const corner = s.corner * (1 - 0.5 * s.open);
    // A projector's aperture is a little smaller than the picture, so that its edge is seen where it bends outwards, too.
    const inset = 2 * s.burr * (1 - s.open);
    const burrAt = burr(seed, height, [width / 2, height / 2], halfWidth, halfHeight);
    // So far from the edge that nothing is held back, whatever it is off.
    const clear = min(corner, halfWidth, halfHeight) + inset + edge + BURR_MOST * s.burr;
    const middle = width / 2 + s.across - 0.5;
    const reach = max(0, halfWidth - clear);
    const [first, last] = [max(0, ceil(middle - reach)), min(width, floor(middle + reach) + 1)];
    dark.fill(0);
    return Array.from({ length: height }, (_, y): readonly [number, number] => {
      const row = dark.subarray((y * stride) / 4, (y * stride) / 4 + width);
      const py = y + 0.5 - height / 2;
      const clearFrom = abs(py - s.down) < halfHeight - clear && first < last ? first : -1;
      for (let x = clearFrom === 0 ? last : 0; x < width; x = x + 1 === clearFrom ? last : x + 1) {
        const at = inset + outside(x + 0.5 - width / 2 - s.across, py - s.down, halfWidth, halfHeight, corner);
        const near = abs(at) < edge + BURR_MOST * s.burr ? s.burr * burrAt(x + 0.5 - width / 2 - s.across, py - s.down) : 0;
        row[x] = s.opacity * (1 - inside(at + near, edge));
      }
      let left = 0;
      let right = width;
      while (left < width && row[left]! > 0) left++;
      while (right > left && row[right - 1]! > 0) right--;
      for (let x = left; x < right; x++) if (row[x]! > 0) return [width, width];
      // Rows are laid in groups of four.
      return [(left + 3) & ~3, right & ~3];
    });
  });

  return (surface, s) => {
    const clear = clearOf(s);
    for (let row = 0; row < height; row++) {
      const [from, to] = clear[row]!;
      const cover = mask.at(0) + row * stride;
      for (let plane = 0; plane < 3; plane++) {
        const at = rowAt(surface, plane, row);
        k.layRow(at, cover, from, BLACK, 1);
        if (from < to) k.layRow(at + to * 4, cover + to * 4, width - to, BLACK, 1);
      }
    }
  };
}
