import { bigint, boolean, customType, index, integer, jsonb, pgTable, real, text, timestamp, uniqueIndex, uuid } from 'drizzle-orm/pg-core';
import type { MediumState, PrintSettings, PrintState } from '@tin-ghost/contract';
import { broughtUp, type ClipOrigin, type CutOrigin, type Look, type Preparation } from '@tin-ghost/core';
import type { Footage } from '@tin-ghost/media';

const id = () => uuid('id').primaryKey().defaultRandom();
/** A look as the present version has it, whichever it was stored in. What is of a newer one cannot be read: the error says so. */
const storedLook = customType<{ data: Look; driverData: unknown }>({
  dataType: () => 'jsonb',
  toDriver: (look) => JSON.stringify(look),
  fromDriver: (stored) => broughtUp(stored) as Look,
});
const storedVersions = customType<{ data: readonly (Look | null)[]; driverData: unknown }>({
  dataType: () => 'jsonb',
  toDriver: (looks) => JSON.stringify(looks),
  fromDriver: (stored) => (stored as unknown[]).map((look) => look && (broughtUp(look) as Look)) as (Look | null)[],
});
const moment = (name: string) => timestamp(name, { withTimezone: true, mode: 'string' });

export const reels = pgTable('reels', {
  id: id(),
  name: text('name').notNull(),
  createdAt: moment('created_at').notNull().defaultNow(),
  touchedAt: moment('touched_at').notNull().defaultNow(),
  /** Its place on the shelf, from 0, where it was put there by hand; those that were not come before, the one changed last first. */
  place: integer('place'),
  /** Since when it lies in the bin; null where it does not. */
  discardedAt: moment('discarded_at'),
});

export const media = pgTable('media', {
  id: id(),
  name: text('name').notNull(),
  /** SHA-256 of the original, once read. */
  hash: text('hash'),
  bytes: bigint('bytes', { mode: 'number' }).notNull(),
  /** Name of the original in the medium's folder; uploads of a sequence stand in `sequence`. */
  original: text('original').notNull(),
  state: text('state').$type<MediumState>().notNull().default('waiting'),
  /** Share of the way in, 0 to 1. */
  progress: real('progress').notNull().default(0),
  error: text('error'),
  /** `path` is relative to the medium's folder. */
  footage: jsonb('footage').$type<Footage>(),
  proxyWidth: integer('proxy_width'),
  proxyHeight: integer('proxy_height'),
  hasSound: boolean('has_sound').notNull().default(false),
  /** Which of `workers` reads it in, and the job it is queued by. */
  workerId: uuid('worker_id'),
  jobId: uuid('job_id'),
  createdAt: moment('created_at').notNull().defaultNow(),
});

export const shots = pgTable(
  'shots',
  {
    id: id(),
    reelId: uuid('reel_id')
      .notNull()
      .references(() => reels.id, { onDelete: 'cascade' }),
    mediaId: uuid('media_id')
      .notNull()
      .references(() => media.id),
    position: integer('position').notNull(),
    /** Files that were sent together, and its place among them: it stands there whichever is there first. */
    sentWith: text('sent_with'),
    sentPlace: integer('sent_place'),
    name: text('name').notNull(),
    look: storedLook('look').notNull(),
    /** What is done to the footage before the look. */
    preparation: jsonb('preparation').$type<Preparation>().notNull().default({}),
    /** Other looks that it keeps; null stands for the one that is shown. */
    versions: storedVersions('versions').notNull().default([]),
    /** Rises with every kept change, so that two tabs cannot overwrite each other unseen. */
    revision: integer('revision').notNull().default(0),
    touchedAt: moment('touched_at').notNull().defaultNow(),
    /** Since when it lies in the bin; null where it does not. */
    discardedAt: moment('discarded_at'),
  },
  (table) => [index('shots_reel').on(table.reelId, table.position)],
);

/** What reels and shots were in the cuts that they came with: read only where a cut goes out again. */
export const cuts = pgTable('cuts', {
  reelId: uuid('reel_id')
    .primaryKey()
    .references(() => reels.id, { onDelete: 'cascade' }),
  origin: jsonb('origin').$type<CutOrigin>().notNull(),
});

export const clips = pgTable('clips', {
  shotId: uuid('shot_id')
    .primaryKey()
    .references(() => shots.id, { onDelete: 'cascade' }),
  origin: jsonb('origin').$type<ClipOrigin>().notNull(),
});

/** Looks the user has put away; those that ship come with the engine. */
export const looks = pgTable('looks', {
  id: id(),
  name: text('name').notNull(),
  look: storedLook('look').notNull(),
  createdAt: moment('created_at').notNull().defaultNow(),
});

/** Tables of colours that looks and preparations refer to, by the SHA-256 of their file. */
export const tables = pgTable('tables', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  body: text('body').notNull(),
  createdAt: moment('created_at').notNull().defaultNow(),
});

const bytes = customType<{ data: Buffer }>({ dataType: () => 'bytea' });

/** Fonts of the user's that captions refer to, by the SHA-256 of their file. */
export const fonts = pgTable('fonts', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  body: bytes('body').notNull(),
  /** Those it has, as a unicode-range of CSS. */
  characters: text('characters').notNull(),
  createdAt: moment('created_at').notNull().defaultNow(),
});

