import { AS_SHOT, preparedFrames, type Need, type Preparation, type RawFrame, type Score, type ScoredShot } from '@tin-ghost/core';
import { decode, type DecodeOptions } from './decode';
import { rateValue, type Footage, type Rate } from './footage';

/** Pictures of the print, where the prepared shot is shown at `rate`. */
export const framesAt = (footage: Footage, rate: Rate, preparation: Preparation = AS_SHOT): number =>
  Math.max(1, Math.round((preparedFrames(footage.frames, preparation) * rateValue(rate)) / rateValue(footage.rate)));

/** The footage as a score asks for its pictures, where the prepared shot is shown at `rate`. */
export const scoredShot = (footage: Footage, rate: Rate = footage.rate, preparation: Preparation = AS_SHOT): ScoredShot => ({
  frames: footage.frames,
  step: [rate.den * footage.rate.num, rate.num * footage.rate.den],
  preparation,
});

/** What a picture of the print is made from: what is needed, and the footage's pictures by their numbers. */
export interface Made {
  readonly n: number;
  readonly needs: readonly Need[];
  readonly frames: ReadonlyMap<number, RawFrame>;
}

/** The pictures of the print with what a score asks for; what is needed again is copied, since whoever renders takes the memory over. */
export async function* retimed(
  footage: Footage,
  score: Score,
  shot: ScoredShot,
  from: number,
  to: number,
  { memory, signal }: Pick<DecodeOptions, 'memory' | 'signal'>,
): AsyncGenerator<Made> {
  const asked = new Map<number, Need[]>();
  const needs = (n: number): Need[] => {
    const known = asked.get(n) ?? score.needs(n, shot);
    asked.set(n, known);
    return known;
  };
  const footagePictures = (n: number): number[] => needs(n).flatMap(({ parts }) => parts.map(({ picture }) => picture));
  /** The first picture of the footage that any picture of the print from `n` on may need. */
  const firstFrom = (n: number): number => score.need(score.sourceWindow(n).first, shot).parts[0]!.picture;
  const first = firstFrom(from);
  const last = score.need(score.sourceWindow(to - 1).last, shot).parts.at(-1)!.picture;
  const held = new Map<number, RawFrame>();
  const decoded = decode(footage, { from: first, to: last + 1, memory, signal });
  let at = first;
  try {
    for (let n = from; n < to; n++) {
      const [needed, still] = [firstFrom(n), n + 1 < to ? firstFrom(n + 1) : Infinity];
      for (const picture of held.keys()) if (picture < needed) held.delete(picture);
      while (at <= Math.max(...footagePictures(n))) {
        const { value } = await decoded.next();
        if (!value) break;
        held.set(at++, value);
      }
      /** Whether one of the next pictures needs a picture of the footage; none after the window does. */
      const again = (picture: number): boolean => {
        if (picture < still) return false;
        for (let m = n + 1; m < to && firstFrom(m) <= picture; m++) if (footagePictures(m).includes(picture)) return true;
        return false;
      };
      const frames = new Map<number, RawFrame>();
      for (const picture of footagePictures(n)) {
        const frame = held.get(picture)!;
        if (!frames.has(picture)) frames.set(picture, again(picture) ? { ...frame, planes: frame.planes.map((p) => p.slice()) } : frame);
      }
      yield { n, needs: needs(n), frames };
      asked.delete(n);
    }
  } finally {
    await decoded.return();
  }
}
