// `npm start`: sets up what is missing, starts the database and the server, and ends both on Ctrl-C.
// Environment: PORT, TIN_GHOST_DATA (database), TIN_GHOST_MEDIA (footage and prints).
import { fork } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join, resolve } from 'node:path';
import { giveUp, prepare, root } from './prepare.mjs';

const say = (line) => console.log(`  ${line}`);
const dev = process.argv.includes('--dev');
const data = resolve(process.env.TIN_GHOST_DATA ?? join(root, 'data'));
const mediaFolder = resolve(process.env.TIN_GHOST_MEDIA ?? join(data, 'media'));
const USUAL_PORT = 4140;

prepare(say);
mkdirSync(data, { recursive: true });
mkdirSync(mediaFolder, { recursive: true });
oneAtATime(join(data, 'running.json'));

const { build } = await import('./build.mjs');
await build(dev ? ['kernels', 'render worker', 'server'] : undefined, say);
const { startCluster } = await import('./cluster.mjs');
const cluster = await startCluster(data, say);

const server = fork(join(root, 'server/dist/main.mjs'), [], {
  detached: true,
  env: { ...process.env, TIN_GHOST_ROOT: root, TIN_GHOST_MEDIA: mediaFolder, DATABASE_URL: cluster.url, TIN_GHOST_DEV: dev ? '1' : '0', PORT: String(await port()) },
});
server.on('message', ({ address }) => {
  writeFileSync(join(data, 'running.json'), JSON.stringify({ pid: process.pid, address }));
  console.log(`\n  Tin Ghost is at ${address}\n  Ctrl-C ends it.\n`);
});

let ending = false;
async function end(code) {
  if (ending) return;
  ending = true;
  if (server.exitCode === null) {
    const gone = new Promise((done) => server.once('exit', done));
    server.kill('SIGTERM');
    const late = setTimeout(() => server.kill('SIGKILL'), 5000);
    await gone;
    clearTimeout(late);
  }
  await cluster.stop();
  rmSync(join(data, 'running.json'), { force: true });
  process.exit(code);
}
server.on('exit', (code) => end(code ?? 1));
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => end(0));

/** Two servers on one data folder would undo each other's work. */
function oneAtATime(file) {
  if (!existsSync(file)) return;
  try {
    const { pid, address } = JSON.parse(readFileSync(file, 'utf8'));
    process.kill(pid, 0);
    if (readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('start.mjs')) giveUp(`Tin Ghost is running already at ${address}`);
  } catch {
    // Left by a run that was ended hard.
  }
  rmSync(file, { force: true });
}

/** The port asked for, or the usual one, or, next to another copy, any free one. */
async function port() {
  if (process.env.PORT) return process.env.PORT;
  const free = await new Promise((done) => {
    const probe = createServer();
    probe.once('error', () => done(false));
    probe.listen(USUAL_PORT, '127.0.0.1', () => probe.close(() => done(true)));
  });
  return free ? USUAL_PORT : 0;
}
