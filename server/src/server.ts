import { once } from 'node:events';
import type { AddressInfo } from 'node:net';
import { createServer } from 'node:http';
import type { RequestHandler } from 'express';
import type { Context } from './context';
import { connect, migrateTo } from './db/client';
import { seedDemo } from './demo';
import { Newsroom } from './events';
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
}

/** Brings the whole server up. @returns its address and what ends it */
export async function startServer(options: ServerOptions): Promise<{ address: string; close: () => Promise<void> }> {
  const { db, close } = connect(options.databaseUrl);
  await migrateTo(db, options.migrations);
  const store = new MediaStore(options.mediaFolder);
  await store.prepare();
  const news = new Newsroom();
  const jobs = new Jobs(options.databaseUrl, { db, store, news });
  await jobs.start();
  const context: Context = { db, store, news, jobs };
  if (options.demo) await seedDemo(context, options.demo);
  const server = createServer(createApp(context, options.pages));
  server.listen(options.port, '127.0.0.1');
  await once(server, 'listening');
  return {
    address: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    async close() {
      server.close();
      server.closeAllConnections();
      await jobs.stop();
      await close();
    },
  };
}
