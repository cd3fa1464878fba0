import { join } from 'node:path';
import { builtPages } from './http/app';
import { startServer } from './server';

/** A setting from the environment that must be there. */
function need(name: string): string {
  const value = process.env[name];
  if (!value) throw new Error(`${name} is not set; start with npm start`);
  return value;
}

const root = need('TIN_GHOST_ROOT');
const dev = process.env.TIN_GHOST_DEV === '1';

async function developmentPages() {
  const { createServer } = await import('vite');
  const vite = await createServer({ root: join(root, 'web'), configFile: join(root, 'web/vite.config.ts'), server: { middlewareMode: true }, appType: 'spa' });
  return vite.middlewares;
}

const server = await startServer({
  databaseUrl: need('DATABASE_URL'),
  mediaFolder: need('TIN_GHOST_MEDIA'),
  migrations: join(root, 'server/migrations'),
  demo: process.env.TIN_GHOST_DEMO === '0' ? undefined : join(root, 'demo'),
  port: Number(process.env.PORT ?? 0),
  pages: dev ? await developmentPages() : builtPages(join(root, 'web/dist')),
});
process.send?.({ address: server.address });
if (!process.send) console.log(server.address);

let ending = false;
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.on(signal, () => {
    if (ending) return;
    ending = true;
    void server.close().finally(() => process.exit(0));
  });
}
