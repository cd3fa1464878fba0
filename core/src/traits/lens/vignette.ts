import { Blur, WIDTH_TO_SIGMA } from '../../frame/blur';
import { lightOf } from '../../frame/domain-rows';
import { floatStride, rowAt } from '../../frame/surface';
import { colour, percentOfHeight, readySettings, share, stops } from '../settings';
import { perSettings, trait } from '../trait';

/** A lens that lights its corners less. */
export const vignette = trait({
  id: 'vignette',
  act: 'lens',
  name: 'Vignette',
  says: 'The lens lights the corners less than the middle.',
  domain: 'linear',
  settings: {
    amount: stops({ name: 'Amount', says: 'Stops that the corners lose', default: 0.8, max: 5 }),
    reach: share({ name: 'Reach', says: 'How far from the corners toward the middle it comes', default: 0.75, min: 0.05 }),
    colour: colour({ name: 'Colour', says: 'That the corners go to; black takes light alone', default: [0, 0, 0] }),
    blur: percentOfHeight({ name: 'Blur', says: 'Half the width of a point’s image at half its height, in the corners', default: 0, max: 5, step: 0.01 }),
    round: share({ name: 'Roundness', says: '1 is a circle, 0 an ellipse of the shape of the picture', default: 0.6 }),
  },
  footprint: (s) => (s.blur > 0 ? 'area' : 'point'),
  idle: (s) => s.amount === 0 && s.blur === 0,
  presets: readySettings({ amount: 0.35 }, { amount: 2.6, reach: 0.5 }),
  prepare({ engine, units, store, own }) {
    const k = engine.kernels;
    const { width, height } = units;
    const [gains, row] = [store(), store()];
    // Both the circle and the ellipse go through the corners.
    const circle = Math.sqrt(width * width + height * height) / 2;
    const through = (side: number, round: number): number => round * circle + (1 - round) * (side / Math.SQRT2);
    const blur = own(new Blur(engine, width, height));
    const corners = store();
    let weighed: { readonly of: object; readonly columns: number } | undefined;
    /** How far toward the corners each pixel lies: the same for all planes, and until a setting changes. */
    const weightsOf = (s: { reach: number; round: number }, columns: number, rows: number, stride: number): number => {
      const at = corners.at(stride * rows);
      if (weighed?.of === s && weighed.columns === columns) return at;
      weighed = { of: s, columns };
      const [across, down] = [through(width, s.round), through(height, s.round)];
      for (let y = 0; y < rows; y++) {
        const v = ((y + 0.5) / rows - 0.5) * (height / down);
        k.ellipseRow(at + y * stride, columns, (0.5 / columns - 0.5) * (width / across), width / across / columns, v * v, s.reach);
      }
      return at;
    };
    const stride = floatStride(width);
    const half = (height + 1) >> 1;
    const sharesOf = (s: { amount: number; colour: readonly number[] }): number[] => {
      const lost = 1 - k.pow(2, -s.amount);
      return s.colour.map((c) => -lost * (1 - lightOf(k, c)));
    };
    /**
     * How far each pixel of a row goes toward the colour, kept until a setting changes; the lower half mirrors the upper one. Toward a grey, which goes the same way
     * in all three, it is what is left of the light.
     */
    const rowsOf = perSettings((s: { reach: number; round: number; amount: number; colour: readonly number[] }) => {
      const shares = sharesOf(s);
      const even = shares.every((share) => share === shares[0]);
      const at = gains.at(half * stride);
      const [across, down] = [through(width, s.round), through(height, s.round)];
      const made = new Uint8Array(half);
      const rowOf = (y: number): number => {
        const n = Math.min(y, height - 1 - y);
        const place = at + n * stride;
        if (made[n]) return place;
        const v = (n + 0.5 - height / 2) / down;
        k.ellipseRow(place, width, (0.5 - width / 2) / across, 1 / across, v * v, s.reach);
        if (even) k.affineRow(place, width, shares[0]!, 1);
        made[n] = 1;
        return place;
      };
      return { shares, even, rowOf };
    });

    return ({ surface, settings: s, spare, swap }) => {
      if (s.blur > 0) {
        for (let plane = 0; plane < 3; plane++) {
          blur.runVarying(spare[plane]!, surface.planes[plane]!, surface.stride, 0, (2 * s.blur) / WIDTH_TO_SIGMA, (columns, rows, stride) => weightsOf(s, columns, rows, stride));
          swap(plane);
        }
      }
      if (s.amount === 0) return;
      const { shares, even, rowOf } = rowsOf(s);
      const gain = row.at(stride);
      for (let y = surface.top; y < surface.bottom; y++) {
        const made = rowOf(y);
        for (let plane = 0; plane < 3; plane++) {
          if (!even) {
            k.copy(gain, made, width * 4);
            k.affineRow(gain, width, shares[plane]!, 1);
          }
          k.timesRow(rowAt(surface, plane, y), even ? made : gain, width);
        }
      }
    };
  },
});
