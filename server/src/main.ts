import { join } from 'node:path';
import { need, threadsFrom } from './environment';
import { builtPages } from './http/app';
import { StartError } from './refusal';
import { startServer } from './server';

const root = need('TIN_GHOST_ROOT');
const dev = process.env.TIN_GHOST_DEV === '1';

async function developmentPages() {
  const { createServer } = await import('vite');
  const vite = await createServer({ root: join(root, 'web'), configFile: join(root, 'web/vite.config.ts'), server: { middlewareMode: true }, appType: 'spa' });
  return vite.middlewares;
}

let server: Awaited<ReturnType<typeof startServer>> | undefined;
let ending = false;

function end(): void {
  if (ending) return;
  ending = true;
  // Whoever waits for longer would keep a server that nobody watches.
  setTimeout(() => process.exit(0), PATIENCE_MS).unref();
  void Promise.resolve(server?.close()).finally(() => process.exit(0));
}
const PATIENCE_MS = 4000;
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, end);
// The launcher is gone, in whatever way: a server without one would stand in the way of the next.
if (process.send) process.on('disconnect', end);

try {
  server = await startServer({
    databaseUrl: need('DATABASE_URL'),
    mediaFolder: need('TIN_GHOST_MEDIA'),
    bucket: process.env.TIN_GHOST_STORE || undefined,
    migrations: join(root, 'server/migrations'),
    demo: process.env.TIN_GHOST_DEMO === '0' ? undefined : join(root, 'demo'),
    strikes: process.env.TIN_GHOST_STRIKES !== '0',
    threads: threadsFrom(process.env),
    host: process.env.TIN_GHOST_HOST || undefined,
    password: process.env.TIN_GHOST_PASSWORD || undefined,
    names: (process.env.TIN_GHOST_NAMES ?? '').split(',').flatMap((name) => name.trim() || []),
    port: Number(process.env.PORT ?? 0),
    pages: dev ? await developmentPages() : builtPages(join(root, 'web/dist')),
    dev,
  });
  if (process.send) process.send({ address: server.address });
  else console.log(server.address);
} catch (error) {
  const failed = error instanceof StartError ? error.message : error instanceof Error ? (error.stack ?? error.message) : String(error);
  if (process.send) process.send({ failed }, () => process.exit(1));
  else {
    console.error(failed);
    process.exit(1);
  }
}
