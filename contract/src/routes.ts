// Every address of the server. The server mounts its handlers by these declarations, and `openapi.ts` describes them.
import Joi from 'joi';
import type { ErrorCode } from './errors';
import * as rules from './rules';

export type Method = 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';

/** What a route answers when all is well: JSON by a rule, a file of some types, or nothing. */
export type Answer = { readonly status: 200 | 201; readonly json: Joi.Schema } | { readonly status: 200; readonly types: readonly string[] } | { readonly status: 204 };

export interface Route {
  readonly method: Method;
  /** Below `/api`; `:id` stands for the id of a thing. */
  readonly path: string;
  readonly group: 'Reels' | 'Shots' | 'Bin' | 'Footage' | 'Looks' | 'References' | 'Plates' | 'Tables' | 'Fonts' | 'Prints' | 'Machines' | 'Server' | 'Uploads' | 'News';
  readonly says: string;
  /** Of the address, by name: what each is. */
  readonly query?: Readonly<Record<string, string>>;
  /** What is sent, as JSON. */
  readonly body?: Joi.Schema;
  /** It may be as long as a text: it holds many things at once. */
  readonly long?: true;
  /** What is sent as plain text instead. */
  readonly text?: string;
  /** What is sent as the bytes of a file instead. */
  readonly bytes?: string;
  readonly answer: Answer;
  /** Refusals of its own, besides those that any route has. */
  readonly refusals: readonly ErrorCode[];
}

const list = <T>(rule: Joi.ObjectSchema<T>): Joi.ArraySchema<T[]> => Joi.array<T[]>().items(rule);
const ok = <S extends Joi.Schema>(json: S) => ({ status: 200, json }) as const;
const created = <S extends Joi.Schema>(json: S) => ({ status: 201, json }) as const;
const file = (...types: string[]) => ({ status: 200, types }) as const;
const NOTHING = { status: 204 } as const;

