export type { Medium, Print, PrintSettings, PrintState, Reel, Shot } from './db/schema';
export type { News } from './events';