/** Stills and clips of the real thing, to hold a shot against: of a reel, or of all where they ship. */
export const references = pgTable(
  'references',
  {
    id: id(),
    reelId: uuid('reel_id').references(() => reels.id, { onDelete: 'cascade' }),
    mediaId: uuid('media_id')
      .notNull()
      .references(() => media.id),
    name: text('name').notNull(),
    /** Whether it comes with the application. */
    shipped: boolean('shipped').notNull().default(false),
    createdAt: moment('created_at').notNull().defaultNow(),
  },
  (table) => [index('references_reel').on(table.reelId)],
);

/** Clips and stills that looks lay over pictures. */
export const plates = pgTable('plates', {
  id: id(),
  mediaId: uuid('media_id')
    .notNull()
    .references(() => media.id),
  name: text('name').notNull(),
  /** What looks call it by, where it ships. */
  shippedAs: text('shipped_as').unique(),
  createdAt: moment('created_at').notNull().defaultNow(),
});

export const prints = pgTable('prints', {
  id: id(),
  shotId: uuid('shot_id').references(() => shots.id, { onDelete: 'set null' }),
  mediaId: uuid('media_id')
    .notNull()
    .references(() => media.id),
  name: text('name').notNull(),
  /** How many shots are in it; those after the first stand in `print_parts`. */
  shots: integer('shots').notNull().default(1),
  /** The look as it was when the print was ordered. */
  look: storedLook('look').notNull(),
  preparation: jsonb('preparation').$type<Preparation>().notNull().default({}),
  settings: jsonb('settings').$type<PrintSettings>().notNull(),
  state: text('state').$type<PrintState>().notNull().default('waiting'),
  done: integer('done').notNull().default(0),
  total: integer('total').notNull(),
  perSecond: real('per_second').notNull().default(0),
  secondsLeft: real('seconds_left').notNull().default(0),
  error: text('error'),
  bytes: bigint('bytes', { mode: 'number' }),
  /** Prints of a higher one come first. */
  priority: integer('priority').notNull().default(0),
  createdAt: moment('created_at').notNull().defaultNow(),
  finishedAt: moment('finished_at'),
});

/** What a print is made in: pictures of its film rendered and coded by somebody, and last of all the joining of those. */
export const printSegments = pgTable(
  'print_segments',
  {
    id: id(),
    printId: uuid('print_id')
      .notNull()
      .references(() => prints.id, { onDelete: 'cascade' }),
    position: integer('position').notNull(),
    kind: text('kind').$type<'wear' | 'join'>().notNull(),
    /** Pictures of the film, counted from 0: the first, and the one after the last. */
    from: integer('from').notNull(),
    to: integer('to').notNull(),
    state: text('state').$type<'waiting' | 'working' | 'done'>().notNull().default('waiting'),
    /** Which of `workers` has it: whoever else comes to an end with it is not heard. */
    workerId: uuid('worker_id'),
    /** The job it is queued by. */
    jobId: uuid('job_id'),
    done: integer('done').notNull().default(0),
    perSecond: real('per_second').notNull().default(0),
    /** How often it failed, and how often its worker went away. */
    fails: integer('fails').notNull().default(0),
    losses: integer('losses').notNull().default(0),
    /** It is not begun before. */
    notBefore: moment('not_before'),
  },
  (table) => [uniqueIndex('print_segments_print').on(table.printId, table.position), index('print_segments_state').on(table.state)],
);

/** Processes that take work, each seen every few seconds. */
export const workers = pgTable('workers', {
  id: uuid('id').primaryKey(),
  /** Of its machine. */
  name: text('name').notNull(),
  /** In which process numbers mean the same processes (`here` of media), and its number there. */
  place: text('place').notNull(),
  pid: integer('pid').notNull(),
  engine: text('engine').notNull(),
  threads: integer('threads').notNull(),
  startedAt: moment('started_at').notNull().defaultNow(),
  seenAt: moment('seen_at').notNull().defaultNow(),
});

/** What follows the first shot in a film of several, as it was when the film was ordered. */
export const printParts = pgTable(
  'print_parts',
  {
    id: id(),
    printId: uuid('print_id')
      .notNull()
      .references(() => prints.id, { onDelete: 'cascade' }),
    position: integer('position').notNull(),
    mediaId: uuid('media_id')
      .notNull()
      .references(() => media.id),
    look: storedLook('look').notNull(),
    preparation: jsonb('preparation').$type<Preparation>().notNull().default({}),
  },
  (table) => [index('print_parts_print').on(table.printId, table.position)],
);

/** Facts about this installation, such as whether the demo reel has been laid in. */
export const facts = pgTable('facts', { key: text('key').primaryKey(), value: text('value').notNull() });

export type Reel = typeof reels.$inferSelect;
export type Medium = typeof media.$inferSelect;
export type Shot = typeof shots.$inferSelect;
export type Reference = typeof references.$inferSelect;
export type Plate = typeof plates.$inferSelect;
export type Print = typeof prints.$inferSelect;
export type PrintSegment = typeof printSegments.$inferSelect;
