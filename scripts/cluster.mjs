// A PostgreSQL cluster of our own on a free loopback port. PostgreSQL refuses to run as root; then it runs as the user
// `postgres`, and its folder must lie where that user can reach it.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { appendFileSync, chmodSync, existsSync, mkdirSync, openSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { giveUp, postgresFolder } from './prepare.mjs';

const OWNER = 'postgres';
const asRoot = process.getuid?.() === 0;

/** The command as the user that owns the cluster. */
const owned = (program, args) => (asRoot ? ['setpriv', ['--reuid', OWNER, '--regid', OWNER, '--init-groups', '--', program, ...args]] : [program, args]);

function freePort() {
  return new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once('error', reject);
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address();
      probe.close(() => resolve(port));
    });
  });
}

/** Where the cluster lies: in the data folder, or, where its owner cannot get there (below /root, say), in a place of its own. */
function clusterFolder(data) {
  const note = join(data, 'cluster-folder');
  if (existsSync(note)) return readFileSync(note, 'utf8').trim();
  let folder = join(data, 'postgres');
  mkdirSync(folder, { recursive: true });
  if (asRoot) {
    spawnSync('chown', [OWNER, folder]);
    const [program, args] = owned('test', ['-w', folder]);
    if (spawnSync(program, args).status !== 0) {
      rmSync(folder, { recursive: true });
      folder = join('/var/lib/tin-ghost', createHash('sha256').update(data).digest('hex').slice(0, 16));
      mkdirSync(folder, { recursive: true });
      chmodSync('/var/lib/tin-ghost', 0o755);
      spawnSync('chown', [OWNER, folder]);
    }
  }
  writeFileSync(note, folder);
  return folder;
}

/** The running server of a cluster, if there is one: { pid, port }. */
function running(folder) {
  try {
    const lines = readFileSync(join(folder, 'postmaster.pid'), 'utf8').split('\n');
    const pid = Number(lines[0]);
    process.kill(pid, 0);
    const command = readFileSync(`/proc/${pid}/cmdline`, 'utf8');
    return command.includes('postgres') && lines[3] ? { pid, port: Number(lines[3]) } : undefined;
  } catch {
    return undefined;
  }
}

const ready = (bin, port) => spawnSync(join(bin, 'pg_isready'), ['-q', '-h', '127.0.0.1', '-p', String(port)]).status === 0;

/**
 * Makes the cluster where there is none and starts it.
 * @param data folder of this installation's data (absolute)
 * @returns { url, stop }: stop ends the server and waits for it
 */
export async function startCluster(data, say) {
  const bin = postgresFolder();
  mkdirSync(data, { recursive: true });
  const folder = clusterFolder(data);
  if (!existsSync(join(folder, 'PG_VERSION'))) {
    say('making the database');
    const [program, args] = owned(join(bin, 'initdb'), ['-D', folder, '-U', 'tinghost', '--auth=trust', '-E', 'UTF8', '--locale=C.UTF-8', '--no-sync']);
    const made = spawnSync(program, args, { encoding: 'utf8', cwd: '/' });
    if (made.status !== 0) giveUp(`The database could not be made in ${folder}:\n${made.stderr}`);
    appendFileSync(join(folder, 'postgresql.conf'), "\nlisten_addresses = '127.0.0.1'\nunix_socket_directories = ''\nmax_connections = 40\n");
  }
  let there = running(folder);
  let child;
  if (!there) {
    const port = await freePort();
    const log = openSync(join(data, 'postgres.log'), 'a');
    const [program, args] = owned(join(bin, 'postgres'), ['-D', folder, '-p', String(port)]);
    // A group of its own: Ctrl-C in the terminal must reach the application first.
    child = spawn(program, args, { stdio: ['ignore', log, log], detached: true, cwd: '/' });
    there = { pid: child.pid, port };
  }
  for (let i = 0; !ready(bin, there.port); i++) {
    if (i > 150 || (child && child.exitCode !== null)) giveUp(`The database did not come up; see ${join(data, 'postgres.log')}`);
    await pause(100);
  }
  const has = spawnSync(
    join(bin, 'psql'),
    ['-h', '127.0.0.1', '-p', String(there.port), '-U', 'tinghost', '-d', 'postgres', '-Atc', "select 1 from pg_database where datname = 'tinghost'"],
    { encoding: 'utf8' },
  );
  if (has.stdout.trim() !== '1') {
    const made = spawnSync(join(bin, 'createdb'), ['-h', '127.0.0.1', '-p', String(there.port), '-U', 'tinghost', 'tinghost'], { encoding: 'utf8' });
    if (made.status !== 0) giveUp(`The database could not be made: ${made.stderr}`);
  }
  const { pid, port } = there;
  return {
    url: `postgres://tinghost@127.0.0.1:${port}/tinghost`,
    pid,
    folder,
    async stop() {
      try {
        process.kill(pid, 'SIGINT');
        for (let i = 0; i < 100; i++) {
          process.kill(pid, 0);
          await pause(50);
        }
      } catch {
        // Gone, as wanted.
      }
    },
  };
}
