import { create } from 'zustand';
import { usePlayback } from './playback';

interface StripView {
  /** How many times as long as the room there is the whole shot is drawn; 1 shows all of it. */
  readonly zoom: number;
  /** The share of the shot at which what is seen of it begins. */
  readonly from: number;
}

/** The stretch of the shot that lies on the strip. Nothing of it is kept with the shot. */
export const useStripView = create<StripView>(() => ({ zoom: 1, from: 0 }));

const { getState, setState } = useStripView;

/** So many frames at least are seen. */
const LEAST_FRAMES = 16;
/** Where in what is seen the playhead lies after it has run out of it. */
const TURNED_TO = 0.08;

const held = (zoom: number, from: number): StripView => ({ zoom, from: Math.max(0, Math.min(1 - 1 / zoom, from)) });

/** @param by so many times as long @param about the share of the shot that stays where it is */
export function zoomStrip({ frames }: { readonly frames: number }, by: number, about: number): void {
  const { zoom, from } = getState();
  const next = Math.max(1, Math.min(Math.max(1, frames / LEAST_FRAMES), zoom * by));
  setState(held(next, about - ((about - from) * zoom) / next));
}

/** Twice as long, or half, about the playhead. */
export const zoomAtPlayhead = (shot: { readonly frames: number }, steps: 1 | -1): void => zoomStrip(shot, 2 ** steps, usePlayback.getState().frame / Math.max(1, shot.frames - 1));

/** Shows from one share of the shot to another. */
export const showStrip = (frames: number, from: number, to: number): void => {
  const zoom = Math.max(1, Math.min(Math.max(1, frames / LEAST_FRAMES), 1 / Math.max(1e-9, to - from)));
  setState(held(zoom, from));
};

/** @param by a share of what is seen */
export const scrollStrip = (by: number): void => setState(({ zoom, from }) => held(zoom, from + by / zoom));

export const wholeStrip = (): void => setState({ zoom: 1, from: 0 });

/** Turns to the stretch that a share of the shot lies in, where it is not seen. */
export function followOnStrip(share: number): void {
  const { zoom, from } = getState();
  if (share >= from && share <= from + 1 / zoom) return;
  setState(held(zoom, share < from ? share - (1 - TURNED_TO) / zoom : share - TURNED_TO / zoom));
}
