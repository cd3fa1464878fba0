/** Which footage a cut asks for, and where it is found: among files that were handed over, else among what is here. */
import type { CutIn } from '@tin-ghost/core';
import type { ReelSummary } from '@tin-ghost/contract';
import { groupImages, sequenceKey, sequenceName } from '../../api/sequences';

/** Footage of a cut: a file to be sent, images that are one sequence, or a shot whose footage is here. */
export type Source =
  | { readonly kind: 'file'; readonly file: File }
  | { readonly kind: 'images'; readonly files: readonly File[] }
  | { readonly kind: 'here'; readonly shot: string; readonly reel: string };

export interface Wanted {
  /** As the cut calls it; a sequence by its first image. */
  readonly name: string;
  readonly isSequence: boolean;
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

const filesOf = (files: readonly File[]): Source => (files.length > 1 ? { kind: 'images', files } : { kind: 'file', file: files[0]! });

/** Images that are counted like one that is named; one alone is a still. */
function imagesLike(name: string, files: readonly File[]): Source | null {
  const key = sequenceKey(name);
  const found = groupImages(files).find(([one]) => key !== undefined && sequenceKey(one!.name) === key);
  return found ? filesOf(found) : null;
}

function sourceOf(name: string, isSequence: boolean, files: readonly File[], here: readonly { shot: string; reel: string; name: string }[]): Source | null {
  if (isSequence) {
    const images = imagesLike(name, files);
    if (images) return images;
  } else
    for (const exact of [true, false]) {
      const file = files.find((one) => same(exact, name, one.name));
      if (file) return { kind: 'file', file };
    }
  const wanted = isSequence ? sequenceName(name) : name;
  for (const exact of [true, false]) {
    const found = here.find((one) => same(exact, wanted, one.name));
    if (found) return { kind: 'here', shot: found.shot, reel: found.reel };
  }
  return null;
}

/**
 * What a cut asks for, each file once, in its order.
 * @param byHand files that were found for a name by hand @param files that were handed over @param reels whose footage is here
 */
export function wantedBy(cut: CutIn, byHand: ReadonlyMap<string, readonly File[]>, files: readonly File[], reels: readonly ReelSummary[]): Wanted[] {
  const here = reels.flatMap((reel) => reel.shots.filter(({ medium }) => medium.state === 'ready').map(({ id, medium }) => ({ shot: id, reel: reel.name, name: medium.name })));
  const counts = new Map<string, { shots: number; isSequence: boolean }>();
  for (const { file, taken } of cut.shots) counts.set(file, { shots: (counts.get(file)?.shots ?? 0) + 1, isSequence: taken.by === 'images' });
  return [...counts].map(([name, { shots, isSequence }]) => {
    const chosen = byHand.get(name);
    return { name, shots, isSequence, source: chosen ? filesOf(chosen) : sourceOf(name, isSequence, files, here) };
  });
}
