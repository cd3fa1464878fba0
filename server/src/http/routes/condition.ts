import type { Router } from 'express';
import { sql } from 'drizzle-orm';
import { ROUTES } from '@tin-ghost/contract/routes';
import { VERSION } from '@tin-ghost/contract/version';
import type { Context } from '../../context';
import type { Metrics } from '../metrics';
import { serve } from '../serve';

/** How the server is: that it lives, whether it can work, what it measures. */
export function conditionRoutes(router: Router, { db, store }: Context, metrics: Metrics): void {
  serve(router, ROUTES.readHealth, () => ({ version: VERSION, seconds: process.uptime() }));

  // Throws what the error is by which it cannot: each has its own status.
  serve(router, ROUTES.readReadiness, async () => {
    await db.execute(sql`select 1`);
    return { free: await store.free() };
  });

  serve(router, ROUTES.readMetrics, async ({ response }) => {
    const text = await metrics.text();
    response.setHeader('content-type', metrics.type);
    response.end(text);
  });
}
