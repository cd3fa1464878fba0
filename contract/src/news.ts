import type { Medium, Print } from './types';

export type MediumProgress = Pick<Medium, 'state' | 'progress' | 'error'>;
export type PrintProgress = Pick<Print, 'state' | 'done' | 'total' | 'perSecond' | 'secondsLeft' | 'error'>;

/** What the server tells whoever listens at `/api/events`, one JSON object an event. `reels`: reels, shots or references are others now; `machines`: other work is being done, or by others. */
export type News =
  | ({ readonly type: 'media'; readonly id: string } & MediumProgress)
  | ({ readonly type: 'print'; readonly id: string } & PrintProgress)
  | { readonly type: 'reels' }
  | { readonly type: 'machines' };
