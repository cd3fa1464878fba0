import type { Engine } from '../engine';
import type { PlateInfo } from '../frame/plate';
import type { Look } from '../look/look';
import type { FontOutlines } from '../text/outlines';
import { Score } from './score';
import { workingSize } from './size';

/** A use that lays something over the picture, by its place in a look. */
export interface LaidAsked {
  readonly life: number;
  readonly index: number;
  /** Picture of the file, and pictures a second. */
  readonly n: number;
  readonly rate: number;
  readonly width: number;
  readonly height: number;
}

/** What is at hand of other files. */
export interface LaidFiles {
  readonly fonts?: Readonly<Record<string, FontOutlines>>;
  readonly plates?: Readonly<Record<string, PlateInfo>>;
}

/** Corners of what is laid over a picture, in shares of what the look shows (without bars), clockwise from the upper left one; none where it is not seen. */
export function laidPlace(engine: Engine, look: Look, asked: LaidAsked, { fonts, plates }: LaidFiles): (readonly [number, number])[] {
  const score = new Score(engine, look, { rate: asked.rate, size: asked, plates });
  const live = score.at(asked.n).live.find(({ use }) => use.life === asked.life && use.index === asked.index);
  if (!live) return [];
  const { use, settings, picture, seconds } = live;
  const corners = use.trait.corners?.({
    settings,
    picture,
    seconds,
    rate: score.rateOf(use),
    shape: score.out.width / score.out.height,
    size: workingSize(use, score.out),
    kernels: engine.kernels,
    font: (id) => fonts?.[id],
    plate: (id) => plates?.[id],
  });
  return [...(corners ?? [])];
}
