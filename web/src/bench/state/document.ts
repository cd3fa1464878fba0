import { useMemo } from 'react';
import { dequal } from 'dequal';
import { temporal } from 'zundo';
import { create, useStore, type StoreApi, type UseBoundStore } from 'zustand';
import { useShallow } from 'zustand/react/shallow';
import { AS_SHOT, EMPTY_LOOK, type Look, type Preparation } from '@tin-ghost/core';
import type { Shot } from '@tin-ghost/contract';
import { draftOf, isOneOf, Keeper, newest, workOf, type Keeping, type Work } from './keeper';
import { traitUseAt, type UseAt } from './look-edits';
import { moveMoments, rewind, stopPlaying } from './playback';
import { sameMoment } from './same-moment';
import { closeCards, deselect, selectAnew, useSession } from './session';
import { wholeStrip } from './strip-view';
import { keepSteps, stepsOf } from './steps-kept';
import type { Versions } from './versions';

interface Document {
  readonly shotId: string | null;
  readonly look: Look;
  readonly preparation: Preparation;
  readonly versions: Versions;
  /** How the last change stands. */
  readonly keeping: Keeping;
}

/** Steps that can be taken back while the page is open. */
const MOST_STEPS = 400;

/** What is made of the shot on the bench. Every change of it can be taken back, and is kept. */
export const useDocument = create<Document>()(
  temporal((): Document => ({ shotId: null, look: EMPTY_LOOK, preparation: AS_SHOT, versions: [], keeping: { state: 'kept', at: null } }), {
    partialize: ({ look, preparation, versions }) => ({ look, preparation, versions }),
    equality: (a, b) => a.look === b.look && a.preparation === b.preparation && a.versions === b.versions,
    limit: MOST_STEPS,
  }),
);

const { getState, setState } = useDocument;
const history = useDocument.temporal;
export const useHistory = <T>(pick: (state: { pastStates: unknown[]; futureStates: unknown[] }) => T): T =>
  useStore(history as unknown as UseBoundStore<StoreApi<{ pastStates: unknown[]; futureStates: unknown[] }>>, pick);

let keeper: Keeper | undefined;
/** What a hand changes as long as it holds on; `before` is the mark it goes back to. */
let gesture: { readonly before: Work; abandoned: boolean } | null = null;

export const sameWork = (a: Work, b: Work): boolean => a.look === b.look && a.preparation === b.preparation && a.versions === b.versions;

/** Keeps the steps of the shot on the bench, for when it is visited again. */
function keepHistory(): void {
  const { shotId } = getState();
  if (!shotId) return;
  const { pastStates, futureStates } = history.getState();
  keepSteps(shotId, { past: pastStates as Work[], future: futureStates as Work[] }, workOf(getState()));
}

/** Puts a shot on the bench, with the steps that were made on it; what this browser still holds of it, unsent, comes back. */
export function openShot(shown: Shot): void {
  leaveBench();
  // What this page was told last may be newer than the list of shots.
  const shot = { ...shown, ...newest(shown) };
  const draft = draftOf(shot.id);
  const unsent = draft && !dequal(workOf(draft), workOf(shot)) ? draft : null;
  const work = unsent ? workOf(unsent) : workOf(shot);
  keeper = new Keeper(shot, shot.revision, (keeping) => getState().shotId === shot.id && setState({ keeping }), unsent?.sent);
  history.getState().pause();
  closeCards();
  rewind();
  wholeStrip();
  setState({ ...work, shotId: shot.id, keeping: { state: 'kept', at: new Date(shot.touchedAt) } });
  const { past, future } = stepsOf(shot.id, work);
  // What was never sent can be taken back to what the server has.
  const before = unsent && past.length === 0 ? [workOf(shot)] : past;
  history.setState({ pastStates: [...before], futureStates: [...future] });
  history.getState().resume();
  // One that this program cannot read, as of a newer one, stays where it is.
  if (!unsent) return draft ? keeper.forget() : undefined;
  if (unsent.revision === shot.revision || isOneOf(unsent.sent, workOf(shot))) keeper.keep(work);
  else setState({ keeping: { state: 'contested', revision: shot.revision, work: workOf(shot) } });
}

