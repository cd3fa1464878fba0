import { toast } from 'sonner';
import { create } from 'zustand';
import { texts } from '../../messages/picture';

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
  /** Whether the shot's pictures come fast enough to be played. */
  readonly playable: boolean;
  /** Times as fast as the shot, below 0 backwards, while it is shuttled; 0 while it is not. */
  readonly speed: number;
  /** Where it was played from last. */
  readonly begunAt: number;
  /** Whole shot, or two seconds about the picture. */
  readonly loop: FrameRange | null;
  /** Pictures that are ready to play. */
  readonly ready: ReadonlySet<number>;
  readonly report: PlayerReport | null;
  /** Played small and with half the pictures, to keep the rate. */
  readonly draft: boolean;
}

/** What is seen of the shot, and when. It changes many times a second: nothing else may, with it. */
export const usePlayback = create<Playback>(() => ({ frame: 0, playing: false, playable: true, speed: 0, begunAt: 0, loop: null, ready: new Set(), report: null, draft: false }));

const { getState, setState } = usePlayback;

/** Told no oftener than this, so that the page's thread is left to the picture. */
const READY_EVERY_MS = 250;
const LOOP_SECONDS = 2;

let pending: ReadonlySet<number> | undefined;

/** The player shows a picture. */
export const showFrame = (frame: number): void => setState({ frame });

/** Stands still at a picture, within the shot. */
export function goTo({ frames }: { readonly frames: number }, n: number): void {
  endShuttle();
  setState({ playing: false, frame: Math.max(0, Math.min(frames - 1, n)) });
}

/** So many pictures on, or back where `by` is below 0. */
export const stepFrame = (shot: { readonly frames: number }, by: number): void => goTo(shot, getState().frame + by);

/** Says whether the shot can be played; what cannot stands still, and a wish to play it is answered in words. */
export function setPlayable(playable: boolean): void {
  if (!playable) stopPlaying();
  setState({ playable });
}

/** Whether the shot can be played; says why where it cannot. */
function mayPlay(): boolean {
  const { playable } = getState();
  if (!playable) toast(texts.playsOnceImported, { id: 'not playable' });
  return playable;
}

export function togglePlay(): void {
  if (!mayPlay()) return;
  const shuttled = getState().speed !== 0;
  endShuttle();
  setState((s) => (s.playing || shuttled ? { playing: false } : { playing: true, begunAt: s.frame }));
}

export function stopPlaying(): void {
  endShuttle();
  setState({ playing: false });
}

/** Fastest that is shuttled. */
const FASTEST = 8;
let shuttling: ReturnType<typeof setInterval> | undefined;

function endShuttle(): void {
  clearInterval(shuttling);
  shuttling = undefined;
  if (getState().speed !== 0) setState({ speed: 0 });
}

/**
 * Plays one way or the other, twice as fast with each press in the same direction; what comes too fast to be worn is passed over. Forwards at
 * its own speed the shot simply plays, with its sound. @param way 1 on, -1 back, 0 stops
 */
export function shuttle(shot: { readonly frames: number; readonly rate: number }, way: -1 | 0 | 1): void {
  const { speed, playing } = getState();
  const now = speed || (playing ? 1 : 0);
  if (way === 0) return stopPlaying();
  if (!mayPlay()) return;
  const next = Math.sign(now) === way ? Math.max(-FASTEST, Math.min(FASTEST, now * 2)) : way;
  endShuttle();
  if (next === 1) return setState((s) => ({ playing: true, begunAt: s.frame }));
  setState({ playing: false, speed: next });
  const [from, begun] = [getState().frame, performance.now()];
  shuttling = setInterval(() => {
    const at = from + Math.trunc(((performance.now() - begun) / 1000) * shot.rate * next);
    const frame = Math.max(0, Math.min(shot.frames - 1, at));
    setState({ frame });
    if (frame !== at) endShuttle();
  }, 1000 / shot.rate);
}

/** Loops two seconds from the picture that is seen, or the whole shot again. */
export function toggleLoop({ frames, rate }: { readonly frames: number; readonly rate: number }): void {
  const { loop, frame } = getState();
  if (loop) return setState({ loop: null });
  const length = Math.min(frames, Math.round(LOOP_SECONDS * rate));
  const from = Math.max(0, Math.min(frames - length, frame));
  setState({ loop: { from, to: from + length } });
}

/** Loops a range; null plays the whole shot. */
export const setLoop = (loop: FrameRange | null): void => setState({ loop });

/** The same moments are other frames now. @param to the frame that shows what a frame of before showed, not below 0 */
export const moveMoments = (to: (frame: number) => number): void =>
  setState(({ frame, loop }) => ({ frame: to(frame), loop: loop && to(loop.to) > to(loop.from) ? { from: to(loop.from), to: to(loop.to) } : null }));

/** A shorter shot has no later pictures. */
export function keepWithin({ frames }: { readonly frames: number }): void {
  const { frame, loop } = getState();
  if (frame >= frames) showFrame(frames - 1);
  if (loop && loop.to > frames) setState({ loop: loop.from < frames - 1 ? { from: loop.from, to: frames } : null });
}

/** Another shot begins at its first picture. */
export function rewind(): void {
  endShuttle();
  setState({ frame: 0, playing: false, loop: null });
}

export function tellReady(ready: ReadonlySet<number>): void {
  if (pending === undefined) {
    setTimeout(() => {
      setState({ ready: pending! });
      pending = undefined;
    }, READY_EVERY_MS);
  }
  pending = ready;
}

export const toggleDraft = (): void => setState((s) => ({ draft: !s.draft, report: null }));

export const tellReport = (report: PlayerReport): void => setState({ report });

/** What another shot or another footage told is of no account any more. */
export function forgetPlaying(): void {
  if (pending !== undefined) pending = new Set();
  setState({ ready: new Set(), report: null });
}
