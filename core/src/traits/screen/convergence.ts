import { cubicTaps, Resampler } from '../../frame/resample';
import { percentOfWidth, readySettings, share } from '../settings';
import { perSettings, trait, type Values } from '../trait';

const shift = (name: string, value: number) =>
  percentOfWidth({ name, says: 'How far this beam misses green, measured in the corners for its part there', default: value, min: -3, max: 3 });

const settings = {
  redAcross: shift('Red across', 0.12),
  redDown: shift('Red down', 0.04),
  blueAcross: shift('Blue across', -0.1),
  blueDown: shift('Blue down', 0.06),
  corners: share({ name: 'Corners', says: '1 only toward the corners, 0 everywhere alike', default: 0.7 }),
};

/** Three beams that do not meet: red and blue beside green, everywhere or more and more toward the corners. */
export const convergence = trait({
  id: 'convergence',
  act: 'screen',
  still: true,
  name: 'Convergence',
  says: 'The tube’s three beams miss each other, most in the corners.',
  domain: 'rgb',
  settings,
  footprint: 'area',
  idle: (s) => s.redAcross === 0 && s.redDown === 0 && s.blueAcross === 0 && s.blueDown === 0,
  presets: readySettings({ redAcross: 0.05, redDown: 0.02, blueAcross: -0.04, blueDown: 0.02 }, { redAcross: 0.6, redDown: 0.3, blueAcross: -0.5, blueDown: 0.35 }),
  prepare({ engine, units, own }) {
    const { width, height } = units;
    const resamplers = [0, 1].map(() => own(new Resampler(engine, width, height)));
    /** Shift of a sample: in part alike everywhere, in part by how far it is from the middle, with its sign. */
    const taps = (count: number, by: number, corners: number) =>
      // What is drawn larger about the middle by its share is shifted by the whole in the corner.
      cubicTaps(count, by * (2 * corners - 1), 1 - (2 * by * corners) / count);
    const ofSettings = perSettings((s: Values<typeof settings>) =>
      (
        [
          [s.redAcross, s.redDown],
          [s.blueAcross, s.blueDown],
        ] as const
      ).map(([across, down], i) => {
        resamplers[i]!.aim(taps(width, across, s.corners), taps(height, down, s.corners));
        return resamplers[i]!;
      }),
    );
    return ({ surface, settings: s, spare, swap }) => {
      ofSettings(s).forEach((resampler, i) => {
        const plane = 2 * i;
        resampler.run(spare[plane]!, surface.stride, surface.planes[plane]!, surface.stride);
        swap(plane);
      });
    };
  },
});
