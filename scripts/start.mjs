// `npm start`: sets up what is missing, starts the database and the server, starts them again when they die, and ends both
// on Ctrl-C. Environment: PORT, TIN_GHOST_DATA (database), TIN_GHOST_MEDIA (footage and prints); for several machines also TIN_GHOST_DATABASE (URL of a
// database that is not of our own keeping), TIN_GHOST_STORE (a bucket), TIN_GHOST_STRIKES=0 (prints are left to workers), TIN_GHOST_THREADS.
import { fork } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join, resolve } from 'node:path';
import { lockFolder } from './folder-lock.mjs';
import { howItEnded, KeptRunning } from './kept-running.mjs';
import { giveUp, prepare, root } from './prepare.mjs';

const say = (line) => console.log(`  ${line}`);
const dev = process.argv.includes('--dev');
const data = resolve(process.env.TIN_GHOST_DATA ?? join(root, 'data'));
const mediaFolder = resolve(process.env.TIN_GHOST_MEDIA ?? join(data, 'media'));
const note = join(data, 'running.json');
const program = join(root, 'server/dist/main.mjs');
const USUAL_PORT = 4140;
/** How long a server may take to finish what it is doing. */
const LAST_SECONDS = 5;

prepare(say);
mkdirSync(data, { recursive: true });
mkdirSync(mediaFolder, { recursive: true });
const release = await lockOrGiveUp();

const { build } = await import('./build.mjs');
await build(dev ? ['kernels', 'render worker', 'server'] : undefined, say);
const { startCluster } = await import('./cluster.mjs');

let cluster;
let server;
let ending = false;
async function end(code) {
  if (ending) process.exit(code);
  ending = true;
  await server?.end('SIGTERM', LAST_SECONDS * 1000);
  await cluster?.stop();
  rmSync(note, { force: true });
  release();
  process.exit(code);
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => end(0));

// What was logged long ago makes room.
const logged = join(data, 'server.log');
if (existsSync(logged) && statSync(logged).size > 10e6) renameSync(logged, `${logged}.1`);
const elsewhere = process.env.TIN_GHOST_DATABASE;
cluster = elsewhere ? { url: elsewhere, stop: async () => undefined } : await startCluster(data, { say });
let bound = process.env.PORT ?? String(await freePort());
let told = false;
server = new KeptRunning(
  () => {
    const child = fork(program, [], {
      detached: true,
      env: {
        TIN_GHOST_LOG: logged,
        ...process.env,
        TIN_GHOST_ROOT: root,
        TIN_GHOST_MEDIA: mediaFolder,
        DATABASE_URL: cluster.url,
        TIN_GHOST_DEV: dev ? '1' : '0',
        PORT: bound,
      },
    });
    writeNote({ pid: process.pid, server: child.pid });
    child.on('message', ({ address, failed }) => {
      if (failed) return console.error(`\n${failed}\n`);
      // Pages that are open go on with the server that comes after this one.
      bound = new URL(address).port;
      writeNote({ pid: process.pid, server: child.pid, address });
      if (told) say(`the server is at ${address} again`);
      else console.log(`\n  Tin Ghost is at ${address}\n  Ctrl-C ends it.\n`);
      told = true;
    });
    return child;
  },
  (child, wait) => {
    if (ending) return false;
    // One that never came up would not come up the next time.
    if (!told) {
      void end(child.exitCode || 1);
      return false;
    }
    say(`the server ${howItEnded(child)}; it is started again in ${wait / 1000} s`);
  },
);

/** Whole or not at all: another start may read it at any moment. */
function writeNote(running) {
  writeFileSync(`${note}.new`, JSON.stringify(running));
  renameSync(`${note}.new`, note);
}

/** Two servers on one data folder would undo each other's work. What a launcher that died left running is ended. */
async function lockOrGiveUp() {
  const held = await lockFolder(data, 0);
  const left = lastNote();
  if (held) {
    if (left && commandOf(left.server).includes(program)) process.kill(left.server, 'SIGKILL');
    return held;
  }
  const dying = !left || !commandOf(left.pid).includes('start.mjs');
  const later = dying ? await lockFolder(data, 10_000) : undefined;
  return later ?? giveUp(`Tin Ghost is running already on ${data}${left?.address ? `, at ${left.address}` : ''}`);
}

function lastNote() {
  try {
    return JSON.parse(readFileSync(note, 'utf8'));
  } catch {
    return undefined;
  }
}

/** Command line of a process; empty where there is none. */
function commandOf(pid) {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8');
  } catch {
    return '';
  }
}

/** The usual port, or, next to another copy, any free one (0). */
async function freePort() {
  const free = await new Promise((done) => {
    const probe = createServer();
    probe.once('error', () => done(false));
    probe.listen(USUAL_PORT, '127.0.0.1', () => probe.close(() => done(true)));
  });
  return free ? USUAL_PORT : 0;
}
