import { median } from './clock.mjs';

const VIDEO = { layout: 'yuv', bits: 8, subX: 1, subY: 1, matrix: 'bt709', range: 'limited' };

/** A look on a picture that stands still. @returns { wear, dispose }: `wear()` makes the next picture */
export function setPlan(core, engine, look, [width, height], encoding = VIDEO) {
  const source = { width, height, encoding };
  const codes = new Uint8Array(core.frameBytes(width, height, encoding)).map((_, i) => 60 + (i % 120));
  const frame = core.splitPlanes(codes, width, height, encoding);
  const plan = new core.Plan(engine, look, { source, target: source, rate: 24 });
  let n = 0;
  return { wear: () => plan.render(n++, frame), dispose: () => plan.dispose() };
}

/** Milliseconds a picture, on this thread. */
export function wearTime(core, engine, look, size, encoding) {
  const { wear, dispose } = setPlan(core, engine, look, size, encoding);
  const ms = median(wear, 300);
  dispose();
  return ms;
}

/** How fast the machine is just now: milliseconds of one picture of the home tape at 960x540, 4:2:0 to 4:2:0 at 8 bits, on this thread. */
export const yardstick = async ({ core, media }) => wearTime(core, await media.newEngine(), core.shippedLook('home-tape'), [960, 540]);

/** The yardstick before and after a measurement, in a sentence. */
export const besides = (before, after) =>
  `The machine meanwhile: one picture of home-tape at 960x540 on one thread took ${before.toFixed(1)} ms before and ${after.toFixed(1)} after (see Looks).`;