export const ROUTES = {
  listReels: { method: 'GET', path: '/reels', group: 'Reels', says: 'All reels, the one touched last first', answer: ok(list(rules.ReelSummary)), refusals: [] },
  makeReel: { method: 'POST', path: '/reels', group: 'Reels', says: 'Makes a reel', body: rules.Named, answer: created(rules.ReelSummary), refusals: ['invalid'] },
  readReel: { method: 'GET', path: '/reels/:id', group: 'Reels', says: 'A reel and its shots', answer: ok(rules.Reel), refusals: ['not-found'] },
  renameReel: {
    method: 'PATCH',
    path: '/reels/:id',
    group: 'Reels',
    says: 'Renames a reel',
    body: rules.Named,
    answer: ok(rules.ReelHead),
    refusals: ['not-found', 'invalid'],
  },
  deleteReel: {
    method: 'DELETE',
    path: '/reels/:id',
    group: 'Reels',
    says: 'Lays a reel and its shots in the bin, where they stay for 30 days',
    answer: NOTHING,
    refusals: ['not-found'],
  },
  restoreReel: { method: 'POST', path: '/reels/:id/restore', group: 'Reels', says: 'Puts a reel back from the bin', answer: ok(rules.ReelHead), refusals: ['not-found'] },
  copyReel: {
    method: 'POST',
    path: '/reels/:id/copy',
    group: 'Reels',
    says: 'Makes a second reel of the same shots, which share their footage',
    answer: created(rules.ReelHead),
    refusals: ['not-found'],
  },
  addCard: {
    method: 'POST',
    path: '/reels/:id/cards',
    group: 'Reels',
    says: 'Adds a shot of plain colour, or of a gradient, made from nothing',
    body: rules.CardOrder,
    answer: created(rules.Created),
    refusals: ['not-found', 'invalid', 'disk-full'],
  },
  orderReels: {
    method: 'PUT',
    path: '/reels/order',
    group: 'Reels',
    says: 'Sets the order of the reels on the shelf; every reel is named once. Reels that are made later come before them',
    body: rules.ReelsOrder,
    answer: NOTHING,
    refusals: ['invalid'],
  },
  orderReel: {
    method: 'PUT',
    path: '/reels/:id/order',
    group: 'Reels',
    says: 'Sets the order of its shots; every shot is named once',
    body: rules.Order,
    answer: NOTHING,
    refusals: ['not-found', 'invalid'],
  },
  readCut: {
    method: 'GET',
    path: '/reels/:id/cut',
    group: 'Reels',
    says: 'What it and its shots were in the cut that they came with',
    answer: ok(rules.ReelCut),
    refusals: ['not-found'],
  },
  layCut: {
    method: 'PUT',
    path: '/reels/:id/cut',
    group: 'Reels',
    says: 'Lays a cut as its first shots, all or none; shots of this reel that it is taken from make way for it',
    body: rules.CutOrder,
    long: true,
    answer: NOTHING,
    refusals: ['not-found', 'invalid', 'invalid-look', 'not-ready'],
  },

  readShot: { method: 'GET', path: '/shots/:id', group: 'Shots', says: 'A shot', answer: ok(rules.Shot), refusals: ['not-found'] },
  renameShot: {
    method: 'PATCH',
    path: '/shots/:id',
    group: 'Shots',
    says: 'Renames a shot',
    body: rules.Named,
    answer: ok(rules.Shot),
    refusals: ['not-found', 'invalid'],
  },
  changeLook: {
    method: 'PUT',
    path: '/shots/:id/look',
    group: 'Shots',
    says: 'Keeps a look and a preparation on top of the revision they were made from; another page’s change is never overwritten unseen',
    body: rules.LookChange,
    answer: ok(rules.LookKept),
    refusals: ['not-found', 'invalid', 'invalid-look', 'changed-elsewhere'],
  },
  deleteShot: {
    method: 'DELETE',
    path: '/shots/:id',
    group: 'Shots',
    says: 'Lays a shot in the bin, where it stays for 30 days; one whose footage has not come in is gone',
    answer: NOTHING,
    refusals: ['not-found'],
  },
  restoreShot: {
    method: 'POST',
    path: '/shots/:id/restore',
    group: 'Shots',
    says: 'Puts a shot back from the bin, where it stood',
    answer: ok(rules.Shot),
    refusals: ['not-found'],
  },
  copyShot: {
    method: 'POST',
    path: '/shots/:id/copy',
    group: 'Shots',
    says: 'Makes a second shot after it, of the same footage and look',
    answer: created(rules.Created),
    refusals: ['not-found'],
  },

  readBin: { method: 'GET', path: '/bin', group: 'Bin', says: 'What was deleted in the last 30 days, the last first', answer: ok(rules.Bin), refusals: [] },
  emptyBin: { method: 'DELETE', path: '/bin', group: 'Bin', says: 'Removes what lies in the bin for good, and footage that nothing else refers to', answer: NOTHING, refusals: [] },

  readMedium: { method: 'GET', path: '/media/:id', group: 'Footage', says: 'A file that was sent, and how far its import is', answer: ok(rules.Medium), refusals: ['not-found'] },
  importAgain: {
    method: 'POST',
    path: '/media/:id/again',
    group: 'Footage',
    says: 'Imports footage again that could not be imported',
    answer: ok(rules.Medium),
    refusals: ['not-found', 'wrong-state'],
  },
  readProxy: { method: 'GET', path: '/media/:id/proxy', group: 'Footage', says: 'The proxy, by ranges', answer: file('video/mp4'), refusals: ['not-found', 'not-ready'] },
  readPoster: { method: 'GET', path: '/media/:id/poster', group: 'Footage', says: 'A still of it', answer: file('image/jpeg'), refusals: ['not-found', 'not-ready'] },
  readStrip: { method: 'GET', path: '/media/:id/strip', group: 'Footage', says: 'Stills side by side', answer: file('image/jpeg'), refusals: ['not-found', 'not-ready'] },
  readSound: { method: 'GET', path: '/media/:id/sound', group: 'Footage', says: 'Its sound', answer: file('audio/mp4'), refusals: ['not-found', 'not-ready'] },
  readPeaks: {
    method: 'GET',
    path: '/media/:id/peaks',
    group: 'Footage',
    says: 'The peaks of its sound, 0 to 1, in equal parts of its length',
    answer: ok(rules.Peaks),
    refusals: ['not-found', 'not-ready'],
  },
  readFrame: {
    method: 'GET',
    path: '/media/:id/frames/:n',
    group: 'Footage',
    says: 'One picture of the original, from 0, as soon as that has been read: its planes one after the other; their size and encoding stand in the header X-Picture, as JSON',
    answer: file('application/octet-stream'),
    refusals: ['not-found', 'not-ready'],
  },
  readProxyFrame: {
    method: 'GET',
    path: '/media/:id/proxy/frames/:n',
    group: 'Footage',
    says: 'The same picture as the proxy has it before that is coded; made from the original, so that it is there before the proxy is',
    answer: file('application/octet-stream'),
    refusals: ['not-found', 'not-ready'],
  },

  listLooks: { method: 'GET', path: '/looks', group: 'Looks', says: 'Looks of the stockroom: own ones, then those that ship', answer: ok(list(rules.StoredLook)), refusals: [] },
  storeLook: {
    method: 'POST',
    path: '/looks',
    group: 'Looks',
    says: 'Puts a look in the stockroom; where its name is taken there, with a number behind it',
    body: rules.AnyLook,
    answer: created(rules.StoredLook),
    refusals: ['invalid-look'],
  },
  readLook: { method: 'GET', path: '/looks/:id', group: 'Looks', says: 'A look of the stockroom, as a look file has it', answer: ok(rules.LookFile), refusals: ['not-found'] },
  renameLook: {
    method: 'PATCH',
    path: '/looks/:id',
    group: 'Looks',
    says: 'Renames a look of one’s own',
    body: rules.Named,
    answer: ok(rules.StoredLook),
    refusals: ['not-found', 'invalid'],
  },
  deleteLook: { method: 'DELETE', path: '/looks/:id', group: 'Looks', says: 'Deletes a look of one’s own', answer: NOTHING, refusals: ['not-found'] },

  listReferences: {
    method: 'GET',
    path: '/references',
    group: 'References',
    says: 'Stills and clips of the real thing',
    query: { reel: 'id of a reel: its own, and those that ship' },
    answer: ok(list(rules.Reference)),
    refusals: ['not-found'],
  },
  renameReference: {
    method: 'PATCH',
    path: '/references/:id',
    group: 'References',
    says: 'Renames a reference',
    body: rules.Named,
    answer: ok(rules.Reference),
    refusals: ['not-found', 'invalid'],
  },
  deleteReference: {
    method: 'DELETE',
    path: '/references/:id',
    group: 'References',
    says: 'Deletes a reference that does not ship',
    answer: NOTHING,
    refusals: ['not-found', 'wrong-state'],
  },

  listPlates: { method: 'GET', path: '/plates', group: 'Plates', says: 'Plates, those that ship first', answer: ok(list(rules.StoredPlate)), refusals: [] },
  renamePlate: {
    method: 'PATCH',
    path: '/plates/:id',
    group: 'Plates',
    says: 'Renames a plate that does not ship',
    body: rules.Named,
    answer: ok(rules.StoredPlate),
    refusals: ['not-found', 'invalid', 'wrong-state'],
  },
  deletePlate: {
    method: 'DELETE',
    path: '/plates/:id',
    group: 'Plates',
    says: 'Deletes a plate that does not ship and that no print under way needs',
    answer: NOTHING,
    refusals: ['not-found', 'wrong-state'],
  },

  listTables: { method: 'GET', path: '/tables', group: 'Tables', says: 'Tables of colours', answer: ok(list(rules.StoredTable)), refusals: [] },
  storeTable: {
    method: 'POST',
    path: '/tables',
    group: 'Tables',
    says: 'Keeps a table of colours; the same text is kept once',
    query: { name: 'name of the file' },
    text: 'a .cube file',
    answer: created(rules.StoredTable),
    refusals: ['unusable-file', 'too-large'],
  },
  readTable: { method: 'GET', path: '/tables/:id', group: 'Tables', says: 'The text of a table', answer: file('text/plain'), refusals: ['not-found'] },

  listFonts: { method: 'GET', path: '/fonts', group: 'Fonts', says: 'Fonts for captions, those that ship first', answer: ok(list(rules.StoredFont)), refusals: [] },
  storeFont: {
    method: 'POST',
    path: '/fonts',
    group: 'Fonts',
    says: 'Keeps a font; the same file is kept once',
    query: { name: 'name of the file' },
    bytes: 'a TTF, OTF or WOFF file',
    answer: created(rules.StoredFont),
    refusals: ['unusable-file', 'too-large'],
  },
  readFont: { method: 'GET', path: '/fonts/:id', group: 'Fonts', says: 'The file of a font', answer: file('application/octet-stream'), refusals: ['not-found'] },

  listPrints: { method: 'GET', path: '/prints', group: 'Prints', says: 'All prints, the newest first', answer: ok(list(rules.Print)), refusals: [] },
  orderPrint: {
    method: 'POST',
    path: '/prints',
    group: 'Prints',
    says: 'Orders a print of a shot as it is now, or of several as one film',
    body: rules.PrintOrder,
    answer: created(rules.Print),
    refusals: ['not-found', 'not-ready', 'invalid'],
  },
  readPrint: { method: 'GET', path: '/prints/:id', group: 'Prints', says: 'A print, and how far it is', answer: ok(rules.Print), refusals: ['not-found'] },
  readPrintFile: {
    method: 'GET',
    path: '/prints/:id/file',
    group: 'Prints',
    says: 'The file of a print that is done',
    query: { watch: 'given: to be shown, not saved' },
    answer: file('video/mp4', 'video/webm'),
    refusals: ['not-found', 'not-ready'],
  },
  readPrintPoster: {
    method: 'GET',
    path: '/prints/:id/poster',
    group: 'Prints',
    says: 'A still from the middle of a print that is done',
    answer: file('image/jpeg'),
    refusals: ['not-found', 'not-ready'],
  },
  stopPrint: { method: 'POST', path: '/prints/:id/stop', group: 'Prints', says: 'Stops a print', answer: ok(rules.Print), refusals: ['not-found', 'wrong-state'] },
  pausePrint: {
    method: 'POST',
    path: '/prints/:id/pause',
    group: 'Prints',
    says: 'Lets a print rest: what is being made of it is finished, nothing more is begun',
    answer: ok(rules.Print),
    refusals: ['not-found', 'wrong-state'],
  },
  resumePrint: {
    method: 'POST',
    path: '/prints/:id/resume',
    group: 'Prints',
    says: 'Goes on with a paused print',
    answer: ok(rules.Print),
    refusals: ['not-found', 'wrong-state'],
  },
  printNext: {
    method: 'POST',
    path: '/prints/:id/next',
    group: 'Prints',
    says: 'Puts a print before all others that are under way',
    answer: ok(rules.Print),
    refusals: ['not-found', 'wrong-state'],
  },
  printAgain: {
    method: 'POST',
    path: '/prints/:id/again',
    group: 'Prints',
    says: 'Strikes a print again that was stopped, or goes on with one that failed',
    answer: ok(rules.Print),
    refusals: ['not-found', 'wrong-state'],
  },
  deletePrint: { method: 'DELETE', path: '/prints/:id', group: 'Prints', says: 'Deletes a print and its file', answer: NOTHING, refusals: ['not-found'] },

  listMachines: { method: 'GET', path: '/machines', group: 'Machines', says: 'The processes that take work, and what each does', answer: ok(list(rules.Machine)), refusals: [] },

  readSession: { method: 'GET', path: '/session', group: 'Server', says: 'Whether a password is needed, and whether it was given', answer: ok(rules.Session), refusals: [] },
  beginSession: {
    method: 'POST',
    path: '/session',
    group: 'Server',
    says: 'Gives the password; the answer sets a cookie',
    body: rules.Password,
    answer: NOTHING,
    refusals: ['password-needed', 'too-many'],
  },
  endSession: { method: 'DELETE', path: '/session', group: 'Server', says: 'Takes the cookie back', answer: NOTHING, refusals: [] },
  readHealth: { method: 'GET', path: '/health', group: 'Server', says: 'That the server lives', answer: ok(rules.Health), refusals: [] },
  readReadiness: { method: 'GET', path: '/ready', group: 'Server', says: 'Whether the server can work', answer: ok(rules.Readiness), refusals: [] },
  readMetrics: { method: 'GET', path: '/metrics', group: 'Server', says: 'What the server measures, for Prometheus', answer: file('text/plain'), refusals: [] },

  makeSequence: {
    method: 'POST',
    path: '/uploads/sequence',
    group: 'Uploads',
    says: 'Makes one shot, or one plate, of images that were uploaded one by one (by tus 1.0, at /api/uploads), in the order of their names',
    body: rules.SequenceOrder,
    answer: created(rules.SequenceMade),
    refusals: ['not-found', 'invalid'],
  },

  followNews: {
    method: 'GET',
    path: '/events',
    group: 'News',
    says: 'News of imports and prints as server-sent events, one JSON object each',
    answer: file('text/event-stream'),
    refusals: [],
  },
} as const satisfies Record<string, Route>;

export type RouteName = keyof typeof ROUTES;
