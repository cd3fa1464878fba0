import type { Engine } from '../engine';
import type { Look } from '../look/look';
import type { FontOutlines } from '../text/outlines';
import { captionCorners, type CaptionValues } from '../traits/laid/caption';
import { Score } from './score';
import { workingSize } from './size';

/** A caption of a look, by its place there. */
export interface CaptionAsked {
  readonly life: number;
  readonly index: number;
  /** Picture of the file, and pictures a second. */
  readonly n: number;
  readonly rate: number;
  readonly width: number;
  readonly height: number;
}

/** Corners of a caption's text in shares of the picture the look shows (without bars), clockwise from the upper left; none where it is not seen. */
export function captionPlace(engine: Engine, look: Look, asked: CaptionAsked, fonts: Readonly<Record<string, FontOutlines>>): (readonly [number, number])[] {
  const score = new Score(engine, look, { rate: asked.rate, size: asked });
  const live = score.at(asked.n).live.find(({ use }) => use.life === asked.life && use.index === asked.index);
  const settings = live?.settings as CaptionValues | undefined;
  const outlines = settings && fonts[settings.font];
  if (!live || live.use.trait.id !== 'caption' || !outlines) return [];
  const { picture, seconds } = live;
  return captionCorners(
    settings,
    outlines,
    { picture, seconds, rate: score.rateOf(live.use) },
    workingSize(live.use, score.out),
    score.out.width / score.out.height,
    engine.kernels,
  );
}
