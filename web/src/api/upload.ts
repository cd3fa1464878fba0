import { toast } from 'sonner';
import pLimit from 'p-limit';
import type { Upload } from 'tus-js-client';
import { create } from 'zustand';
import type { SequenceMade } from '@tin-ghost/contract';
import { api, refresh } from './client';
import { groupImages, isImage, sequenceName } from './sequences';
import { texts } from '../messages/api';

/** A file on its way to the server. */
export interface Sending {
  key: string;
  name: string;
  share: number;
  error: string | null;
  stop: () => void;
}

export const useSendings = create<{ list: Sending[] }>(() => ({ list: [] }));

const change = (key: string, more: Partial<Sending>): void => useSendings.setState(({ list }) => ({ list: list.map((s) => (s.key === key ? { ...s, ...more } : s)) }));
export const dismissSending = (key: string): void => useSendings.setState(({ list }) => ({ list: list.filter((s) => s.key !== key) }));

/** What sends files is loaded after the first screen. */
export const openSender = () => import('tus-js-client');

/** What the server said of a refused upload, without the protocol's own words. */
function reasonOf(error: Error & { originalResponse?: { getBody(): string } | null }): string {
  try {
    return (JSON.parse(error.originalResponse?.getBody() ?? '') as { error: { message: string } }).error.message;
  } catch {
    return texts.serverCannotBeReached;
  }
}

/** Files that are sent at once; the others wait for them. */
const inTurn = pLimit(3);

/** Refusals that may be over soon: the file is in use, or locked, or the server has as many as it takes at once. */
const PASSING = [409, 423, 429];
/** Whether what went wrong may be over when it is tried again. @param status of the answer, 0 where there was none */
const passes = (status: number): boolean => navigator.onLine && (status < 400 || status >= 500 || PASSING.includes(status));

/** @returns its key in the list, and the id of the upload; null where it was stopped */
function send(file: File, metadata: Record<string, string>): { key: string; done: Promise<string | null> } {
  const key = crypto.randomUUID();
  let begin = (): Promise<void> => Promise.resolve();
  const done = new Promise<string | null>((resolve, reject) => {
    let stopped = false;
    let upload: Upload | undefined;
    const failed = (error: Error): void => reject(new Error(reasonOf(error)));
    const stop = (): void => {
      stopped = true;
      resolve(null);
      void Promise.resolve(upload?.abort(true)).then(() => dismissSending(key));
    };
    useSendings.setState(({ list }) => ({ list: [...list, { key, name: file.name, share: 0, error: null, stop }] }));
    // The same file sent before and cut off goes on where it was.
    begin = async () => {
      const sender = await openSender().catch(failed);
      if (stopped || !sender) return;
      const made = new sender.Upload(file, {
        endpoint: '/api/uploads',
        chunkSize: 16 * 1024 * 1024,
        retryDelays: [500, 1500, 4000, 8000],
        onShouldRetry: (error) => passes(error.originalResponse?.getStatus() ?? 0),
        removeFingerprintOnSuccess: true,
        metadata: { filename: file.name, ...metadata },
        onProgress: (sent, total) => change(key, { share: total ? sent / total : 1 }),
        onError: failed,
        onSuccess: () => resolve(made.url?.split('/').at(-1) ?? ''),
      });
      upload = made;
      const [before] = await made.findPreviousUploads();
      if (before) made.resumeFromPreviousUpload(before);
      // Stopped while it was looked for.
      if (!stopped) made.start();
      await done.catch(() => undefined);
    };
  });
  void inTurn(begin);
  return { key, done };
}

/** Sends files to a reel: several images at once become one sequence, all else a shot each, in the order they were given. */
export async function bringFiles(files: File[], reel: string): Promise<void> {
  const images = files.filter((file) => isImage(file.name));
  const sequence = images.length > 1 ? images : [];
  const single = files.filter((file) => !sequence.includes(file));
  const together = crypto.randomUUID();
  await Promise.all([...single.map((file, place) => settle(send(file, { reel, together, place: String(place) }))), sequence.length ? sendSequence(sequence, reel) : null]);
  await refresh('/reels');
}

/** Sends stills or clips to hold shots against: those of a reel, or of all reels without one. */
export async function bringReferences(files: readonly File[], reel?: string): Promise<void> {
  await Promise.all(files.map((file) => settle(send(file, { ...(reel !== undefined && { reel }), as: 'reference' }))));
  await refresh('/references');
}

/** Sends clips, stills and sequences of images to be laid over pictures. @returns ids of their media; of those that did not get there null */
export async function bringPlates(files: readonly File[]): Promise<(string | null)[]> {
  const media = await Promise.all(groupImages(files).map((group) => (group.length > 1 ? sendSequence(group, null) : bringPlate(group[0]!))));
  await refresh('/plates');
  return media;
}

/** The medium that an upload becomes: its id, as ids are written. */
const mediumOf = (upload: string | null): string | null => upload && upload.replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, '$1-$2-$3-$4-$5');

const bringPlate = async (file: File): Promise<string | null> => mediumOf(await settle(send(file, { as: 'plate' })));

/** Sends one file to a reel, as a shot. @returns the id of its medium, null where it did not get there */
export const bringFile = async (file: File, reel: string): Promise<string | null> => mediumOf(await settle(send(file, { reel })));

/** Sends images to a reel, as one shot. @returns the id of their medium, null where they did not get there */
export const bringSequence = (files: readonly File[], reel: string): Promise<string | null> => sendSequence(files, reel);

async function settle({ key, done }: { key: string; done: Promise<string | null> }): Promise<string | null> {
  try {
    const id = await done;
    dismissSending(key);
    return id;
  } catch (error) {
    change(key, { error: (error as Error).message });
    return null;
  }
}

/** @returns the id of its medium, null where it did not get there */
async function sendSequence(files: readonly File[], reel: string | null): Promise<string | null> {
  const uploads: string[] = [];
  for (const file of files) {
    const id = await settle(send(file, {}));
    if (!id) return null;
    uploads.push(id);
  }
  const name = sequenceName(files[0]!.name);
  return api<SequenceMade>('/uploads/sequence', { method: 'POST', body: { reel, uploads, name } }).then(
    ({ medium }) => medium,
    (error: Error) => {
      toast.error(`${name}: ${error.message}`);
      return null;
    },
  );
}
