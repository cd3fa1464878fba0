import { temporal } from 'zundo';
import { create, useStore, type StoreApi, type UseBoundStore } from 'zustand';
import { AS_SHOT, EMPTY_LOOK, type Act, type Look, type Preparation } from '@tin-ghost/core';
import type { Shot } from '../api/client';
import { dequal } from 'dequal';
import { keepSteps, stepsOf } from './history-store';
import { draftOf, Keeper, newest, type Keeping, type Work } from './keeper';
import { sameMoment } from './same-moment';
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

/** Keeps the steps of the shot on the bench, for when it is visited again. */
function keepHistory(): void {
  const { shotId } = useBench.getState();
  if (!shotId) return;
  const { pastStates, futureStates } = history.getState();
  keepSteps(shotId, { past: pastStates as Work[], future: futureStates as Work[] }, workOf(useBench.getState()));
}

/** Puts a shot on the bench, with the steps that were made on it; what this browser still holds of it, unsent, comes back. */
export function openShot(shown: Shot): void {
  leaveBench();
  // What this page was told last may be newer than the list of shots.
  const shot = { ...shown, ...newest(shown) };
  const draft = draftOf(shot.id);
  const unsent = draft && !dequal(workOf(draft), workOf(shot)) ? draft : null;
  const work = unsent ? workOf(unsent) : workOf(shot);
  keeper = new Keeper(shot, shot.revision, (keeping) => useBench.getState().shotId === shot.id && useBench.setState({ keeping }));
  history.getState().pause();
  useBench.setState({
    ...work,
    shotId: shot.id,
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
  const { past, future } = stepsOf(shot.id, work);
  // What was never sent can be taken back to what the server has.
  const before = unsent && past.length === 0 ? [workOf(shot)] : past;
  history.setState({ pastStates: [...before], futureStates: [...future] });
  history.getState().resume();
  if (!unsent) return keeper.forget();
  if (unsent.revision === shot.revision) keeper.keep(work);
  else useBench.setState({ keeping: { state: 'contested', revision: shot.revision, work: workOf(shot) } });
}

function change(state: Partial<BenchState>): void {
  const before = useBench.getState();
  useBench.setState(state);
  stayAtMoment(before);
  keeper?.keep(workOf(useBench.getState()));
}

/** The playhead stays on the same moment of the footage, whatever is taken of it and how fast. */
function stayAtMoment({ preparation, frame }: BenchState): void {
  const now = useBench.getState();
  if (now.preparation !== preparation) useBench.setState({ frame: sameMoment(preparation, now.preparation, frame) });
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
  const before = useBench.getState();
  go();
  stayAtMoment(before);
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

/** Sends and keeps what there is of the shot on the bench, as the page goes away or another shot comes. */
export function leaveBench(): void {
  endGesture();
  keeper?.flush();
  keepHistory();
}

/** Sends what is pending now. */
export const flushBench = (): void => keeper?.flush();

export const select = (at: UseAt | null): void =>
  useBench.setState((s) => (sameUse(s.selected, at) ? { shotOpen: false, framing: false } : { selected: at, event: null, shotOpen: false, framing: false }));

/** Opens a use's card at one of its events, or at none. */
export const selectEvent = (at: UseAt, event: string | null): void =>
  useBench.setState((s) => ({ selected: sameUse(s.selected, at) ? s.selected : at, event, shotOpen: false, framing: false }));

/** Opens the shot's own card. */
export const selectShot = (): void => useBench.setState({ selected: null, shotOpen: true });
