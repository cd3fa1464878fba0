import { cubicTaps, Resampler, whole } from '../../../frame/resample';
import { perSettings, type Beside, type Pass, type Setup } from '../../trait';
import type { GateSettings, settings } from './settings';

/** What has been stands above the picture, what comes next below. */
export const [BEFORE, AFTER]: [Beside, Beside] = [-1, 1];

/** The pictures of the film: the one that is due, those above it and those below, as far as the frame reaches. @returns what shows them, moved by x and y from their place */
export function pictures({ engine, units: { width, height }, own }: Setup, pitchOf: (s: GateSettings) => number): (pass: Pass<typeof settings>, x: number, y: number) => void {
  const resampler = own(new Resampler(engine, width, height));
  const aim = perSettings((s: GateSettings, x: number, y: number) => {
    const [left, top] = [(width * (1 - s.scale)) / 2 + x, (height * (1 - s.scale)) / 2 + y];
    resampler.aim(cubicTaps(width, -left / s.scale, 1 / s.scale), cubicTaps(height, -top / s.scale, 1 / s.scale));
  });

  return ({ surface, settings: s, spare, swap, beside }, x, y) => {
    const { stride: wide } = surface;
    const pitch = pitchOf(s);
    const down = Math.floor(y);
    aim(s, x, y - down);
    const [left, top] = [(width * (1 - s.scale)) / 2 + x, (height * (1 - s.scale)) / 2 + y - down];
    const [first, last] = [Math.round(top), Math.round(top + height * s.scale)];
    const [fromLeft, toRight] = [Math.max(0, Math.round(left)), Math.min(width, Math.round(left + width * s.scale))];
    const most = Math.ceil((height + Math.abs(down)) / pitch);
    for (let plane = 0; plane < 3; plane++) {
      const base = s.colour[plane]!;
      const samples = engine.floats(spare[plane]!, (wide / 4) * height);
      const bare = (fromRow: number, toRow: number): void => void samples.fill(base, (fromRow * wide) / 4, (toRow * wide) / 4);
      // From the picture that stands highest down.
      let shown = 0;
      for (let above = most; above >= -most; above--) {
        const at = (above > 0 ? beside(BEFORE) : above < 0 ? beside(AFTER) : surface.planes)[plane]!;
        const [from, to] = [Math.max(first, above * pitch - down), Math.min(last, height + above * pitch - down)];
        if (from >= to) continue;
        const row = from + down - above * pitch;
        bare(shown, row);
        resampler.runFrom(spare[plane]! + row * wide, wide, whole(at, wide, height), from, to);
        shown = row + to - from;
      }
      bare(shown, height);
      for (let row = 0, at = 0; row < height; row++, at += wide / 4) samples.fill(base, at, at + fromLeft).fill(base, at + toRight, at + width);
    }
    for (let plane = 0; plane < 3; plane++) swap(plane);
  };
}
