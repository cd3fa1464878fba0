import type { Source } from '../../render/protocol';

/** Runs of pictures that are ready, as from and to. */
export function runsOf(frames: ReadonlySet<number>): { from: number; to: number }[] {
  const runs: { from: number; to: number }[] = [];
  for (const n of [...frames].sort((a, b) => a - b)) {
    const last = runs.at(-1);
    if (last && last.to === n) last.to = n + 1;
    else runs.push({ from: n, to: n + 1 });
  }
  return runs;
}

/** Where the whole footage lies so that the part of it that the shot takes fills the strip. */
export function takenPart(frames: number, { preparation, frames: shown }: Pick<Source, 'preparation' | 'frames'>): { left: string; width: string } {
  // A speed that does not go up leaves a rest of the trim unshown.
  const length = shown * (preparation.speed ?? 1);
  return { left: `${(-100 * (preparation.trim?.from ?? 0)) / length || 0}%`, width: `${(100 * frames) / length}%` };
}
