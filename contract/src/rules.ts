// The types of this package as rules. The compiler holds each against its type: a field that one of them lacks does not compile.
import Joi from 'joi';
import type { ClipOrigin, CutOrigin, EdlEvent, Encoding, Look, Preparation } from '@tin-ghost/core';
import { ERROR_STATUS, type ErrorAnswer } from './errors';
import { NAME_FIELDS, unknownField } from './print-name';
import * as T from './types';

/** The database's whole numbers end here. */
const LARGEST_INTEGER = 2_147_483_647;

/** A whole number that the database can hold. */
export const count = (least = 0): Joi.NumberSchema => Joi.number().integer().min(least).max(LARGEST_INTEGER);

const UNPRINTED = /[\u0000-\u001f\u007f-\u009f\u2028\u2029\p{Cs}]+/gu;

/** A text in one line, in one spelling (NFC), without what is no character. @param most characters */
export function oneLine(text: string, most: number): string {
  return [...text.normalize('NFC').replace(UNPRINTED, ' ').replace(/\s+/g, ' ').trim()].slice(0, most).join('').trim();
}

/** A name that a person gives: one line, not empty. */
export const nameText = (most = 160): Joi.StringSchema =>
  Joi.string()
    .max(most)
    .custom((value: string, helpers) => oneLine(value, most) || helpers.error('string.empty'));

const id = Joi.string().uuid();
const moment = Joi.string().description('A moment with its time zone, as PostgreSQL writes it');
const text = Joi.string().allow('');
const size = Joi.number().integer().min(1);
/** Every field must be there, but one that is said to be optional; null is said where it may stand. */
const object = <S>(fields: Joi.StrictSchemaMap<S>): Joi.ObjectSchema<S> =>
  Joi.object<S>(Object.fromEntries(Object.entries(fields).map(([key, rule]) => [key, present(rule as Joi.Schema)])) as Joi.PartialSchemaMap<S>);
const present = (rule: Joi.Schema): Joi.Schema => ((rule.describe().flags as { presence?: string } | undefined)?.presence === 'optional' ? rule : rule.required());
/** Checked by the engine: its rules are `docs/look.schema.json`. */
const look = Joi.object<Look>().unknown().description('A look (tin-ghost/look); its own schema is docs/look.schema.json');
const preparation = Joi.object<Preparation>().unknown().description('What is done to the footage before the look');

const Sound = object<NonNullable<T.Footage['sound']>>({ codec: text, channels: Joi.number().integer().min(0), sampleRate: Joi.number().min(0) });
const EncodingRule = object<Encoding>({
  layout: Joi.string().valid('rgb', 'yuv'),
  bits: Joi.number().integer().min(8).max(16),
  subX: Joi.number().valid(0, 1),
  subY: Joi.number().valid(0, 1),
  matrix: Joi.string().valid('bt601', 'bt709', 'bt2020'),
  range: Joi.string().valid('full', 'limited'),
});
const Footage = object<T.Footage>({
  kind: Joi.string().valid('clip', 'still', 'sequence'),
  codec: text,
  width: size,
  height: size,
  rate: object<T.Footage['rate']>({ num: size, den: size }),
  constantRate: Joi.boolean(),
  frames: size,
  encoding: EncodingRule,
  interlaced: Joi.boolean(),
  timecode: Joi.string().optional(),
  rotation: Joi.number().valid(0, 90, 180, 270),
  stacked: Joi.boolean(),
  sound: Sound.allow(null),
});

export const Medium = object<T.Medium>({
  id,
  name: text,
  bytes: Joi.number().integer().min(0),
  state: Joi.string().valid('waiting', 'working', 'ready', 'failed'),
  progress: Joi.number().min(0).max(1),
  error: text.allow(null),
  footage: Footage.allow(null),
  proxyWidth: size.allow(null),
  proxyHeight: size.allow(null),
  hasSound: Joi.boolean(),
  createdAt: moment,
});

const words = Joi.string().max(500);
/** A word of an EDL, whose columns are parted by spaces. */
const column = Joi.string().max(100).pattern(/^\S+$/);
const pair = Joi.array().items(column).length(2);
const edlEvent = {
  reel: column,
  source: pair as never,
  order: count(),
  number: column,
  channels: column,
  record: pair as never,
  transition: Joi.object({ kind: column.required(), length: column.allow('').required(), reel: column, at: column }) as never,
  retimed: words,
  comments: Joi.array().items(words.allow('')).max(100) as never,
  drop: Joi.boolean(),
};
const edlEvents = Joi.array()
  .items(Joi.object<EdlEvent>({ ...edlEvent, reel: column.required(), source: pair.required() as never }))
  .max(10_000) as never;
