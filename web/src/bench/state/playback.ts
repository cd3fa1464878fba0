import { create } from 'zustand';

/** What the player tells while it plays. */
export interface PlayerReport {
  /** Pictures shown a second, over the last second. */
  readonly shown: number;
  readonly width: number;
}

/** Pictures of a shot, the last one not among them. */
export interface FrameRange {
  readonly from: number;
  readonly to: number;
}

interface Playback {
  /** The picture that is seen. */
  readonly frame: number;
  readonly playing: boolean;
  /** Where it was played from last. */
  readonly begunAt: number;
  /** Whole shot, or two seconds about the picture. */
  readonly loop: FrameRange | null;
  /** Pictures that are ready to play. */
  readonly ready: ReadonlySet<number>;
  readonly report: PlayerReport | null;
}

/** What is seen of the shot, and when. It changes many times a second: nothing else may, with it. */
export const usePlayback = create<Playback>(() => ({ frame: 0, playing: false, begunAt: 0, loop: null, ready: new Set(), report: null }));

const { getState, setState } = usePlayback;

/** Told no oftener than this, so that the page's thread is left to the picture. */
const READY_EVERY_MS = 250;
export const LOOP_SECONDS = 2;

let pending: ReadonlySet<number> | undefined;

/** The player shows a picture. */
export const showFrame = (frame: number): void => setState({ frame });

/** Stands still at a picture, within the shot. */
export const goTo = ({ frames }: { readonly frames: number }, n: number): void => setState({ playing: false, frame: Math.max(0, Math.min(frames - 1, n)) });

/** So many pictures on, or back where `by` is below 0. */
export const stepFrame = (shot: { readonly frames: number }, by: number): void => goTo(shot, getState().frame + by);

export const togglePlay = (): void => setState((s) => (s.playing ? { playing: false } : { playing: true, begunAt: s.frame }));
export const stopPlaying = (): void => setState({ playing: false });

/** Loops two seconds from the picture that is seen, or the whole shot again. */
export function toggleLoop({ frames, rate }: { readonly frames: number; readonly rate: number }): void {
  const { loop, frame } = getState();
  if (loop) return setState({ loop: null });
  const length = Math.min(frames, Math.round(LOOP_SECONDS * rate));
  const from = Math.max(0, Math.min(frames - length, frame));
  setState({ loop: { from, to: from + length } });
}

/** A shorter shot has no later pictures. */
export const keepWithin = ({ frames }: { readonly frames: number }): void => void (getState().frame >= frames && showFrame(frames - 1));

/** Another shot begins at its first picture. */
export const rewind = (): void => setState({ frame: 0, playing: false, loop: null });

export function tellReady(ready: ReadonlySet<number>): void {
  if (pending === undefined) {
    setTimeout(() => {
      setState({ ready: pending! });
      pending = undefined;
    }, READY_EVERY_MS);
  }
  pending = ready;
}

export const tellReport = (report: PlayerReport): void => setState({ report });

/** What another shot or another footage told is of no account any more. */
export function forgetPlaying(): void {
  if (pending !== undefined) pending = new Set();
  setState({ ready: new Set(), report: null });
}
