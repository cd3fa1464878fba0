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
  const lives: { picture: number; rate: number; shown: number }[] = [];
  let shown = n;
  for (let life = look.lives.length - 1; life >= 0; life--) {
    const holder = uses.find((u) => u.life === life && u.trait.cadence && u.strength > 0);
    const own = holder ? Math.min(rate, holder.trait.cadence!(holder.values)) : rate;
    if (own >= rate) {
      lives.unshift({ picture: shown, rate, shown });
      continue;
    }
    const picture = Math.floor((shown * own) / rate + NEARLY);
    const taken = Math.max(0, Math.ceil((picture * rate) / own - NEARLY));
    lives.unshift({ picture, rate: own, shown });
    shown = Math.min(shown, taken);
  }
  return { source: shown, lives };
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
