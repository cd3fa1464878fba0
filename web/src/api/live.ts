import { create } from 'zustand';
import { isUnderWay, type Medium, type MediumProgress, type Print, type PrintProgress } from '@tin-ghost/contract';

/**
 * How far work under way has come, by id. It stands beside what has been fetched, not in it: laying news into fetched
 * data would make SWR drop an answer that is still on its way, and the page would never see it.
 */
export const useLive = create<{ media: Record<string, MediumProgress>; prints: Record<string, PrintProgress> }>()(() => ({ media: {}, prints: {} }));

const without = <T>(all: Record<string, T>, id: string): Record<string, T> => Object.fromEntries(Object.entries(all).filter(([key]) => key !== id));

export function noteMedium(id: string, progress: MediumProgress | null): void {
  useLive.setState(({ media }) => ({ media: progress ? { ...media, [id]: progress } : without(media, id) }));
}

export function notePrint(id: string, progress: PrintProgress | null): void {
  useLive.setState(({ prints }) => ({ prints: progress ? { ...prints, [id]: progress } : without(prints, id) }));
}

/** Prints with their progress of this moment; what has been stopped or ended stays as it was fetched. */
export const livePrints = (prints: readonly Print[], live: Record<string, PrintProgress>): Print[] =>
  prints.map((print) => (live[print.id] && isUnderWay(print.state) ? { ...print, ...live[print.id] } : print));

/** Shots with their footage's progress of this moment; footage that has come in or failed stays as it was fetched. */
export const liveShots = <T extends { medium: Medium }>(shots: readonly T[], live: Record<string, MediumProgress>): T[] =>
  shots.map((shot) => {
    const progress = live[shot.medium.id];
    return progress && (shot.medium.state === 'waiting' || shot.medium.state === 'working') ? { ...shot, medium: { ...shot.medium, ...progress } } : shot;
  });
