import { cubicTaps, Resampler } from '../../frame/resample';
import { bellTaps, WIDTH_TO_SIGMA } from '../../frame/blur';
import { rowAt, type Surface } from '../../frame/surface';
import { degrees, percent, percentOfWidth, readySettings } from '../settings';
import { perSettings, trait, type Values } from '../trait';

const shift = (name: string, value: number) => percentOfWidth({ name, says: 'Shift in hundredths of the width of the picture', default: value, min: -5, max: 5 });
const scale = (name: string) => percent({ name, says: 'Size of this colour’s picture about the middle; 100 is as it was', default: 100, min: 90, max: 110 });

const blur = (name: string) => percentOfWidth({ name, says: 'Width of the smear across, at half its height', default: 0, max: 4 });

const settings = {
  redAcross: shift('Red across', 0.12),
  redDown: shift('Red down', 0),
  redScale: scale('Red size'),
  greenAcross: shift('Green across', 0),
  greenDown: shift('Green down', 0),
  greenScale: scale('Green size'),
  blueAcross: shift('Blue across', -0.12),
  blueDown: shift('Blue down', 0),
  blueScale: scale('Blue size'),
  redBlur: blur('Red blur'),
  greenBlur: blur('Green blur'),
  blueBlur: blur('Blue blur'),
  distance: percentOfWidth({ name: 'Apart', says: 'Red so far one way and blue as far the other, on top of their own shifts', default: 0, max: 5 }),
  angle: degrees({ name: 'Angle', says: 'Which way red goes; 0 to the right, 90 down', default: 0, min: -180, max: 180, step: 1 }),
};

interface Move {
  readonly across: number;
  readonly down: number;
  readonly scale: number;
  /** Width of the smear. */
  readonly blur: number;
}

/** How each colour is moved. @param k gives sine and cosine; without it only whether it is moved at all is of account */
function moves(s: Values<typeof settings>, k: { sin(x: number): number; cos(x: number): number } = UNTURNED): Move[] {
  const [x, y] = s.distance === 0 ? [0, 0] : [s.distance * k.cos(s.angle), s.distance * k.sin(s.angle)];
  return [
    { across: s.redAcross + x, down: s.redDown + y, scale: s.redScale, blur: s.redBlur },
    { across: s.greenAcross, down: s.greenDown, scale: s.greenScale, blur: s.greenBlur },
    { across: s.blueAcross - x, down: s.blueDown - y, scale: s.blueScale, blur: s.blueBlur },
  ];
}
/** As if it went both ways at once. */
const UNTURNED = { sin: () => 1, cos: () => 1 };

/** Shorter shifts than this (in pixels) change no 16-bit code and are left out. */
const NOTHING = 1e-6;
const rests = (m: Move): boolean => Math.abs(m.across) < NOTHING && Math.abs(m.down) < NOTHING && Math.abs(m.scale - 1) < NOTHING;
const alongRow = (m: Move): boolean => Math.abs(m.down) < NOTHING && Math.abs(m.scale - 1) < NOTHING;

/**
 * Red, green and blue out of register, each by a shift and a scale of its own. Sub-pixel by the Catmull-Rom cubic; the
 * picture's edge is continued where a shift bares it.
 */
export const channelOffset = trait({
  id: 'channel-offset',
  act: 'stock',
  name: 'Channel offset',
  says: 'Red, green and blue do not line up.',
  domain: 'rgb',
  settings,
  footprint: (s) => (moves(s).every(alongRow) ? 'line' : 'area'),
  idle: (s) => moves(s).every((m) => rests(m) && m.blur === 0),
  presets: readySettings({ redAcross: 0.05, blueAcross: -0.05 }, { redAcross: 0.8, redDown: 0.1, blueAcross: -0.7, blueDown: -0.15 }),
  prepare({ engine, units, footprint, store, own }) {
    const k = engine.kernels;
    const { width, height } = units;
    const [bells, smeared] = [[0, 1, 2].map(() => store()), store()];
    const smears = perSettings((s: Values<typeof settings>) =>
      moves(s, k).flatMap(({ blur: wide }, plane) => {
        if (wide === 0) return [];
        const taps = bellTaps(wide / WIDTH_TO_SIGMA, k.exp);
        return [{ plane, taps: bells[plane]!.floats(taps), count: taps.length, row: smeared.at((width + 2 * taps.length + 64) * 4) }];
      }),
    );
    const smear = (surface: Surface, s: Values<typeof settings>): void => {
      for (const { plane, taps, count, row } of smears(s)) {
        for (let y = surface.top; y < surface.bottom; y++) {
          const at = rowAt(surface, plane, y);
          k.padRow(row, at, width, count >> 1);
          k.firRow(at, row, width, taps, count);
        }
      }
    };
    if (footprint === 'line') {
      const weights = [0, 1, 2].map(() => store());
      const padded = store();
      const ofSettings = perSettings((s: Values<typeof settings>) => {
        const shifts = moves(s, k).flatMap((m, plane) => {
          if (rests(m)) return [];
          // Every sample of the row has the same weights, so one filter serves for all.
          const one = cubicTaps(1, -m.across, 1);
          return [{ plane, start: one.starts[0]!, taps: one.taps, weights: weights[plane]!.floats(one.weights) }];
        });
        const pad = Math.max(0, ...shifts.map((m) => Math.abs(m.start))) + 8;
        return { shifts, pad, padded: padded.at((width + 2 * pad + 16) * 4) };
      });
      return ({ surface, settings: s }) => {
        const { shifts, pad, padded: row } = ofSettings(s);
        for (const m of shifts) {
          for (let y = surface.top; y < surface.bottom; y++) {
            const at = rowAt(surface, m.plane, y);
            k.padRow(row, at, width, pad);
            k.firRow(at, row + (pad + m.start) * 4, width, m.weights, m.taps);
          }
        }
        smear(surface, s);
      };
    }
    const resamplers = [0, 1, 2].map(() => own(new Resampler(engine, width, height)));
    const ofSettings = perSettings((s: Values<typeof settings>) =>
      moves(s, k).map((m, plane) => {
        if (rests(m)) return null;
        // Target x shows the source at (x + 1/2 - middle - across) / scale + middle.
        const across = cubicTaps(width, (-width / 2 - m.across) / m.scale + width / 2, 1 / m.scale);
        const down = cubicTaps(height, (-height / 2 - m.down) / m.scale + height / 2, 1 / m.scale);
        resamplers[plane]!.aim(across, down);
        return resamplers[plane]!;
      }),
    );
    return (pass) => {
      ofSettings(pass.settings).forEach((resampler, plane) => {
        if (!resampler) return;
        resampler.run(pass.spare[plane]!, pass.surface.stride, pass.surface.planes[plane]!, pass.surface.stride);
        pass.swap(plane);
      });
      smear(pass.surface, pass.settings);
    };
  },
});
