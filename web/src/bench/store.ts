import { temporal } from 'zundo';
import { create, useStore, type StoreApi, type UseBoundStore } from 'zustand';
import { EMPTY_LOOK, type Act, type Look } from '@tin-ghost/core';
import type { Shot } from '../api/client';
import { draftOf, Keeper, type Keeping } from './keeper';
import { sameUse, traitUseAt, type UseAt } from './look-edits';

/** A point of the chain at which the picture is looked at. */
export interface ChainPoint {
  readonly life: number;
  readonly act: Act;
  readonly place: number;
}

interface BenchState {
  shotId: string | null;
  look: Look;
  selected: UseAt | null;
  frame: number;
  playing: boolean;
  /** Whole shot, or two seconds about the picture. */
  loop: { from: number; to: number } | null;
  view: 'worn' | 'asShot';
  /** A key is held to see the picture before. */
  held: boolean;
  zoom: 'fit' | 'full';
  point: ChainPoint | null;
  keeping: Keeping;
}

export const useBench = create<BenchState>()(
  temporal(
    (): BenchState => ({
      shotId: null,
      look: EMPTY_LOOK,
      selected: null,
      frame: 0,
      playing: false,
      loop: null,
      view: 'worn',
      held: false,
      zoom: 'fit',
      point: null,
      keeping: { state: 'kept', at: null },
    }),
    { partialize: ({ look }) => ({ look }), equality: (a, b) => a.look === b.look, limit: 400 },
  ),
);

const history = useBench.temporal;
export const useHistory = <T>(pick: (state: { pastStates: unknown[]; futureStates: unknown[] }) => T): T =>
  useStore(history as unknown as UseBoundStore<StoreApi<{ pastStates: unknown[]; futureStates: unknown[] }>>, pick);

let keeper: Keeper | undefined;
let gesture: Look | null = null;

/** Puts a shot on the bench; what this browser still holds of it, unsent, comes back. */
export function openShot(shot: Shot): void {
  keeper?.flush();
  const draft = draftOf(shot.id);
  keeper = new Keeper(shot, shot.revision, (keeping) => useBench.getState().shotId === shot.id && useBench.setState({ keeping }));
  history.getState().pause();
  useBench.setState({
    shotId: shot.id,
    look: shot.look,
    selected: null,
    frame: 0,
    playing: false,
    loop: null,
    point: null,
    keeping: { state: 'kept', at: new Date(shot.touchedAt) },
  });
  history.getState().clear();
  history.getState().resume();
  if (!draft || JSON.stringify(draft.look) === JSON.stringify(shot.look)) return keeper.forget();
  if (draft.revision === shot.revision) changeLook(draft.look);
  else {
    useBench.setState({ look: draft.look, keeping: { state: 'contested', revision: shot.revision, look: shot.look } });
  }
}

/** Changes the look: undoable, and kept. */
export function changeLook(look: Look, selected?: UseAt | null): void {
  useBench.setState(selected === undefined ? { look } : { look, selected });
  keeper?.keep(look);
}

/** A drag is one step back, however many values it passes. */
export function beginGesture(): void {
  if (gesture) return;
  gesture = useBench.getState().look;
  history.getState().pause();
}

export function endGesture(): void {
  if (!gesture) return;
  const { look } = useBench.getState();
  const before = gesture;
  gesture = null;
  useBench.setState({ look: before });
  history.getState().resume();
  useBench.setState({ look });
}

export const onGesture = (phase: 'begin' | 'end'): void => (phase === 'begin' ? beginGesture() : endGesture());

function step(go: () => void): void {
  endGesture();
  const before = useBench.getState().look;
  go();
  const { look, selected } = useBench.getState();
  if (look === before) return;
  if (!traitUseAt(look, selected)) useBench.setState({ selected: null });
  keeper?.keep(look);
}

export const undo = (): void => step(() => history.getState().undo());
export const redo = (): void => step(() => history.getState().redo());

/** Of two changes made in two places, this one is taken. */
export function settleContest(take: 'mine' | 'theirs'): void {
  const { keeping, look } = useBench.getState();
  if (keeping.state !== 'contested' || !keeper) return;
  keeper.rebase(keeping.revision);
  if (take === 'mine') return keeper.keep(look);
  keeper.forget();
  useBench.setState({ look: keeping.look, selected: null, keeping: { state: 'kept', at: new Date() } });
}

export const flushBench = (): void => keeper?.flush();

export const select = (at: UseAt | null): void => useBench.setState((s) => ({ selected: sameUse(s.selected, at) ? s.selected : at }));
