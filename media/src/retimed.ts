import { AS_SHOT, footageParts, preparedFrames, type Part, type Plan, type Preparation, type RawFrame } from '@tin-ghost/core';
import { decode } from './decode';
import { rateValue, type Footage, type Rate } from './footage';

/** Pictures of the print, where the prepared shot is shown at `rate`. */
export const framesAt = (footage: Footage, rate: Rate, preparation: Preparation = AS_SHOT): number =>
  Math.max(1, Math.round((preparedFrames(footage.frames, preparation) * rateValue(rate)) / rateValue(footage.rate)));

/**
 * The prepared shot's picture that picture `n` at `rate` shows: the one that stands at its moment.
 * @param between the moment itself, where it lies between two
 */
export function shotPicture(footage: Footage, rate: Rate, n: number, preparation: Preparation = AS_SHOT, between = false): number {
  const at = (n * rate.den * footage.rate.num) / (rate.num * footage.rate.den);
  return Math.min(preparedFrames(footage.frames, preparation) - 1, between ? Math.round(at * 64) / 64 : Math.floor(at + 1e-9));
}

/** The footage's pictures that make the prepared shot's picture which a plan at `rate` counts as `picture`. */
export const partsAt = (footage: Footage, rate: Rate, picture: number, preparation: Preparation = AS_SHOT, between = false): Part[] =>
  footageParts(footage.frames, preparation, shotPicture(footage, rate, picture, preparation, between));

/**
 * The pictures of the print with the shot's pictures that the plan asks for; what is needed again is copied, since whoever renders takes the memory over.
 * @param partsOf the footage's pictures that make a picture of the shot
 */
export async function* retimed(footage: Footage, plan: Plan, partsOf: (picture: number) => Part[], from: number, to: number, signal: AbortSignal) {
  const asked = new Map<number, { picture: number; parts: Part[] }[]>();
  const needs = (n: number): { picture: number; parts: Part[] }[] => {
    const known = asked.get(n) ?? plan.sourcePictures(n).map((picture) => ({ picture, parts: partsOf(picture) }));
    asked.set(n, known);
    return known;
  };
  const footagePictures = (n: number): number[] => needs(n).flatMap(({ parts }) => parts.map(({ picture }) => picture));
  /** The first picture of the footage that any picture of the print from `n` on may need. */
  const firstFrom = (n: number): number => partsOf(plan.sourceWindow(n).first)[0]!.picture;
  const first = firstFrom(from);
  const last = partsOf(plan.sourceWindow(to - 1).last).at(-1)!.picture;
  const held = new Map<number, RawFrame>();
  const decoded = decode(footage, { from: first, to: last + 1, signal });
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
      const taken = new Map<number, RawFrame>();
      const frameOf = (picture: number): RawFrame => {
        const frame = held.get(picture)!;
        if (!taken.has(picture)) taken.set(picture, again(picture) ? { ...frame, planes: frame.planes.map((p) => p.slice()) } : frame);
        return taken.get(picture)!;
      };
      yield { n, pictures: needs(n).map(({ picture, parts }) => ({ picture, parts, frames: parts.map((part) => frameOf(part.picture)) })) };
      asked.delete(n);
    }
  } finally {
    await decoded.return();
  }
}
