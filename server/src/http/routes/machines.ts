import type { Router } from 'express';
import { and, eq, gt, isNotNull } from 'drizzle-orm';
import type { Machine } from '@tin-ghost/contract';
import { ROUTES } from '@tin-ghost/contract/routes';
import type { Context } from '../../context';
import { media, printSegments, prints, workers } from '../../db/schema';
import { serve } from '../serve';

/** Who takes work, and what each does. */
export function machineRoutes(router: Router, { db }: Context): void {
  serve(router, ROUTES.listMachines, async () => {
    const [rows, segments, footage] = await Promise.all([
      db.select().from(workers).orderBy(workers.startedAt),
      db
        .select({ segment: printSegments, name: prints.name })
        .from(printSegments)
        .innerJoin(prints, eq(prints.id, printSegments.printId))
        .where(and(eq(printSegments.state, 'working'), isNotNull(printSegments.workerId))),
      db
        .select()
        .from(media)
        // One whose turn has not come is not being worked on.
        .where(and(eq(media.state, 'working'), isNotNull(media.workerId), gt(media.progress, 0))),
    ]);
    const doingOf = (id: string): Machine['doing'] => [
      ...segments
        .filter(({ segment }) => segment.workerId === id)
        .map(({ segment: { kind, from, to, done, perSecond }, name }) => ({ kind, name, from: from + 1, to, done, perSecond })),
      ...footage
        .filter(({ workerId }) => workerId === id)
        .map(({ name, progress }) => ({ kind: 'import' as const, name, from: 0, to: 100, done: Math.round(progress * 100), perSecond: 0 })),
    ];
    return rows.map(({ id, name, threads, startedAt, seenAt }) => ({ id, name, threads, startedAt, seenAt, doing: doingOf(id) }));
  });
}
