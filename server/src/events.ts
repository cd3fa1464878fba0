import { EventEmitter } from 'node:events';

/** News of long work, for whoever listens. */
export type News =
  | { readonly type: 'media'; readonly id: string; readonly state: string; readonly progress: number; readonly error: string | null }
  | {
      readonly type: 'print';
      readonly id: string;
      readonly state: string;
      readonly done: number;
      readonly total: number;
      readonly perSecond: number;
      readonly secondsLeft: number;
      readonly error: string | null;
    }
  | { readonly type: 'reels' };

export class Newsroom {
  private readonly emitter = new EventEmitter().setMaxListeners(0);

  tell(news: News): void {
    this.emitter.emit('news', news);
  }

  /** @returns a function that ends the listening */
  listen(listener: (news: News) => void): () => void {
    this.emitter.on('news', listener);
    return () => this.emitter.off('news', listener);
  }
}