const clipOrigin = Joi.object<ClipOrigin>({
  clip: Joi.object().unknown().description('Its object in OTIO'),
  before: Joi.array().items(Joi.any()) as never,
  within: Joi.array().items(count()).max(64) as never,
  ...edlEvent,
  passed: edlEvents,
  laid: Joi.object({ name: Joi.string().required(), trim: Joi.object({ from: count().required(), to: count().required() }), speed: Joi.number() }) as never,
}).description('What it was in the cut that it came with; it goes out again as it came, but for what was changed');
const cutOrigin = Joi.object<CutOrigin>({
  timeline: Joi.object().unknown().description('The timeline in OTIO, empty where the reel’s shots were'),
  track: count(),
  after: Joi.array().items(Joi.any()) as never,
  nests: Joi.array().items(Joi.object({ item: Joi.object().unknown().required(), before: Joi.array().items(Joi.any()) })) as never,
  passed: edlEvents,
  start: column,
}).description('What the reel was in the cut that it came with');

export const ReelCut = object<T.ReelCut>({
  origin: cutOrigin.allow(null),
  clips: Joi.array().items(object<T.ReelCut['clips'][number]>({ shot: id, origin: clipOrigin })) as never,
});

export const Shot = object<T.Shot>({
  id,
  reelId: id,
  name: text,
  position: count(),
  look,
  preparation,
  versions: Joi.array().items(look.allow(null)) as never,
  revision: count(),
  touchedAt: moment,
  medium: Medium,
});

const head = { id, name: text, createdAt: moment, touchedAt: moment };
export const ReelHead = object<T.ReelHead>(head);
export const ReelSummary = object<T.ReelSummary>({
  ...head,
  shots: Joi.array().items(object<T.ReelSummary['shots'][number]>({ id, name: text, medium: Medium, frames: count().allow(null) })),
});
export const Reel = object<T.Reel>({ ...head, shots: Joi.array().items(Shot) });

export const Bin = object<T.Bin>({
  reels: Joi.array().items(object<T.Bin['reels'][number]>({ id, name: text, discardedAt: moment, shots: count(), medium: Medium.allow(null) })),
  shots: Joi.array().items(object<T.Bin['shots'][number]>({ id, name: text, discardedAt: moment, reelId: id, reel: text, medium: Medium })),
});

const format = Joi.string().valid(...Object.keys(T.PRINT_CODINGS));
const quality = Joi.string().valid('check', 'deliver', 'master');
const coding = Joi.string().valid(...Object.values(T.PRINT_CODINGS).flat());
const bits = Joi.number().valid(8, 10, 16);
const bitRate = Joi.number().min(T.BIT_RATE.least).max(T.BIT_RATE.most).description('Mean Mbit/s of the pictures, in place of a quality; of H.264, H.265, VP9 and AV1');
const ground = Joi.string().valid('alpha', 'grey', 'black').description('The wear alone: with alpha, over grey or over black');
const PrintSettings = object<T.PrintSettings>({
  format,
  coding: coding.optional(),
  bits: bits.optional(),
  ground: ground.optional(),
  firstNumber: count().optional(),
  quality: quality.optional(),
  bitRate: bitRate.optional(),
  width: size,
  height: size,
  from: count(),
  to: count(1),
  sound: Joi.boolean(),
});
export const Print = object<T.Print>({
  id,
  shotId: id.allow(null),
  mediaId: id,
  name: text,
  shots: count(1),
  look,
  preparation,
  settings: PrintSettings,
  state: Joi.string().valid(...T.UNDER_WAY, 'done', 'failed', 'stopped'),
  done: count(),
  total: count(),
  perSecond: Joi.number().min(0),
  secondsLeft: Joi.number().min(0),
  error: text.allow(null),
  priority: Joi.number().integer(),
  bytes: Joi.number().integer().min(0).allow(null),
  createdAt: moment,
  finishedAt: moment.allow(null),
});

export const Session = object<T.Session>({ needed: Joi.boolean(), open: Joi.boolean() });
export const Password = object<T.Password>({ password: Joi.string().min(1).max(500) });
export const Health = object<T.Health>({ version: text, seconds: Joi.number().min(0) });
export const Readiness = object<T.Readiness>({ free: Joi.number().min(0) });

export const Machine = object<T.Machine>({
  id,
  name: text,
  threads: count(1),
  startedAt: moment,
  seenAt: moment,
  doing: Joi.array<T.Machine['doing'][number][]>().items(
    object<T.Machine['doing'][number]>({
      kind: Joi.string().valid('wear', 'join', 'import'),
      name: text,
      from: count(),
      to: count(),
      done: count(),
      perSecond: Joi.number().min(0),
    }),
  ) as never,
});

