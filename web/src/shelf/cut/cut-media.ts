/** Which footage a cut asks for, and where it is found: among files that were handed over, else among what is here. */
import type { CutIn } from '@tin-ghost/core';
import type { ReelSummary } from '@tin-ghost/contract';

/** Footage of a cut: a file to be sent, or a shot whose footage is here. */
export type Source = { readonly kind: 'file'; readonly file: File } | { readonly kind: 'here'; readonly shot: string; readonly reel: string };

export interface Wanted {
  /** As the cut calls it. */
  readonly name: string;
  /** How many of its shots are of it. */
  readonly shots: number;
  /** null while it is missing. */
  readonly source: Source | null;
}

const ENDING = /\.[a-z0-9]{1,5}$/i;
const bare = (name: string): string => name.replace(ENDING, '').toLowerCase();

/** Whether a file may be the one that is meant: the same name, whatever its case; where the cut tells no ending, or another, without it. */
const same = (exact: boolean, wanted: string, name: string): boolean => (exact ? wanted.toLowerCase() === name.toLowerCase() : bare(wanted) === bare(name));

/** Files of cuts. */
export const isCutName = (name: string): boolean => /\.(otio|edl)$/i.test(name);

/**
 * What a cut asks for, each file once, in its order.
 * @param byHand files that were found for a name by hand @param files that were handed over @param reels whose footage is here
 */
export function wantedBy(cut: CutIn, byHand: ReadonlyMap<string, File>, files: readonly File[], reels: readonly ReelSummary[]): Wanted[] {
  const here = reels.flatMap((reel) => reel.shots.filter(({ medium }) => medium.state === 'ready').map(({ id, medium }) => ({ shot: id, reel: reel.name, name: medium.name })));
  const counts = new Map<string, number>();
  for (const { file } of cut.shots) counts.set(file, (counts.get(file) ?? 0) + 1);
  return [...counts].map(([name, shots]) => {
    const chosen = byHand.get(name);
    if (chosen) return { name, shots, source: { kind: 'file', file: chosen } };
    for (const exact of [true, false]) {
      const file = files.find((one) => same(exact, name, one.name));
      if (file) return { name, shots, source: { kind: 'file', file } };
    }
    for (const exact of [true, false]) {
      const found = here.find((one) => same(exact, name, one.name));
      if (found) return { name, shots, source: { kind: 'here', shot: found.shot, reel: found.reel } };
    }
    return { name, shots, source: null };
  });
}
