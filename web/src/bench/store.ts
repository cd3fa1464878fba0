import { temporal } from 'zundo';
import { create, useStore, type StoreApi, type UseBoundStore } from 'zustand';
import { AS_SHOT, EMPTY_LOOK, type Act, type Look, type Preparation } from '@tin-ghost/core';
import type { Shot } from '../api/client';
import { draftOf, Keeper, type Keeping, type Work } from './keeper';
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
  preparation: Preparation;
  /** The use whose card is open; the shot's own card where `shotOpen` is set. */
  selected: UseAt | null;
  /** The event of that use which is chosen. */
  event: string | null;
  shotOpen: boolean;
  /** The picture is dragged under its mask. */
  framing: boolean;
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
      preparation: AS_SHOT,
      selected: null,
      event: null,
      shotOpen: false,
      framing: false,
      frame: 0,
      playing: false,
      loop: null,
      view: 'worn',
      held: false,
      zoom: 'fit',
      point: null,
      keeping: { state: 'kept', at: null },
    }),
    { partialize: ({ look, preparation }) => ({ look, preparation }), equality: (a, b) => a.look === b.look && a.preparation === b.preparation, limit: 400 },
  ),
);

const history = useBench.temporal;
export const useHistory = <T>(pick: (state: { pastStates: unknown[]; futureStates: unknown[] }) => T): T =>
  useStore(history as unknown as UseBoundStore<StoreApi<{ pastStates: unknown[]; futureStates: unknown[] }>>, pick);

let keeper: Keeper | undefined;
let gesture: Work | null = null;

const workOf = ({ look, preparation }: Work): Work => ({ look, preparation });

/** Puts a shot on the bench; what this browser still holds of it, unsent, comes back. */
export function openShot(shot: Shot): void {
  keeper?.flush();
  const draft = draftOf(shot.id);
  keeper = new Keeper(shot, shot.revision, (keeping) => useBench.getState().shotId === shot.id && useBench.setState({ keeping }));
  history.getState().pause();
  useBench.setState({
    shotId: shot.id,
    look: shot.look,
    preparation: shot.preparation,
    selected: null,
    event: null,
    shotOpen: false,
    framing: false,
    frame: 0,
    playing: false,
    loop: null,
    point: null,
    keeping: { state: 'kept', at: new Date(shot.touchedAt) },
  });
  history.getState().clear();
  history.getState().resume();
  if (!draft || JSON.stringify(workOf(draft)) === JSON.stringify(workOf(shot))) return keeper.forget();
  if (draft.revision === shot.revision) change(workOf(draft));
  else useBench.setState({ ...workOf(draft), keeping: { state: 'contested', revision: shot.revision, work: workOf(shot) } });
}

function change(state: Partial<BenchState>): void {
  useBench.setState(state);
  keeper?.keep(workOf(useBench.getState()));
}

/** Changes the look: undoable, and kept. */
export function changeLook(look: Look, selected?: UseAt | null): void {
  change(selected === undefined ? { look } : { look, selected, event: null, shotOpen: false });
}

/** Changes how the shot is prepared: undoable, and kept. What is undefined goes back to how it was shot. */
export function changePreparation(more: Partial<Preparation>): void {
  const next = Object.fromEntries(Object.entries({ ...useBench.getState().preparation, ...more }).filter(([, v]) => v !== undefined));
  change({ preparation: next as Preparation });
}

/** A drag is one step back, however many values it passes. */
export function beginGesture(): void {
  if (gesture) return;
  gesture = workOf(useBench.getState());
  history.getState().pause();
}

export function endGesture(): void {
  if (!gesture) return;
  const work = workOf(useBench.getState());
  const before = gesture;
  gesture = null;
  useBench.setState(before);
  history.getState().resume();
  useBench.setState(work);
}

export const onGesture = (phase: 'begin' | 'end'): void => (phase === 'begin' ? beginGesture() : endGesture());

function step(go: () => void): void {
  endGesture();
  const before = workOf(useBench.getState());
  go();
  const { look, preparation, selected } = useBench.getState();
  if (look === before.look && preparation === before.preparation) return;
  if (!traitUseAt(look, selected)) useBench.setState({ selected: null });
  keeper?.keep({ look, preparation });
}

export const undo = (): void => step(() => history.getState().undo());
export const redo = (): void => step(() => history.getState().redo());

/** Of two changes made in two places, this one is taken. */
export function settleContest(take: 'mine' | 'theirs'): void {
  const { keeping, ...state } = useBench.getState();
  if (keeping.state !== 'contested' || !keeper) return;
  keeper.rebase(keeping.revision);
  if (take === 'mine') return keeper.keep(workOf(state));
  keeper.forget();
  useBench.setState({ ...keeping.work, selected: null, keeping: { state: 'kept', at: new Date() } });
}

export const flushBench = (): void => keeper?.flush();

export const select = (at: UseAt | null): void =>
  useBench.setState((s) => (sameUse(s.selected, at) ? { shotOpen: false, framing: false } : { selected: at, event: null, shotOpen: false, framing: false }));

/** Opens a use's card at one of its events, or at none. */
export const selectEvent = (at: UseAt, event: string | null): void =>
  useBench.setState((s) => ({ selected: sameUse(s.selected, at) ? s.selected : at, event, shotOpen: false, framing: false }));

/** Opens the shot's own card. */
export const selectShot = (): void => useBench.setState({ selected: null, shotOpen: true });
