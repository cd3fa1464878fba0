import type { Look } from '../look/look';
import type { ListedEvent } from '../score/score';
import { traitById } from '../traits/known';

/** What lies within this share of the width of a point is under it, and so many pixels at the least. */
const REACH = { share: 0.006, pixels: 3 };
/** Levels of 255 that a change must pass to be one that is seen: a gain that follows the picture may shift all of it a little. */
const SEEN = 4;

/** A look without some of its events; all others stay as they are. */
export function withoutEvents(look: Look, events: readonly ListedEvent[]): Look {
  const muted = (life: number, index: number): string[] => events.filter((event) => event.life === life && event.index === index).map(({ id }) => id);
  return {
    ...look,
    lives: look.lives.map((one, life) => ({
      ...one,
      traits: one.traits.map((use, index) => {
        const more = muted(life, index);
        return more.length ? { ...use, events: { ...use.events, muted: [...(use.events?.muted ?? []), ...more] } } : use;
      }),
    })),
  };
}

/**
 * How far two pictures differ about a point: levels of 255 beyond what is seen, the nearer the more, summed.
 * @param a @param b pixels of four bytes, rows from the top @param x @param y the point, in shares of the width and the height
 */
export function differenceAt(a: Uint8Array, b: Uint8Array, width: number, height: number, x: number, y: number): number {
  const reach = Math.max(REACH.pixels, REACH.share * width);
  const [cx, cy] = [x * width, y * height];
  let sum = 0;
  for (let row = Math.max(0, Math.floor(cy - reach)); row < Math.min(height, cy + reach); row++) {
    for (let column = Math.max(0, Math.floor(cx - reach)); column < Math.min(width, cx + reach); column++) {
      const nearness = 1 - Math.sqrt((column + 0.5 - cx) ** 2 + (row + 0.5 - cy) ** 2) / reach;
      if (nearness <= 0) continue;
      const at = 4 * (row * width + column);
      for (let i = at; i < at + 3; i++) sum += nearness * Math.max(0, Math.abs(a[i]! - b[i]!) - SEEN);
    }
  }
  return sum;
}

/**
 * Which event shows at a point: found by what the picture lacks there without it, so wherever the rest of the look has moved it. One that has a place is
 * preferred to what happens to the whole picture.
 * @param events those that show on the picture (`Score.shown`)
 * @param lacks how far the picture differs about the point (`differenceAt`) without some of them
 * @returns null where none of them shows
 */
export async function eventUnder(events: readonly ListedEvent[], lacks: (events: readonly ListedEvent[]) => Promise<number>): Promise<ListedEvent | null> {
  const placed = (event: ListedEvent): boolean => traitById(event.trait)?.events?.place !== undefined;
  return (
    (await strongest(events.filter(placed), lacks)) ??
    strongest(
      events.filter((event) => !placed(event)),
      lacks,
    )
  );
}

/** By halves: of each two the one without which more is lacking. */
async function strongest(events: readonly ListedEvent[], lacks: (events: readonly ListedEvent[]) => Promise<number>): Promise<ListedEvent | null> {
  if (events.length === 0 || (await lacks(events)) === 0) return null;
  let left = events;
  while (left.length > 1) {
    const [first, second] = [left.slice(0, left.length >> 1), left.slice(left.length >> 1)];
    left = (await lacks(first)) >= (await lacks(second)) ? first : second;
  }
  return left[0]!;
}
