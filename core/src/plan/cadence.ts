import type { Look } from '../look/look';
import { resolveLook, type ResolvedUse } from '../look/resolve';

/** Which pictures stand behind a picture of the file. */
export interface Counts {
  /** The file's picture whose footage is shown. */
  readonly source: number;
  /** For each life: the number of the carrier's picture, its rate, and the number its screen counts. */
  readonly lives: readonly { readonly picture: number; readonly rate: number; readonly shown: number }[];
}

/** Guards whole numbers against the last bit of a division; far below a picture even after days. */
const NEARLY = 1e-6;

/**
 * Counts pictures back through the lives: the last life shows the file's pictures; a life that holds pictures at a rate of
 * its own shows its picture floor(n * rate / outer rate), which was taken from the first picture of the outer count at or
 * after its moment. Exact at any length, since nothing is summed up.
 * @param n picture of the file @param rate the file's pictures a second
 */
export function countPictures(look: Look, n: number, rate: number, uses: readonly ResolvedUse[] = resolveLook(look)): Counts {
  return countBack(look.lives.length - 1, n, rate, uses);
}

/** Counts back from the number that the screen of `outermost` counts. */
function countBack(outermost: number, n: number, rate: number, uses: readonly ResolvedUse[]): Counts {
  const lives: { picture: number; rate: number; shown: number }[] = [];
  let shown = n;
  for (let life = outermost; life >= 0; life--) {
    const own = rateOfLife(life, rate, uses);
    const picture = own >= rate ? shown : Math.floor((shown * own) / rate + NEARLY);
    lives.unshift({ picture, rate: own, shown });
    shown = Math.min(shown, takenFrom(picture, own, rate));
  }
  return { source: shown, lives };
}

/** Pictures a second that a life holds: its own where one of its uses holds them, at most the file's. */
function rateOfLife(life: number, rate: number, uses: readonly ResolvedUse[]): number {
  const holder = uses.find((u) => u.life === life && u.trait.cadence && u.strength > 0);
  return holder ? Math.min(rate, holder.trait.cadence!(holder.values)) : rate;
}

/** The number of the outer count from which a life took its picture. */
const takenFrom = (picture: number, own: number, rate: number): number => (own >= rate ? picture : Math.max(0, Math.ceil((picture * rate) / own - NEARLY)));

/**
 * What is counted where a life shows not its picture but the one `offset` pictures on, on the film: what its screen and the lives after it count stays.
 * The first picture has none before it but itself.
 * @param rate the file's pictures a second
 */
export function countBeside(counts: Counts, life: number, offset: number, rate: number, uses: readonly ResolvedUse[]): Counts {
  const here = counts.lives[life]!;
  const picture = Math.max(0, here.picture + offset);
  const inner = countBack(life - 1, takenFrom(picture, here.rate, rate), rate, uses);
  return { source: inner.source, lives: [...inner.lives, { ...here, picture }, ...counts.lives.slice(life + 1)] };
}

/** The picture of the footage (counted at `rate`) that picture `n` of the result shows. */
export const sourcePicture = (look: Look, n: number, rate: number): number => countPictures(look, n, rate).source;

/** Whether a use shows something else on each picture that its screen shows, though the carrier's picture is held. */
const countsOnScreen = ({ act, trait, strength, use }: ResolvedUse): boolean =>
  act === 'screen' && strength > 0 && !(trait.still && !use.when && Object.keys(use.motions ?? {}).length === 0);

/**
 * The first picture of the file that is the same as picture `n` in every pixel, as all that is seen on it is held: `n` itself where no life holds
 * its pictures, or something on a screen goes on meanwhile.
 * @param n picture of the file @param rate the file's pictures a second
 */
export function heldPicture(look: Look, n: number, rate: number, uses: readonly ResolvedUse[] = resolveLook(look)): number {
  const counted = look.lives.map((_, life) => uses.some((use) => use.life === life && countsOnScreen(use)));
  const now = countPictures(look, n, rate, uses);
  let first = n;
  while (first > 0) {
    const before = countPictures(look, first - 1, rate, uses);
    if (before.source !== now.source) break;
    if (before.lives.some((life, i) => life.picture !== now.lives[i]!.picture || (counted[i] && life.shown !== now.lives[i]!.shown))) break;
    first--;
  }
  return first;
}
