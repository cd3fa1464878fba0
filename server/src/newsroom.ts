import { EventEmitter } from 'node:events';
import { setTimeout as pause } from 'node:timers/promises';
import { randomUUID } from 'node:crypto';
import pg from 'pg';
import type { News } from '@tin-ghost/contract';

const CHANNEL = 'tin_ghost_news';
/** Bytes that the database passes on at once. */
const LONGEST = 7900;
const AGAIN_MS = 2000;

/** Passes news of long work on to whoever listens, in this process and, through the database, in all others. News that come while it is away are lost. */
export class Newsroom {
  private readonly emitter = new EventEmitter().setMaxListeners(0);
  private readonly id = randomUUID();
  private line: pg.Client | undefined;
  private following: Promise<void> | undefined;
  private ended = false;

  /** @param pool to tell others by; without it news stay here */
  constructor(private readonly pool?: pg.Pool) {}

  tell(news: News): void {
    this.emitter.emit('news', news);
    const text = JSON.stringify({ from: this.id, news });
    if (Buffer.byteLength(text) <= LONGEST) this.pool?.query('select pg_notify($1, $2)', [CHANNEL, text]).catch(() => undefined);
  }

  /** @returns a function that ends the listening */
  listen(listener: (news: News) => void): () => void {
    this.emitter.on('news', listener);
    return () => this.emitter.off('news', listener);
  }

  /** Hears what other processes tell, from now on, through breaks of the connection. */
  async follow(url: string): Promise<void> {
    let heard = (): void => undefined;
    const first = new Promise<void>((done) => (heard = done));
    this.following = (async () => {
      while (!this.ended) {
        const client = new pg.Client({ connectionString: url });
        const over = new Promise<void>((done) => {
          client.on('error', () => done());
          client.on('end', () => done());
        });
        client.on('notification', ({ payload }) => this.hear(payload));
        try {
          await client.connect();
          await client.query(`listen ${CHANNEL}`);
          this.line = client;
          heard();
          if (!this.ended) await over;
        } catch {
          // Asked again below.
        }
        await client.end().catch(() => undefined);
        if (!this.ended) await pause(AGAIN_MS, undefined, { ref: false });
      }
    })();
    await first;
  }

  async end(): Promise<void> {
    this.ended = true;
    await this.line?.end().catch(() => undefined);
    await this.following;
  }

  private hear(payload: string | undefined): void {
    const { from, news } = JSON.parse(payload ?? '{}') as { from?: string; news?: News };
    if (from !== this.id && news) this.emitter.emit('news', news);
  }
}
