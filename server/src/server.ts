import { once } from 'node:events';
import type { AddressInfo } from 'node:net';
import { createServer } from 'node:http';
import { isIP } from 'node:net';
import { hostname, networkInterfaces } from 'node:os';
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
import { StartError } from './refusal';
import { createApp } from './http/app';
import { Sessions } from './http/session';
import { setEngine } from './jobs/engine-fact';
import { Jobs } from './jobs/jobs';
import { Presence } from './jobs/presence';
import { Bucket } from './store/bucket';
import { MediaStore } from './store/media-store';
import { engineStamp } from '@tin-ghost/media';

export interface ServerOptions {
  readonly databaseUrl: string;
  /** Folder of originals, previews and prints. */
  readonly mediaFolder: string;
  /** Address of a bucket that holds what is finished, for several machines; without it the folder does. */
  readonly bucket?: string;
  readonly migrations: string;
  /** Folder of the demo reel; none is laid in where it is absent. */
  readonly demo?: string;
  /** Address to listen on; this machine's loopback by default. Any other needs a password. */
  readonly host?: string;
  /** Whoever gives it is let in; without it, whoever is on this machine. */
  readonly password?: string;
  /** Names, beside this machine's own, by which the server may be asked: `host`, or `host:port` of what speaks TLS for it. */
  readonly names?: readonly string[];
  /** 0 takes a free one. */
  readonly port: number;
  readonly pages: RequestHandler;
  /** Whether it makes prints itself, or leaves them to workers. Default true. */
  readonly strikes?: boolean;
  /** Threads to render prints with; as many as there are cores by default. */
  readonly threads?: number;
  /** The pages are a development server's. */
  readonly dev?: boolean;
}

const SWEEP_MS = 3_600_000;
const KEPT_OPEN_MS = 65_000;

/** What routes and jobs work with, on a database and a store. */
export function contextOf(db: Database, pool: pg.Pool, store: MediaStore): Context {
  const news = new Newsroom(pool);
  const jobs = new Jobs(pool, { db, store, news });
  const footage = new FootageService({ db, store, news, jobs });
  return { db, store, news, jobs, footage, bin: new Bin({ db, news, footage }), arrivals: new Arrivals({ store, footage }) };
}

const LOOPBACK = '127.0.0.1';
const isLoopback = (host: string): boolean => host.startsWith('127.') || host === '::1';

/** What this machine is called by others. */
const ownNames = (): string[] => [
  hostname(),
  ...Object.values(networkInterfaces()).flatMap((all) => (all ?? []).map(({ address, family }) => (family === 'IPv6' ? `[${address}]` : address))),
];

/** An address as it stands in a URL; of all addresses, the machine's name. */
const addressOf = (host: string): string => (host === '0.0.0.0' || host === '::' ? hostname() : isIP(host) === 6 ? `[${host}]` : host);

/** Brings the whole server up. @returns its address and what ends it */
export async function startServer(options: ServerOptions): Promise<{ address: string; close: () => Promise<void> }> {
  const host = options.host ?? LOOPBACK;
  const local = isIP(host) ? isLoopback(host) : host === 'localhost';
  if (!local && !options.password)
    throw new StartError(`TIN_GHOST_HOST is ${host}, which others can reach: that needs TIN_GHOST_PASSWORD. Without TIN_GHOST_HOST the server answers this machine alone.`);
  const { db, pool, close } = connect(options.databaseUrl);
  await migrateTo(db, options.migrations);
  const store = new MediaStore(options.mediaFolder, options.bucket ? await Bucket.at(options.bucket) : undefined);
  await store.prepare();
  const context = contextOf(db, pool, store);
  const sessions = options.password ? await Sessions.open(db, options.password) : undefined;
  const { jobs, arrivals, news } = context;
  const engine = await engineStamp();
  await setEngine(db, engine);
  const presence = new Presence(db, engine, options.threads);
  await presence.enter();
  await jobs.open();
  await sweep(context, await presence.alone());
  await news.follow(options.databaseUrl);
  await jobs.start(presence, { imports: true, strikes: options.strikes ?? true });
  if (options.demo) {
    await seedDemo(context, options.demo);
    await seedPlates(context);
  }
  const sweeping = setInterval(() => void sweep(context, false).catch(() => undefined), SWEEP_MS).unref();
  const server = createServer(createApp(context, options.pages, { dev: options.dev, sessions, names: [...(options.names ?? []), ...(local ? [] : ownNames())] }));
  // A connection that is closed just when it is used again fails for no reason that a person could see.
  server.keepAliveTimeout = KEPT_OPEN_MS;
  server.listen(options.port, host);
  await once(server, 'listening').catch((error: NodeJS.ErrnoException) => {
    if (error.code !== 'EADDRINUSE') throw error;
    throw new StartError(`Port ${options.port} is taken by another program. Set PORT to a free one, or leave it unset to have one chosen.`);
  });
  return {
    address: `http://${addressOf(host)}:${(server.address() as AddressInfo).port}`,
    async close() {
      clearInterval(sweeping);
      arrivals.stop();
      server.close();
      server.closeAllConnections();
      await jobs.stop();
      await news.end();
      await close();
    },
  };
}
