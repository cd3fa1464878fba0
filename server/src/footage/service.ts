import { randomUUID } from 'node:crypto';
import { copyFile, mkdir } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { UNDER_WAY } from '@tin-ghost/contract';
import { and, eq, gt, gte, inArray, isNull, min, notExists, sql } from 'drizzle-orm';
import { EMPTY_LOOK, plateIds, type Look } from '@tin-ghost/core';
import type { Database } from '../db/client';
import { media, plates, printParts, prints, reels, references, shots, type Medium } from '../db/schema';
import type { Jobs } from '../jobs/jobs';
import type { Newsroom } from '../newsroom';
import { notFound, Refusal } from '../refusal';
import type { MediaStore } from '../store/media-store';
import { plateKey } from '../views';

/** A new shot's look: one life, nothing in it yet. */
const FRESH_LOOK: Look = { ...EMPTY_LOOK, name: 'New look', lives: [{ carrier: 'super8', traits: [] }] };

/** What is known of footage before it is read. */
export interface NewMedium {
  readonly id: string;
  readonly name: string;
  readonly bytes: number;
  readonly original: string;
}

/** Which files were sent together, and a file's place among them, from 0. */
export interface Sent {
  readonly together: string;
  readonly place: number;
}

const withoutEnding = (name: string): string => name.replace(/\.[^.]{1,5}$/, '') || name;

/** Footage from the moment it is known of until nothing refers to it: its row, its folder and the import that works on it go together. */
export class FootageService {
  constructor(private readonly context: { readonly db: Database; readonly store: MediaStore; readonly news: Newsroom; readonly jobs: Jobs }) {}

  /**
   * Puts footage on the end of a reel, before those that were sent together with it and come after it; footage that stands there already stays as it is. Its file may still be on the way.
   * @returns the shot's id
   * @throws Refusal `not-found` where the reel is gone
   */
  async addShot(
    reelId: string,
    medium: NewMedium,
    { look = FRESH_LOOK, name = withoutEnding(medium.name), sent }: { look?: Look; name?: string; sent?: Sent } = {},
  ): Promise<string> {
    const { db, news } = this.context;
    const shotId = await db.transaction(async (tx) => {
      const [reel] = await tx
        .update(reels)
        .set({ touchedAt: sql`now()` })
        .where(and(eq(reels.id, reelId), isNull(reels.discardedAt)))
        .returning();
      if (!reel) throw notFound('reel');
      const made = await tx.insert(media).values(medium).onConflictDoNothing().returning({ id: media.id });
      const [known] = made.length ? [] : await tx.select({ id: shots.id }).from(shots).where(eq(shots.mediaId, medium.id));
      if (known) return known.id;
      // The reel's row is locked: of files sent together, one is put in after the other.
      const [before] = sent
        ? await tx
            .select({ position: min(shots.position) })
            .from(shots)
            .where(and(eq(shots.reelId, reelId), eq(shots.sentWith, sent.together), gt(shots.sentPlace, sent.place)))
        : [];
      const found = before?.position ?? null;
      if (found !== null)
        await tx
          .update(shots)
          .set({ position: sql`${shots.position} + 1` })
          .where(and(eq(shots.reelId, reelId), gte(shots.position, found)));
      const position = found ?? sql<number>`(select coalesce(max(position) + 1, 0) from shots where reel_id = ${reelId})`;
      const [shot] = await tx.insert(shots).values({ reelId, mediaId: medium.id, position, sentWith: sent?.together, sentPlace: sent?.place, name, look }).returning();
      return shot!.id;
    });
    news.tell({ type: 'reels' });
    return shotId;
  }

  /** As `addShot`, for footage to hold shots against: of a reel, or of all where `reelId` is null. @param shipped whether it comes with the application */
  async addReference(reelId: string | null, medium: NewMedium, name = withoutEnding(medium.name), shipped = false): Promise<string> {
    const { db, news } = this.context;
    const id = await db.transaction(async (tx) => {
      if (reelId) {
        const [reel] = await tx
          .select({ id: reels.id })
          .from(reels)
          .where(and(eq(reels.id, reelId), isNull(reels.discardedAt)))
          .for('share');
        if (!reel) throw notFound('reel');
      }
      const made = await tx.insert(media).values(medium).onConflictDoNothing().returning({ id: media.id });
      const [known] = made.length ? [] : await tx.select({ id: references.id }).from(references).where(eq(references.mediaId, medium.id));
      if (known) return known.id;
      const [row] = await tx.insert(references).values({ reelId, mediaId: medium.id, name, shipped }).returning();
      return row!.id;
    });
    news.tell({ type: 'reels' });
    return id;
  }

