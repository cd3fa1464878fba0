/** What a cut made in another program says of a shot, and what that is of the footage it was found to be. */
import { checkLook } from '../look/check';
import { LookError } from '../look/schema-check';
import type { Look } from '../look/look';
import { SPEED_LIMITS, type Preparation } from '../shot/preparation';
import { checkPreparation } from '../shot/preparation-check';
import { begins, fps, type ClipOrigin, type CutOrigin } from './cut';
import { readTimecode, type CutRate } from './timecode';

/** What is taken of a file: seconds of its own clock from where that begins, timecode, or images. */
export type Taken =
  | { readonly by: 'time'; readonly from: number; readonly seconds: number; /** Of the file's first frame, where it is told. */ readonly begins?: number }
  | { readonly by: 'timecode'; readonly from: string; readonly to: string }
  /** Images of a sequence, counted from its first; `frames` as they are shown. */
  | { readonly by: 'images'; readonly from: number; readonly frames: number };

export interface CutInShot {
  readonly name: string;
  /** Name of its file, without folders, of a sequence of images that of the first; what it is called, where none is told. */
  readonly file: string;
  readonly taken: Taken;
  /** Times as fast as the file; or how many frames of the file a second shows. As fast where neither is told. */
  readonly speed?: number;
  readonly playedAt?: number;
  /** Our own, where the cut came from here. */
  readonly look?: Look;
  readonly preparation?: Preparation;
  /** What goes out again with it. */
  readonly origin?: ClipOrigin;
}

export interface CutIn {
  readonly name: string;
  readonly shots: readonly CutInShot[];
  /** What of the cut cannot be had here, in words, each once. */
  readonly left: readonly string[];
  /** What is not seen here, and goes out again as it came. */
  readonly kept: readonly string[];
  /** What of the whole goes out again with it. */
  readonly origin?: CutOrigin;
}

/** Footage that a shot of a cut is of. */
export interface FoundFootage {
  readonly rate: CutRate;
  readonly frames: number;
  readonly timecode?: string;
}

export interface PlacedShot {
  readonly preparation: Preparation;
  /** What could not be kept, in words. */
  readonly notes: readonly string[];
}

/** Where what is taken begins and ends, in frames of the footage; not yet held to what there is. */
function rangeOf(taken: Taken, footage: FoundFootage, speed: number): { from: number; to: number } | undefined {
  const { rate, frames } = footage;
  const own = begins(footage);
  if (taken.by === 'timecode') {
    const [from, to] = [readTimecode(taken.from, rate)?.frame, readTimecode(taken.to, rate)?.frame];
    if (from === undefined || to === undefined) return undefined;
    // The file may have lost its timecode, or been counted from its first frame.
    const shift = from >= own && from < own + frames ? own : 0;
    return { from: from - shift, to: to - shift };
  }
  if (taken.by === 'images') return { from: taken.from, to: taken.from + Math.max(1, Math.round(taken.frames * speed)) };
  const at = (seconds: number): number => Math.round(seconds * fps(rate));
  const from = at(taken.from);
  const first = taken.begins !== undefined ? at(taken.begins) : from >= own ? own : 0;
  return { from: from - first, to: from - first + Math.max(1, Math.round(taken.seconds * speed * fps(rate))) };
}

/** What a shot takes of footage that was found for it, held to what the footage has. The rest of the footage stays as handles. */
export function placeShot({ taken, speed, playedAt, preparation = {} }: CutInShot, footage: FoundFootage): PlacedShot {
  const notes: string[] = [];
  const told = speed ?? (playedAt === undefined ? 1 : playedAt / Math.round(fps(footage.rate)));
  let held = Math.min(SPEED_LIMITS[1], Math.max(SPEED_LIMITS[0], Math.abs(told)));
  // Told in tenths of a frame a second: no finer than this is meant.
  if (playedAt !== undefined) held = Math.abs(held - 1) < 0.003 ? 1 : Math.round(held * 1000) / 1000;
  if (told < 0) notes.push('plays backwards there, forwards here');
  else if (told === 0) notes.push('stands still there');
  else if (held !== told && Math.abs(held - told) > 0.003) notes.push(`has a speed of ${told.toFixed(2)} there, ${held} here`);
  const wanted = rangeOf(taken, footage, held);
  let trim: { from: number; to: number } | undefined;
  if (!wanted) notes.push('its timecode is none at the fps of its file, so it is whole');
  else {
    const own = preparation.trim ?? { from: 0, to: footage.frames };
    // A cut tells whole frames of what is shown; ours knows those of the footage.
    if (own.from === wanted.from && Math.abs(own.to - wanted.to) <= Math.max(1, held) && own.to <= footage.frames) wanted.to = own.to;
    const from = Math.min(Math.max(0, wanted.from), footage.frames - 1);
    const to = Math.min(footage.frames, Math.max(from + 1, wanted.to));
    if (from !== wanted.from || to !== wanted.to) notes.push(`goes beyond its file by ${Math.max(from - wanted.from, 0) + Math.max(wanted.to - to, 0)} frames, which it loses`);
    trim = from === 0 && to === footage.frames ? undefined : { from, to };
  }
  const { trim: _trim, speed: _speed, ...kept } = preparation;
  return { preparation: { ...kept, ...(trim && { trim }), ...(held !== 1 && { speed: held }) }, notes };
}

/** A look and a preparation that came with a cut, as far as they are right; what is wrong is left out and told. */
export function ourOwn(value: unknown, name: string, left: Set<string>): Pick<CutInShot, 'look' | 'preparation'> {
  if (typeof value !== 'object' || value === null) return {};
  const { look, preparation } = value as { look?: unknown; preparation?: unknown };
  const read = <T>(one: unknown, check: (value: unknown) => T, what: string): T | undefined => {
    if (one === undefined) return undefined;
    try {
      return check(one);
    } catch (error) {
      if (!(error instanceof LookError)) throw error;
      left.add(`the ${what} of ${name}, which is not right: ${error.message}`);
      return undefined;
    }
  };
  const [checkedLook, checkedPreparation] = [read(look, checkLook, 'look'), read(preparation, checkPreparation, 'preparation')];
  return { ...(checkedLook && { look: checkedLook }), ...(checkedPreparation && { preparation: checkedPreparation }) };
}
