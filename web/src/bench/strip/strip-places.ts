import type { Source } from '../../render/protocol';

/** Runs of pictures that are ready, as from and to. */
export function runsOf(frames: ReadonlySet<number>): { from: number; to: number }[] {
  const runs: { from: number; to: number }[] = [];
  for (const n of [...frames].sort((a, b) => a - b)) {
    const last = runs.at(-1);
    if (last && last.to === n) last.to = n + 1;
    else runs.push({ from: n, to: n + 1 });
  }
  return runs;
}

/** The part of the footage that the shot takes, as shares of the footage. @param frames of the footage */
export function takenPart(frames: number, { preparation, frames: shown }: Pick<Source, 'preparation' | 'frames'>): { from: number; to: number } {
  // A speed that does not go up leaves a rest of the trim unshown.
  const from = preparation.trim?.from ?? 0;
  return { from: from / frames, to: (from + shown * (preparation.speed ?? 1)) / frames };
}

/** Seconds between marks of a ruler, from a frame up. */
const STEPS = [1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1800, 3600];
const MOST_MARKS = 14;

/** The marks of a ruler over a part of the shot. @param from, to in seconds @param rate frames a second */
export function rulerMarks(from: number, to: number, rate: number): { seconds: number; text: string }[] {
  const inFrames = [1, 2, 5, 10].map((frames) => frames / rate).filter((s) => s < 1);
  const every = [...inFrames, ...STEPS].find((s) => (to - from) / s <= MOST_MARKS) ?? STEPS.at(-1)!;
  const marks = [];
  for (let i = Math.ceil(from / every - 1e-9); i * every < to; i++) marks.push({ seconds: i * every, text: markText(i * every, every, rate, to >= 60) });
  return marks;
}

function markText(seconds: number, every: number, rate: number, minutes: boolean): string {
  const frames = Math.round(seconds * rate);
  const whole = Math.floor(seconds + 1e-6);
  const rest = every < 1 ? `:${String(Math.round(frames - whole * rate)).padStart(2, '0')}` : '';
  if (!minutes) return rest ? `${whole}${rest}` : `${whole} s`;
  const two = (n: number): string => String(n).padStart(2, '0');
  const clock = whole >= 3600 ? `${Math.floor(whole / 3600)}:${two(Math.floor(whole / 60) % 60)}` : `${Math.floor(whole / 60)}`;
  return `${clock}:${two(whole % 60)}${rest}`;
}

/** How near a hand must come to a mark to be held by it, in pixels. */
const SNAP = 6;

/** A moment, or that of the marks which is so near that it is meant. @param perPixel of the moments' unit in a pixel */
export function snapped(moment: number, marks: readonly number[], perPixel: number): number {
  let best = moment;
  let near = SNAP * perPixel;
  for (const mark of marks) {
    const off = Math.abs(mark - moment);
    if (off <= near) [best, near] = [mark, off];
  }
  return best;
}