export const Reference = object<T.Reference>({ id, reelId: id.allow(null), name: text, shipped: Joi.boolean(), createdAt: moment, medium: Medium });
export const StoredPlate = object<T.StoredPlate>({
  id,
  key: Joi.string().allow(null),
  name: text,
  shipped: Joi.boolean(),
  light: Joi.array<number[]>().items(Joi.number()).allow(null) as never,
  createdAt: moment,
  medium: Medium,
});
export const StoredTable = object<T.StoredTable>({ id: Joi.string().pattern(/^[0-9a-f]{64}$/), name: text });
export const StoredFont = object<T.StoredFont>({
  id: Joi.string(),
  name: text,
  shipped: Joi.boolean(),
  characters: text,
});
export const StoredLook = object<T.StoredLook>({ id: Joi.string(), look, shipped: Joi.boolean() });
export const LookKept = object<T.LookKept>({ revision: count(), touchedAt: moment });
export const Created = object<{ shot: string }>({ shot: id });
export const SequenceMade = object<T.SequenceMade>({ shot: id.allow(null), medium: id });

export const ErrorRule = object<ErrorAnswer>({
  error: object<ErrorAnswer['error']>({
    code: Joi.string().valid(...Object.keys(ERROR_STATUS)),
    message: Joi.string(),
    problems: Joi.array().items(object<ErrorAnswer['error']['problems'][number]>({ path: text, message: Joi.string() })),
  }),
});

/** What may be sent. Fields are optional here unless a rule says otherwise. */
export const Named = Joi.object<{ name: string }, true>({ name: nameText().required() });
export const ReelsOrder = Joi.object<{ reels: string[] }, true>({ reels: Joi.array().items(id).unique().required() });
export const Order = Joi.object<{ shots: string[] }, true>({ shots: Joi.array().items(id).unique().required() });
export const CutOrder = Joi.object<T.CutOrder>({
  shots: Joi.array<T.CutOrder['shots']>()
    .items(
      Joi.object({
        from: id.required().description('A shot of any reel, whose footage has come in'),
        name: nameText().required(),
        look: Joi.any().description('A look; left out, that of the shot it is taken from'),
        preparation: Joi.any().required().description('What is done to the footage before the look'),
        origin: clipOrigin,
      }),
    )
    .min(1)
    .max(10_000)
    .required() as never,
  origin: cutOrigin,
});
export const LookChange = Joi.object<T.LookChange>({
  look: Joi.any().required().description('A look; its own schema is docs/look.schema.json'),
  preparation: Joi.any().description('What is done to the footage before the look; left out, it stays as it is'),
  versions: Joi.array<unknown[]>()
    .items(Joi.any().allow(null))
    .max(T.MOST_VERSIONS)
    .description('Other looks that the shot keeps, null in the place of the one that is shown; left out, they stay as they are') as never,
  revision: count().required(),
});
const side = Joi.number().integer().min(16).max(8192);
const namePattern = nameText()
  .custom((value: string, helpers) => {
    const field = unknownField(value);
    return field === undefined ? value : helpers.error('name.field', { field });
  })
  .messages({ 'name.field': `{{#label}} has "{{#field}}" in braces, which is none of ${NAME_FIELDS.join(', ')}` })
  .description(`Its name, in which ${NAME_FIELDS.map((field) => `{${field}}`).join(', ')} are put in; of a film, those of its first shot`);
export const PrintOrder = Joi.object<T.PrintOrder, true>({
  shotId: id.required(),
  following: Joi.array<string[]>().items(id).max(500).description('Shots that come after it in one film, each whole') as never,
  name: namePattern,
  format: format.required(),
  coding,
  bits,
  ground,
  firstNumber: count().description('Number of the first of several images'),
  quality,
  bitRate,
  width: side,
  height: side,
  from: count(),
  to: count(1),
  sound: Joi.boolean(),
})
  .and('width', 'height')
  .nand('quality', 'bitRate');
const shownColour = Joi.array<number[]>().items(Joi.number().min(0).max(1)).length(3).required();
const rateTerm = Joi.number().integer().min(1).max(120_000).required();
export const CardOrder = Joi.object<T.CardOrder>({
  name: nameText(),
  upper: shownColour,
  lower: shownColour,
  // Its pictures are all written: longer ones are slowed.
  seconds: Joi.number().min(0.5).max(60).required(),
  width: side.multiple(2).required(),
  height: side.multiple(2).required(),
  rate: Joi.object({ num: rateTerm, den: rateTerm }).required(),
});
export const SequenceOrder = Joi.object<T.SequenceOrder, true>({
  reel: id.allow(null).required().description('Whose shot it becomes; null: it becomes a plate'),
  name: nameText(400).required(),
  uploads: Joi.array()
    .items(Joi.string().pattern(/^[0-9a-f]{32}$/))
    .min(2)
    .max(20_000)
    .unique()
    .required(),
});
/** A look on its own is checked by the engine alone. */
export const AnyLook = Joi.any().description('A look; its own schema is docs/look.schema.json');
/** A look as its file has it. */
export const LookFile = look;
export const Peaks = Joi.array().items(Joi.number().min(0).max(1));
