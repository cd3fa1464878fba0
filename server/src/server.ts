import { once } from 'node:events';
import type { AddressInfo } from 'node:net';
import { createServer } from 'node:http';
import type { RequestHandler } from 'express';
import type pg from 'pg';
import type { Context } from './context';
import { Arrivals } from './footage/arrivals';
import { Bin } from './footage/bin';
import { FootageService } from './footage/service';
import { sweep } from './footage/sweep';
import { connect, migrateTo, type Database } from './db/client';
import { seedDemo, seedPlates } from './demo';
import { Newsroom } from './newsroom';
import { createApp } from './http/app';
import { Jobs } from './jobs/jobs';
import { MediaStore } from './store/media-store';

export interface ServerOptions {
  readonly databaseUrl: string;
  /** Folder of originals, previews and prints. */
  readonly mediaFolder: string;
  readonly migrations: string;
  /** Folder of the demo reel; none is laid in where it is absent. */
  readonly demo?: string;
  /** 0 takes a free one. */
  readonly port: number;
  readonly pages: RequestHandler;
  /** The pages are a development server's. */
  readonly dev?: boolean;
}

/** Why the server cannot start, for the person who starts it. */
export class StartError extends Error {}

const SWEEP_MS = 3_600_000;
const KEPT_OPEN_MS = 65_000;

/** What routes and jobs work with, on a database and a store. */
export function contextOf(db: Database, pool: pg.Pool, store: MediaStore): Context {
  const news = new Newsroom();
  const jobs = new Jobs(pool, { db, store, news });
  const footage = new FootageService({ db, store, news, jobs });
  return { db, store, news, jobs, footage, bin: new Bin({ db, news, footage }), arrivals: new Arrivals({ store, footage }) };
}

/** Brings the whole server up. @returns its address and what ends it */
export async function startServer(options: ServerOptions): Promise<{ address: string; close: () => Promise<void> }> {
  const { db, pool, close } = connect(options.databaseUrl);
  await migrateTo(db, options.migrations);
  const store = new MediaStore(options.mediaFolder);
  await store.prepare();
  const context = contextOf(db, pool, store);
  const { jobs, arrivals } = context;
  await jobs.open();
  await sweep(context, true);
  await jobs.start();
  if (options.demo) {
    await seedDemo(context, options.demo);
    await seedPlates(context);
  }
  const sweeping = setInterval(() => void sweep(context, false).catch(() => undefined), SWEEP_MS).unref();
  const server = createServer(createApp(context, options.pages, options.dev));
  // A connection that is closed just when it is used again fails for no reason that a person could see.
  server.keepAliveTimeout = KEPT_OPEN_MS;
  server.listen(options.port, '127.0.0.1');
  await once(server, 'listening').catch((error: NodeJS.ErrnoException) => {
    if (error.code !== 'EADDRINUSE') throw error;
    throw new StartError(`Port ${options.port} is taken by another program. Set PORT to a free one, or leave it unset to have one chosen.`);
  });
  return {
    address: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    async close() {
      clearInterval(sweeping);
      arrivals.stop();
      server.close();
      server.closeAllConnections();
      await jobs.stop();
      await close();
    },
  };
}