function change(more: Partial<Work>): boolean {
  // A hand that still moves after its change was abandoned changes nothing.
  if (gesture?.abandoned) return false;
  const before = getState();
  // What changes nothing, as a key at the end of a slider, leaves no step to take back.
  if (dequal({ ...workOf(before), ...more }, workOf(before))) return true;
  setState(more);
  stayAtMoment(before.preparation);
  keeper?.keep(workOf(getState()));
  return true;
}

/** The playhead and the loop stay on the same moments of the footage, whatever is taken of it and how fast. */
function stayAtMoment(before: Preparation): void {
  const { preparation } = getState();
  if (preparation !== before) moveMoments((frame) => sameMoment(before, preparation, frame));
}

/** Changes the look: undoable, and kept. @param selected the use whose card is open then; undefined leaves it as it is */
export function changeLook(look: Look, selected?: UseAt | null): void {
  if (change({ look }) && selected !== undefined) selectAnew(selected);
}

/** Changes which versions there are and which is shown: undoable, and kept. */
export function changeVersions(next: Pick<Work, 'look' | 'versions'>): void {
  if (change(next) && !traitUseAt(next.look, useSession.getState().selected)) deselect();
}

/** Changes how the shot is prepared: undoable, and kept. What is undefined goes back to how it was shot. */
export function changePreparation(more: Partial<Preparation>): void {
  const next = Object.fromEntries(Object.entries({ ...getState().preparation, ...more }).filter(([, v]) => v !== undefined));
  change({ preparation: next });
}

/** Sets a mark: what is changed until `endGesture` is one step back, however many values it passes. */
export function beginGesture(): void {
  if (gesture) return;
  gesture = { before: workOf(getState()), abandoned: false };
  history.getState().pause();
}

export function endGesture(): void {
  if (!gesture) return;
  const { before } = gesture;
  gesture = null;
  if (!sameWork(before, getState())) history.setState(({ pastStates }) => ({ pastStates: [...pastStates, before].slice(-MOST_STEPS), futureStates: [] }));
  history.getState().resume();
}

/** Goes back to the mark, as if the hand had never moved; what it still does until it lets go is ignored. @returns false where nothing was under way */
export function abandonGesture(): boolean {
  if (!gesture || gesture.abandoned) return false;
  if (!sameWork(gesture.before, getState())) change(gesture.before);
  gesture.abandoned = true;
  return true;
}

export const onGesture = (phase: 'begin' | 'end'): void => (phase === 'begin' ? beginGesture() : endGesture());

function step(go: () => void): void {
  endGesture();
  const before = getState();
  go();
  const now = getState();
  stayAtMoment(before.preparation);
  if (sameWork(now, before)) return;
  if (!traitUseAt(now.look, useSession.getState().selected)) deselect();
  keeper?.keep(workOf(now));
}

export const undo = (): void => step(() => history.getState().undo());
export const redo = (): void => step(() => history.getState().redo());

/** All states of the shot that can be gone to, the oldest first, and which of them is seen. */
export function useStates(): { readonly states: readonly Work[]; readonly at: number } {
  const past = useHistory((s) => s.pastStates) as Work[];
  const future = useHistory((s) => s.futureStates) as Work[];
  const now = useDocument(useShallow(workOf));
  return useMemo(() => ({ states: [...past, now, ...[...future].reverse()], at: past.length }), [past, now, future]);
}

/** Goes to another of the states, so many steps back or on. */
export function goToState(by: number): void {
  if (by < 0) step(() => history.getState().undo(-by));
  if (by > 0) step(() => history.getState().redo(by));
}

/** Of two changes made in two places, this one is taken. */
export function settleContest(take: 'mine' | 'theirs'): void {
  const { keeping, ...state } = getState();
  if (keeping.state !== 'contested' || !keeper) return;
  keeper.rebase(keeping.revision);
  if (take === 'mine') return keeper.keep(workOf(state));
  keeper.forget();
  setState({ ...keeping.work, keeping: { state: 'kept', at: new Date() } });
  deselect();
}

/** Sends and keeps what there is of the shot on the bench, as the page goes away or another shot comes. */
export function leaveBench(): void {
  endGesture();
  keeper?.flush();
  keepHistory();
}

/** No shot lies on the bench any more: what is done to it elsewhere is not done here. */
export function closeShot(): void {
  leaveBench();
  stopPlaying();
  keeper = undefined;
  setState({ shotId: null });
}

/** Sends what is pending now. */
export const flushBench = (): void => keeper?.flush();
