import type { ListedEvent } from '@tin-ghost/core';
import { isMuted } from '../state/event-edits';

/** What of a mark stands beyond its event, in pixels. */
const REACH = 6;

interface Lane {
  /** By time. */
  readonly events: readonly ListedEvent[];
  /** Seconds of the longest of them. */
  readonly longest: number;
  /** What of the shot fills the width, in seconds. */
  readonly from: number;
  readonly to: number;
  readonly selected: string | null;
  /** Whether a hand has changed an event. */
  readonly changed: (id: string) => boolean;
}

/** Marks: a bar as long as its event; hollow where muted, with a head where pinned, ink where a hand changed it. */
export function paintLane(g: CanvasRenderingContext2D, width: number, height: number, { events, longest, from, to, selected, changed }: Lane): void {
  const style = getComputedStyle(g.canvas);
  const [rule, oxide, ink, faint] = ['rule', 'oxide', 'ink', 'faint'].map((name) => style.getPropertyValue(`--color-${name}`)) as [string, string, string, string];
  const middle = Math.round(height / 2);
  g.fillStyle = rule;
  g.fillRect(0, middle, width, 1);
  const perSecond = width / (to - from);
  // Of marks that fall on one another, as of an hour's, no more are drawn than can be told apart.
  let drawn = { x: -1, tall: 0 };
  const draw = (event: ListedEvent): void => {
    const x = (event.at - from) * perSecond;
    const long = Math.max(2, event.length * perSecond);
    const tall = isMuted(event) ? 4 : Math.max(4, Math.min(height - 4, 9 * Math.sqrt(Math.min(2, event.scale))));
    const tone = event.id === selected ? oxide : event.pinned || changed(event.id) ? ink : faint;
    const plain = tone === faint && long < 3 && !isMuted(event);
    if (plain && Math.abs(x - drawn.x) < 0.5 && tall <= drawn.tall) return;
    if (plain) drawn = { x, tall };
    g.fillStyle = g.strokeStyle = tone;
    if (isMuted(event)) g.strokeRect(x + 0.5, middle - tall / 2 + 0.5, Math.max(3, long), tall);
    else {
      g.globalAlpha = event.id === selected ? 1 : long > 4 ? 0.55 : 0.8;
      g.fillRect(x, middle - tall / 2, long, tall);
      g.globalAlpha = 1;
    }
    if (event.pinned) {
      g.beginPath();
      g.arc(x + 1, middle - tall / 2, 2.5, 0, 2 * Math.PI);
      g.fill();
    }
  };
  let last: ListedEvent | undefined;
  const first = firstFrom(events, from - Math.max(longest, REACH / perSecond));
  for (let i = first; i < events.length && events[i]!.at <= to; i++) {
    const event = events[i]!;
    if (event.at + Math.max(event.length, REACH / perSecond) < from) continue;
    if (event.id === selected) last = event;
    else draw(event);
  }
  if (last) draw(last);
}

/** Place of the first event that begins at a moment or after it. */
function firstFrom(events: readonly ListedEvent[], seconds: number): number {
  let [low, high] = [0, events.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (events[middle]!.at < seconds) low = middle + 1;
    else high = middle;
  }
  return low;
}