  /** Keeps footage as a plate. @param shippedAs what looks call it by, where it ships */
  async addPlate(medium: NewMedium, name = withoutEnding(medium.name), shippedAs: string | null = null): Promise<string> {
    const { db, news } = this.context;
    const id = await db.transaction(async (tx) => {
      const made = await tx.insert(media).values(medium).onConflictDoNothing().returning({ id: media.id });
      const [known] = made.length ? [] : await tx.select({ id: plates.id }).from(plates).where(eq(plates.mediaId, medium.id));
      if (known) return known.id;
      const [row] = await tx.insert(plates).values({ mediaId: medium.id, name, shippedAs }).returning();
      return row!.id;
    });
    news.tell({ type: 'reels' });
    return id;
  }

  /** Copies a file of this machine into the store, as a medium of its own. */
  async copyIn(path: string): Promise<NewMedium> {
    const { store } = this.context;
    const [id, name] = [randomUUID(), basename(path)];
    const original = store.originalName(name);
    const target = join(store.folder(id), original);
    await mkdir(store.folder(id), { recursive: true });
    await copyFile(path, target);
    return { id, name, bytes: await store.size(target), original };
  }

  /** Has footage read whose file is there whole. */
  async begin(id: string): Promise<void> {
    await this.context.jobs.bringIn(id);
  }

  /**
   * Imports footage again, from its original, which is as it was sent.
   * @throws Refusal `wrong-state` where it did not fail
   */
  async again(id: string): Promise<Medium> {
    const { db, news } = this.context;
    const [again] = await db
      .update(media)
      .set({ state: 'waiting', progress: 0, error: null })
      .where(and(eq(media.id, id), eq(media.state, 'failed')))
      .returning();
    if (!again) throw new Refusal('wrong-state', 'only footage that failed to come in can be tried again');
    await this.begin(id);
    news.tell({ type: 'media', id, state: 'waiting', progress: 0, error: null });
    return again;
  }

  /** Deletes a reference. @throws Refusal `not-found`, or `wrong-state` where it ships */
  async discardReference(id: string): Promise<void> {
    const { db } = this.context;
    const [row] = await db.select().from(references).where(eq(references.id, id));
    if (!row) throw notFound('reference');
    if (row.shipped) throw new Refusal('wrong-state', 'a reference that ships stays');
    await db.delete(references).where(eq(references.id, id));
    await this.gone([row.mediaId]);
  }

  /** Deletes a plate. @throws Refusal `not-found`, or `wrong-state` where it ships or a print under way needs it */
  async discardPlate(id: string): Promise<void> {
    const { db } = this.context;
    const [row] = await db.select({ plate: plates, medium: media }).from(plates).innerJoin(media, eq(media.id, plates.mediaId)).where(eq(plates.id, id));
    if (!row) throw notFound('plate');
    if (row.plate.shippedAs !== null) throw new Refusal('wrong-state', 'a plate that ships stays');
    const key = plateKey(row.plate, row.medium);
    const under = await db
      .select({ name: prints.name, look: prints.look, later: printParts.look })
      .from(prints)
      .leftJoin(printParts, eq(printParts.printId, prints.id))
      .where(inArray(prints.state, [...UNDER_WAY]));
    const needing = under.find(({ look, later }) => key !== null && [look, ...(later ? [later] : [])].some((worn) => plateIds(worn).includes(key)));
    if (needing) throw new Refusal('wrong-state', `the print ${needing.name} that is being struck needs this plate`);
    await db.delete(plates).where(eq(plates.id, id));
    await this.gone([row.medium.id]);
  }

  /** Removes footage that was referred to, where nothing refers to it any more. */
  async gone(ids: readonly string[]): Promise<void> {
    await this.discardUnused(ids);
    this.context.news.tell({ type: 'reels' });
  }

  /**
   * Removes footage that nothing refers to any more, neither shot nor reference, plate nor print: work on it is ended, its row and its files go.
   * @param ids those to look at; all there are by default
   * @returns those that went
   */
  async discardUnused(ids?: readonly string[]): Promise<string[]> {
    const { db, jobs, store } = this.context;
    const gone: string[] = [];
    for (const id of ids ?? (await this.unused()).map((row) => row.id)) {
      const [row] = await db
        .delete(media)
        .where(and(eq(media.id, id), ...this.nobodyRefers()))
        .returning({ id: media.id });
      if (!row) continue;
      // Its files are removed when nothing writes them any more.
      await jobs.cancel(id);
      await store.forget(id);
      gone.push(id);
    }
    return gone;
  }

  private unused() {
    return this.context.db
      .select({ id: media.id })
      .from(media)
      .where(and(...this.nobodyRefers()));
  }

  private nobodyRefers() {
    const { db } = this.context;
    return [shots, references, plates, prints, printParts].map((table) =>
      notExists(
        db
          .select({ id: table.id })
          .from(table as typeof shots)
          .where(eq(table.mediaId, media.id)),
      ),
    );
  }
}
