import type { Look } from '../look/look';
import { resolveLook, type ResolvedUse } from '../look/resolve';
import type { Cadence } from '../traits/trait';

/** How pictures are numbered. */
interface Count {
  /** So many a second. */
  readonly rate: number;
  /** They are fields of a raster: each shows what stands at the middle of its time. */
  readonly fields: boolean;
  /** A moment between two pictures of the shot has a picture of its own. */
  readonly between: boolean;
}

/** What is counted of a life. */
export interface LifeCount {
  /** The carrier's picture, and how many of them there are a second. */
  readonly picture: number;
  readonly rate: number;
  /** The number its screen counts, and how. */
  readonly shown: number;
  readonly count: Count;
}

/** Which pictures stand behind a picture of the file. */
export interface Counts {
  /** The prepared shot's picture that is shown; between two where fields have moments of their own. */
  readonly source: number;
  readonly lives: readonly LifeCount[];
}

/** What counting goes by. */
export interface Counting {
  /** The file's pictures a second, which are those of the prepared shot. */
  readonly rate: number;
  readonly uses: readonly ResolvedUse[];
  /** How many pictures further on the film of a life is at one of its pictures, where some were lost. */
  readonly lost?: (life: number, picture: number) => number;
}

/** What is looked at in a life in place of what it shows. */
interface Instead {
  /** Pictures that its screen showed before. */
  readonly earlier?: number;
  /** The carrier's picture, so many on, or this one. */
  readonly offset?: number;
  readonly picture?: number;
  /** The moment of a woven picture's second field in place of its first. */
  readonly second?: boolean;
}

/** Guards whole numbers against the last bit of a division; far below a picture even after days. */
const NEARLY = 1e-6;
/** Moments between two pictures of the shot are told to this part of a picture. */
export const FINEST = 64;

/**
 * Counts pictures back through the lives: the last life shows the file's pictures; a life that holds pictures at a rate of
 * its own shows its picture floor(n * rate / outer rate), which was taken from the first picture of the outer count at or
 * after its moment, or another of those that show it. A life of two fields has the outer pictures' moments twice: what is inside it is counted by fields, each of which shows the
 * picture at its middle, so that 24 a second come to 59.94 as AA BB BC CD DD. Exact at any length, since nothing is summed up.
 * @param n picture of the file
 * @returns counts of the first field where a picture holds two; see `countSecond`
 */
export function countPictures(look: Look, n: number, on: Counting): Counts {
  return countBack(look.lives.length - 1, n, { rate: on.rate, fields: false, between: false }, on);
}

/** Counts back from the number that the screen of `life` counts. */
function countBack(life: number, number: number, count: Count, on: Counting, instead?: (life: number) => Instead): Counts {
  if (life < 0) return { source: sourceOf(number, count, on.rate), lives: [] };
  const { earlier = 0, offset = 0, picture: other, second = false } = instead?.(life) ?? {};
  const shown = Math.max(0, number - earlier);
  const fields = fieldsOf(life, on);
  // What is scanned by fields has no more pictures than the shot.
  const most = count.fields ? Math.min(count.rate, on.rate) : count.rate;
  const held = holding(life, most, on);
  const own = fields ? (fields.woven ? fields.rate / 2 : fields.rate) : held.rate;
  const from = !fields && own >= count.rate ? shown : Math.floor(((shown + middle(count)) * own) / count.rate + NEARLY);
  const picture = Math.max(0, other ?? from + offset);
  const place = Math.max(0, picture + (on.lost?.(life, picture) ?? 0));
  let inner: Counts;
  if (fields) inner = countHeld(life, fields.woven ? 2 * place + (second ? 1 : 0) : place, { rate: fields.rate, fields: true, between: fields.between }, on, instead);
  else {
    const taken = own >= count.rate ? place : takenFrom(place, held, count);
    inner = countBack(life - 1, place === from && held.place === 0 ? Math.min(shown, taken) : taken, count, on, instead);
  }
  return { source: inner.source, lives: [...inner.lives, { picture, rate: own, shown, count }] };
}

/** Counts back from a field whose life also holds pictures: they are held before they are scanned. */
function countHeld(life: number, field: number, count: Count, on: Counting, instead?: (life: number) => Instead): Counts {
  const held = holding(life, count.rate, on);
  const scanned = held.rate >= count.rate ? field : takenFrom(Math.floor(((field + middle(count)) * held.rate) / count.rate + NEARLY), held, count);
  return countBack(life - 1, scanned, count, on, instead);
}

const middle = ({ fields }: Count): number => (fields ? 0.5 : 0);

