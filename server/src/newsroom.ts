import { EventEmitter } from 'node:events';
import type { News } from '@tin-ghost/contract';

/** Passes news of long work on to whoever listens. */
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
