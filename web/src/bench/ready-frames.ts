import { create } from 'zustand';

/** Told no oftener than this, so that the page's thread is left to the picture. */
const EVERY_MS = 250;

/** Pictures that are ready to play. Apart from the bench's other state: they change with every picture. */
export const useReadyFrames = create<{ frames: ReadonlySet<number> }>(() => ({ frames: new Set() }));

let pending: ReadonlySet<number> | undefined;

export function tellReady(frames: ReadonlySet<number>): void {
  if (pending === undefined) {
    setTimeout(() => {
      useReadyFrames.setState({ frames: pending! });
      pending = undefined;
    }, EVERY_MS);
  }
  pending = frames;
}
