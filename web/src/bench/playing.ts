import { create } from 'zustand';
import type { PlayerReport } from './player';

/** What the player tells while it plays. Apart from the bench's other state: it changes many times a second, and concerns two places of the page. */
export const usePlaying = create<{
  /** Pictures that are ready. */
  readonly ready: ReadonlySet<number>;
  readonly report: PlayerReport | null;
}>(() => ({ ready: new Set(), report: null }));

/** Told no oftener than this, so that the page's thread is left to the picture. */
const EVERY_MS = 250;

let pending: ReadonlySet<number> | undefined;

export function tellReady(ready: ReadonlySet<number>): void {
  if (pending === undefined) {
    setTimeout(() => {
      usePlaying.setState({ ready: pending! });
      pending = undefined;
    }, EVERY_MS);
  }
  pending = ready;
}

/** What another shot or another footage told is of no account any more. */
export function forgetPlaying(): void {
  if (pending !== undefined) pending = new Set();
  usePlaying.setState({ ready: new Set(), report: null });
}

export const tellReport = (report: PlayerReport): void => usePlaying.setState({ report });
