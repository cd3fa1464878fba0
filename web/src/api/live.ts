import { create } from 'zustand';
import { isUnderWay, type Medium, type MediumProgress, type Print, type PrintProgress } from '@tin-ghost/contract';
import { secondsLeft, type Mark } from './time-left';

/** How far an import has come, and when that was told. */
interface ImportProgress extends MediumProgress, Mark {
  /** Where it was first told, since it last began. */
  readonly first: Mark;
}

/**
 * How far work under way has come, by id. It stands beside what has been fetched, not in it: laying news into fetched
 * data would make SWR drop an answer that is still on its way, and the page would never see it. News come ten times a
 * second; what shows one thing's progress asks for that alone, so that a screen is not drawn anew with each.
 */
export const useLive = create<{ media: Record<string, ImportProgress>; prints: Record<string, PrintProgress> }>()(() => ({ media: {}, prints: {} }));

const without = <T>(all: Record<string, T>, id: string): Record<string, T> => Object.fromEntries(Object.entries(all).filter(([key]) => key !== id));

export function noteMedium(id: string, told: MediumProgress | null): void {
  useLive.setState(({ media }) => {
    if (!told) return { media: without(media, id) };
    const mark: Mark = { at: performance.now(), progress: told.progress };
    const before = media[id]?.first;
    // What begins anew is counted from there.
    const first = before && before.progress <= mark.progress ? before : mark;
    return { media: { ...media, [id]: { ...told, ...mark, first } } };
  });
}

export function notePrint(id: string, progress: PrintProgress | null): void {
  useLive.setState(({ prints }) => ({ prints: progress ? { ...prints, [id]: progress } : without(prints, id) }));
}

/** A print with its progress of this moment; what has been stopped or ended stays as it was fetched. */
export const livePrint = (print: Print, progress: PrintProgress | undefined): Print => (progress && isUnderWay(print.state) ? { ...print, ...progress } : print);

/** Footage with its progress of this moment; what has come in or failed stays as it was fetched. */
export const liveMedium = (medium: Medium, told: MediumProgress | undefined): Medium =>
  told && (medium.state === 'waiting' || medium.state === 'working') ? { ...medium, state: told.state, progress: told.progress, error: told.error } : medium;

export const useLivePrint = (print: Print): Print =>
  livePrint(
    print,
    useLive((s) => s.prints[print.id]),
  );

export const useLiveMedium = (medium: Medium): Medium =>
  liveMedium(
    medium,
    useLive((s) => s.media[medium.id]),
  );

/** Seconds left of an import; undefined while they cannot be told. */
export const useImportLeft = (id: string): number | undefined => useLive(({ media: { [id]: told } }) => told && secondsLeft(told.first, told));