/** How a life holds pictures: in its own way where one of its uses holds them, at most as many as the outer count has. */
function holding(life: number, outer: number, { uses }: Counting): Cadence {
  const holder = uses.find((u) => u.life === life && u.trait.cadence && u.strength > 0);
  if (!holder) return { rate: outer, place: 0 };
  const { rate, place } = holder.trait.cadence!(holder.values);
  return { rate: Math.min(outer, rate), place };
}

/** How a life's pictures are made of fields, where they are. */
function fieldsOf(life: number, { uses, rate }: Counting): { rate: number; woven: boolean; between: boolean } | undefined {
  const use = uses.find((u) => u.life === life && u.trait.fields && u.strength > 0);
  if (!use) return undefined;
  const { perSecond, ...how } = use.trait.fields!(use.values, use.carrier);
  return { rate: perSecond ?? 2 * rate, ...how };
}

/** The number of the outer count from which a life took its picture, among those that show it. */
function takenFrom(picture: number, { rate, place }: Cadence, count: Count): number {
  const first = (of: number): number => Math.max(0, Math.ceil((of * count.rate) / rate - middle(count) - NEARLY));
  return first(picture) + Math.floor((first(picture + 1) - 1 - first(picture)) * place + 0.5);
}

/** The picture of a shot of `rate` pictures a second that stands at a number of a count. */
function sourceOf(number: number, count: Count, rate: number): number {
  if (!count.fields) return number;
  if (count.between) return Math.round(((number * rate) / count.rate) * FINEST) / FINEST;
  return Math.floor(((number + 0.5) * rate) / count.rate + NEARLY);
}

/** Counts anew from what the screen of a life counts, the lives after it as they are. */
function recount(counts: Counts, life: number, on: Counting, instead: Instead): Counts {
  const { shown, count } = counts.lives[life]!;
  const inner = countBack(life, shown, count, on, (at) => (at === life ? instead : {}));
  return { source: inner.source, lives: [...inner.lives, ...counts.lives.slice(life + 1)] };
}

/**
 * What is counted where a life shows not its picture but the one `offset` pictures on, on the film: what its screen and the lives after it count stays.
 * The first picture has none before it but itself.
 */
export const countBeside = (counts: Counts, life: number, offset: number, on: Counting): Counts => recount(counts, life, on, { picture: counts.lives[life]!.picture + offset });

/** What is counted at the moment of the second field of a life's picture. */
export const countSecond = (counts: Counts, life: number, on: Counting): Counts => recount(counts, life, on, { picture: counts.lives[life]!.picture, second: true });

/** What was counted `earlier` pictures ago on the screen of a life; before the first there is none but itself. */
export const countEarlier = (counts: Counts, life: number, earlier: number, on: Counting): Counts => recount(counts, life, on, { earlier });

/** The picture of the shot that is shown where every life shows what it shows at the most `instead`. Never falls as `n` rises. */
export const countReach = (look: Look, n: number, on: Counting, instead: (life: number) => Instead): number =>
  countBack(look.lives.length - 1, n, { rate: on.rate, fields: false, between: false }, on, instead).source;

/** Whether a use shows something else on each picture that its screen shows, though the carrier's picture is held. */
const countsOnScreen = ({ act, trait, strength, use }: ResolvedUse): boolean =>
  act === 'screen' && strength > 0 && !(trait.still && !use.when && Object.keys(use.motions ?? {}).length === 0);

/** Whether two moments show the same in every life up to `life`, all moments of their fields included. */
function sameUpTo(life: number, a: Counts, b: Counts, on: Counting, counted: readonly boolean[]): boolean {
  if (life < 0) return a.source === b.source;
  const [x, y] = [a.lives[life]!, b.lives[life]!];
  if (x.picture !== y.picture || (counted[life] && x.shown !== y.shown) || !sameUpTo(life - 1, a, b, on, counted)) return false;
  return !fieldsOf(life, on)?.woven || sameUpTo(life - 1, countSecond(a, life, on), countSecond(b, life, on), on, counted);
}

/**
 * The first picture of the file that is the same as picture `n` in every pixel, as all that is seen on it is held: `n` itself where no life holds
 * its pictures, or something on a screen goes on meanwhile.
 * @param n picture of the file @param rate the file's pictures a second
 */
export function heldPicture(look: Look, n: number, rate: number, uses: readonly ResolvedUse[] = resolveLook(look)): number {
  const counted = look.lives.map((_, life) => uses.some((use) => use.life === life && countsOnScreen(use)));
  // What is lost goes by the picture: the same one is as far on.
  const on = { rate, uses };
  const now = countPictures(look, n, on);
  let first = n;
  while (first > 0 && sameUpTo(look.lives.length - 1, countPictures(look, first - 1, on), now, on, counted)) first--;
  return first;
}
