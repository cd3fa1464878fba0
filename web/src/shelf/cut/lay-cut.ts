/** A cut becomes a reel: its files are sent, and when they have come in its shots are laid in their order. */
import { placeShot, type CutIn, type CutInShot } from '@tin-ghost/core';
import type { CutOrder, Footage, Reel, ReelSummary, Shot } from '@tin-ghost/contract';
import { api, refresh } from '../../api/client';
import { bringFile, bringSequence } from '../../api/upload';
import { imageNumber } from '../../api/sequences';
import type { Wanted } from './cut-media';
import { texts } from '../../messages/cut';

/** How far it has come. */
export interface Progress {
  readonly done: number;
  readonly of: number;
}

export interface LaidCut {
  readonly reel: string;
  /** What is otherwise than in the cut, in words. */
  readonly notes: readonly string[];
}

/** Footage that is on its way in is asked after as often. */
const ASK_MS = 500;
const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** A shot's footage, ready; or why there is none. */
interface Ready {
  readonly shot: string;
  readonly footage: Footage | null;
  readonly error: string | null;
}

/** Sends files to a reel and waits until they have come in. @returns by the name that the cut has for each */
async function bring(reel: string, wanted: readonly Wanted[], onProgress: (progress: Progress) => void): Promise<Map<string, Ready>> {
  const media = new Map<string, string>();
  const found = new Map<string, Ready>();
  const files = wanted.flatMap(({ name, source }) => (source?.kind === 'file' ? [{ name, file: source.file }] : []));
  // Two names may be of one file.
  const once = [...new Map(files.map(({ file }) => [file, file])).values()];
  await Promise.all([
    ...once.map(async (file) => {
      const medium = await bringFile(file, reel);
      for (const { name } of files.filter((one) => one.file === file)) if (medium) media.set(name, medium);
    }),
    ...wanted.map(async ({ name, source }) => {
      const medium = source?.kind === 'images' ? await bringSequence(source.files, reel) : null;
      if (medium) media.set(name, medium);
    }),
  ]);
  for (;;) {
    const { shots } = await api<Reel>(`/reels/${reel}`);
    const all = [...media].map(([name, medium]) => [name, shots.find((shot) => shot.medium.id === medium)] as const);
    const under = all.filter(([, shot]) => shot?.medium.state === 'waiting' || shot?.medium.state === 'working');
    onProgress({ done: all.length - under.length, of: all.length });
    if (under.length === 0) {
      // One that was deleted meanwhile is as good as missing.
      for (const [name, shot] of all) if (shot) found.set(name, { shot: shot.id, footage: shot.medium.footage, error: shot.medium.error });
      return found;
    }
    await pause(ASK_MS);
  }
}

/** A shot whose images are counted from the first that was found, where the cut counts from another. */
function counted(shot: CutInShot, wanted: readonly Wanted[]): CutInShot {
  const source = wanted.find(({ name }) => name === shot.file)?.source;
  if (shot.taken.by !== 'images' || source?.kind !== 'images') return shot;
  const first = Math.min(...source.files.map(({ name }) => imageNumber(name)));
  return { ...shot, taken: { ...shot.taken, from: shot.taken.from + imageNumber(shot.file) - first } };
}

export const keptNote = ({ kept }: CutIn): string => texts.notShownHereButExported(kept.join('; '));

/**
 * @throws ApiError where the server refuses; the reel then stands with the files that came in
 */
export async function layCut(cut: CutIn, wanted: readonly Wanted[], onProgress: (progress: Progress) => void): Promise<LaidCut> {
  const { id: reel } = await api<ReelSummary>('/reels', { method: 'POST', body: { name: cut.name.slice(0, 160) } });
  const ready = await bring(reel, wanted, onProgress);
  for (const { name, source } of wanted)
    if (source?.kind === 'here') {
      const { medium } = await api<Shot>(`/shots/${source.shot}`);
      ready.set(name, { shot: source.shot, footage: medium.footage, error: null });
    }
  const notes = cut.left.map((what) => texts.leftOut(what));
  if (cut.kept.length) notes.push(keptNote(cut));
  for (const { name, shots } of wanted) if (!ready.get(name)?.footage) notes.push(texts.fileLeftOut(name, ready.get(name)?.error ?? null, shots));
  const laid = cut.shots.flatMap((shot): CutOrder['shots'][number][] => {
    const source = ready.get(shot.file);
    if (!source?.footage) return [];
    const placed = placeShot(counted(shot, wanted), source.footage);
    notes.push(...placed.notes.map((note) => `${shot.name} ${note}.`));
    const { preparation } = placed;
    const { trim, speed } = preparation;
    const name = shot.name.slice(0, 160);
    const laid = { name, ...(trim && { trim }), ...(speed !== undefined && { speed }) };
    return [{ from: source.shot, name, ...(shot.look && { look: shot.look }), preparation, ...(shot.origin && { origin: { ...shot.origin, laid } }) }];
  });
  if (laid.length) await api(`/reels/${reel}/cut`, { method: 'PUT', body: { shots: laid, ...(cut.origin && { origin: cut.origin }) } satisfies CutOrder });
  await refresh('/reels');
  return { reel, notes };
}
