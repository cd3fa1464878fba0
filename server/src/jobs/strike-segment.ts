import { and, eq } from 'drizzle-orm';
import { fileStem } from '@tin-ghost/contract';
import { filmOf, joinSegments, strikeSegment, systemReason, WorkError, type Film, type Part } from '@tin-ghost/media';
import { isDatabaseAway } from '../db/client';
import { media, printParts, printSegments, prints, type Print, type PrintSegment } from '../db/schema';
import { StoreAwayError } from '../store/away';
import { filesFor } from '../store/look-files';
import { failureText } from './bring-in';
import { claim, endPrint, failPrint, finish, giveBack, isMine, newsOf, noteProgress, sumUp } from './claims';
import { occasionally, surely } from './persist';
import type { JobTools } from './tools';

/** A shot of a print, with what its look and its preparation refer to. */
async function partOf({ mediaId, look, preparation }: Pick<Print, 'mediaId' | 'look' | 'preparation'>, { db, store }: Pick<JobTools, 'db' | 'store'>): Promise<Part> {
  const [medium] = await db.select().from(media).where(eq(media.id, mediaId));
  return { footage: await store.footage(medium!), look, preparation, files: await filesFor(db, store, look, preparation) };
}

/** The film of a print, as it was when the print was ordered. */
async function filmFor(print: Print, tools: Pick<JobTools, 'db' | 'store'>): Promise<Film> {
  const later = await tools.db.select().from(printParts).where(eq(printParts.printId, print.id)).orderBy(printParts.position);
  const [first, ...following] = await Promise.all([print, ...later].map((part) => partOf(part, tools)));
  const { format, from, to, sound: _laid, ...chosen } = print.settings;
  return filmOf({ ...first!, following, container: format, ...chosen, ...(following.length ? {} : { from, to }) });
}

/** A segment that failed is tried again by whoever comes, unless it has failed this often. */
const TRIES = 3;
/** What hinders all work is tried again after this time, as long as it takes. */
const HINDERED_SECONDS = 10;
const RETRY_SECONDS = 1;

/** What a segment waits for, in words; undefined where waiting does not help. */
function hindrance(error: unknown): string | undefined {
  if (error instanceof StoreAwayError) return error.message;
  if (isDatabaseAway(error)) return 'the database cannot be reached';
  const reason = error instanceof WorkError ? error.message : systemReason(error);
  return reason === 'the disk is full' ? reason : undefined;
}

/** Renders a segment of a print, or joins all of them. Its file appears whole or not at all, and counts only where the segment is still this worker's. */
export async function strikeSegmentJob(id: string, { db, store, news, signal, presence, wake, free }: JobTools): Promise<void> {
  const segment = await claim(db, id, presence);
  if (!segment) return;
  const [print] = await db.select().from(prints).where(eq(prints.id, segment.printId));
  if (!print) return;
  const lost = new AbortController();
  const working = AbortSignal.any([signal, lost.signal]);
  const told = async (): Promise<void> => {
    const item = await sumUp(db, print.id);
    if (item) news.tell(item);
  };
  try {
    news.tell({ type: 'machines' });
    await told();
    const film = await filmFor(print, { db, store });
    if (segment.kind === 'wear') {
      await wearSegment(film, segment, { db, store, presence, working, lost, told, free });
      if (!(await surely(() => finish(db, segment, presence.id), signal))) throw new LostError();
      await surely(told, signal);
    } else {
      const file = await join(film, print, { db, store, working });
      if (!(await surely(() => isMine(db, segment, presence.id), signal))) throw new LostError();
      await store.keepPrint(print);
      const end = await surely(async () => endPrint(db, segment, presence.id, await store.size(file)), signal);
      if (!end) throw new LostError();
      news.tell(end);
      await store.dropSegments(print.id);
    }
  } catch (error) {
    if (signal.aborted) await giveBack(db, segment, presence.id).catch(() => undefined);
    else if (error instanceof LostError || lost.signal.aborted) await dropLeft(print, { db, store });
    else await failed(error, segment, print, { db, news, presence, signal });
  }
  news.tell({ type: 'machines' });
  wake();
}

/** The segment was taken away, or is not wanted any more. */
class LostError extends Error {}

type Tools = Pick<JobTools, 'db' | 'store' | 'presence' | 'free'>;

async function wearSegment(
  film: Film,
  segment: PrintSegment,
  { db, store, presence, free, working, lost, told }: Tools & { working: AbortSignal; lost: AbortController; told: () => Promise<void> },
): Promise<void> {
  let at = { done: 0, perSecond: 0 };
  const note = occasionally(async () => {
    if (!(await noteProgress(db, segment, presence.id, at))) lost.abort();
    else await told();
  });
  const file = await store.segmentPlace(segment);
  await strikeSegment(film, segment, {
    file,
    threads: presence.threads,
    signal: working,
    // The next one is rendered while the encoder comes to its end with this one.
    onRendered: free,
    onProgress: ({ done, perSecond }) => {
      at = { done, perSecond };
      note();
    },
  });
  await store.keepSegment(segment);
}

async function join(film: Film, print: Print, { db, store, working }: Pick<JobTools, 'db' | 'store'> & { working: AbortSignal }): Promise<string> {
  const rows = await db.select().from(printSegments).where(eq(printSegments.printId, print.id)).orderBy(printSegments.position);
  const segments = [];
  for (const row of rows.filter(({ kind }) => kind === 'wear')) segments.push({ from: row.from, to: row.to, file: await store.segment(row) });
  const file = store.print(print);
  await joinSegments(film, { segments, file, sound: print.settings.sound, stem: fileStem(print.name), signal: working });
  return file;
}

/** Removes what a lost segment left, where nobody goes on with the print. */
async function dropLeft(print: Print, { db, store }: Pick<JobTools, 'db' | 'store'>): Promise<void> {
  const [now] = await db.select({ state: prints.state }).from(prints).where(eq(prints.id, print.id));
  if (now && now.state !== 'done' && now.state !== 'stopped') return;
  await store.dropSegments(print.id);
  if (now?.state !== 'done') await store.dropPrint(print);
}

async function failed(error: unknown, segment: PrintSegment, print: Print, { db, news, presence, signal }: Pick<JobTools, 'db' | 'news' | 'presence' | 'signal'>): Promise<void> {
  const waitsFor = hindrance(error);
  if (waitsFor !== undefined) {
    await surely(() => giveBack(db, segment, presence.id, { seconds: HINDERED_SECONDS }), signal);
    const text = `${waitsFor}; it is tried again every ${HINDERED_SECONDS} s`;
    const waits = () =>
      db
        .update(prints)
        .set({ perSecond: 0, secondsLeft: 0, error: text })
        .where(and(eq(prints.id, print.id), eq(prints.state, 'striking')))
        .returning();
    const [waiting] = await surely(waits, signal);
    if (waiting) news.tell(newsOf(waiting));
    return;
  }
  // Few of its reasons are the footage's for certain, and a try costs little against a print that is given up.
  if (segment.fails + 1 < TRIES) return surely(() => giveBack(db, segment, presence.id, { seconds: RETRY_SECONDS, fails: true }), signal);
  const text = failureText(error);
  const end = await surely(() => failPrint(db, print.id, text), signal);
  if (end) news.tell(end);
}
