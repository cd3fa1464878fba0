import { dequal } from 'dequal';
import { storedWork, type Work } from './keeper';

/** The steps of a shot that can be taken back, and those that can be made again. */
export interface Steps {
  readonly past: readonly Work[];
  readonly future: readonly Work[];
}

/** What stands in the browser's store: the steps about the work as it was then. */
interface Kept extends Steps {
  readonly present: Work;
}

export const NO_STEPS: Steps = { past: [], future: [] };
/** Steps that outlive the page, each way. */
const MOST_KEPT = 60;
/** Shots whose steps are kept at once; those not visited for longest go first. */
const MOST_SHOTS = 12;
const PREFIX = 'tin-ghost/steps/';
const ORDER = 'tin-ghost/steps';

/** Steps of shots visited while the page is open, whole. */
const visited = new Map<string, Kept>();

/** Keeps the steps of a shot. What the browser's store cannot take is kept as long as the page is open. */
export function keepSteps(shotId: string, steps: Steps, present: Work): void {
  visited.set(shotId, { ...steps, present });
  const kept: Kept = { past: steps.past.slice(-MOST_KEPT), future: steps.future.slice(-MOST_KEPT), present };
  try {
    if (kept.past.length + kept.future.length === 0) return localStorage.removeItem(PREFIX + shotId);
    const order = [...shots().filter((id) => id !== shotId), shotId];
    for (const old of order.splice(0, Math.max(0, order.length - MOST_SHOTS))) localStorage.removeItem(PREFIX + old);
    localStorage.setItem(ORDER, JSON.stringify(order));
    localStorage.setItem(PREFIX + shotId, JSON.stringify(kept));
  } catch {
    localStorage.removeItem(PREFIX + shotId);
  }
}

/** The steps of a shot about its work as it is now; none where it was changed elsewhere meanwhile, since they lead from another place. */
export function stepsOf(shotId: string, present: Work): Steps {
  const kept = visited.get(shotId) ?? stored(shotId);
  return kept && dequal(kept.present, present) ? { past: kept.past, future: kept.future } : NO_STEPS;
}

function stored(shotId: string): Kept | undefined {
  try {
    const kept = JSON.parse(localStorage.getItem(PREFIX + shotId) ?? 'null') as Kept | null;
    return kept ? { past: kept.past.map(storedWork), future: kept.future.map(storedWork), present: storedWork(kept.present) } : undefined;
  } catch {
    return undefined;
  }
}

function shots(): string[] {
  try {
    return JSON.parse(localStorage.getItem(ORDER) ?? '[]') as string[];
  } catch {
    return [];
  }
}
