import type { RequestHandler } from 'express';
import { sql } from 'drizzle-orm';
import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';
import type { Context } from '../context';
import { patternOf } from './request-log';

/** What the server measures of itself, for Prometheus. */
export class Metrics {
  private readonly registry = new Registry();
  private readonly answers: Histogram<'method' | 'route' | 'status'>;

  constructor({ db, store }: Pick<Context, 'db' | 'store'>) {
    const registers = [this.registry];
    collectDefaultMetrics({ register: this.registry });
    this.answers = new Histogram({
      name: 'tin_ghost_request_seconds',
      help: 'Time until an answer was sent',
      labelNames: ['method', 'route', 'status'],
      buckets: [0.005, 0.02, 0.1, 0.5, 2, 10],
      registers,
    });
    const counted = (name: string, help: string, table: string): void =>
      void new Gauge({
        name,
        help,
        labelNames: ['state'],
        registers,
        async collect() {
          this.reset();
          const { rows } = await db.execute<{ state: string; count: number }>(sql`select state, count(*)::int as count from ${sql.identifier(table)} group by state`);
          for (const { state, count } of rows) this.set({ state }, count);
        },
      });
    counted('tin_ghost_prints', 'Prints by state', 'prints');
    counted('tin_ghost_segments', 'Segments of prints by state', 'print_segments');
    counted('tin_ghost_media', 'Footage by state', 'media');
    const valued = (name: string, help: string, value: () => Promise<number>): void =>
      void new Gauge({
        name,
        help,
        registers,
        async collect() {
          this.set(await value());
        },
      });
    valued('tin_ghost_workers', 'Processes that take work', async () => (await db.execute<{ count: number }>(sql`select count(*)::int as count from workers`)).rows[0]!.count);
    valued('tin_ghost_store_free_bytes', 'Bytes free on the disk of footage and prints', () => store.free());
    valued(
      'tin_ghost_frames_per_second',
      'Frames of prints made a second at this moment',
      async () => (await db.execute<{ rate: number }>(sql`select coalesce(sum(per_second), 0)::real as rate from print_segments where state = 'working'`)).rows[0]!.rate,
    );
  }

  /** Measures every answer, by the pattern of its route. */
  readonly watch: RequestHandler = (request, response, next) => {
    const stop = this.answers.startTimer();
    response.on('close', () => {
      const route = patternOf(request);
      // A page that listens for news does so as long as it is open.
      if (route !== '/events') stop({ method: request.method, route, status: String(response.statusCode) });
    });
    next();
  };

  text(): Promise<string> {
    return this.registry.metrics();
  }

  get type(): string {
    return this.registry.contentType;
  }
}
