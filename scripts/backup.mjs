// `npm run backup -- FILE.tar`: everything that is kept, in one file: reels, shots, looks, footage and prints. `npm run restore -- FILE.tar` lays it into a
// data folder where nothing is yet. Environment as of `npm start`; Tin Ghost must not be running on the folder.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readdirSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { basename, dirname, join, resolve } from 'node:path';
import { lockFolder } from './folder-lock.mjs';
import { giveUp, postgresFolder, prepare, root } from './prepare.mjs';

const say = (line) => console.log(`  ${line}`);
const [what, named] = process.argv.slice(2);
const file = named && resolve(named);
if (!file || !['backup', 'restore'].includes(what)) giveUp('Use: npm run backup -- FILE.tar, or npm run restore -- FILE.tar');
const data = resolve(process.env.TIN_GHOST_DATA ?? join(root, 'data'));
const media = resolve(process.env.TIN_GHOST_MEDIA ?? join(data, 'media'));
/** What a backup is, for those that come later. */
const KIND = 'tin-ghost/backup@1';

prepare(say, ['ffmpeg', 'postgresql']);
const { startCluster } = await import('./cluster.mjs');

/** Runs a program; ends everything with its words where it fails. */
function run(program, args, options = {}) {
  const { status, stderr, error } = spawnSync(program, args, { encoding: 'utf8', stdio: ['ignore', 'inherit', 'pipe'], ...options });
  if (status !== 0) throw new Error(`${basename(program)} failed: ${(error?.message ?? stderr ?? '').trim()}`);
}

/** Holds the data folder and runs its database meanwhile. */
async function withDatabase(work) {
  mkdirSync(data, { recursive: true });
  const release = await lockFolder(data);
  if (!release) giveUp(`Tin Ghost is running on ${data}: end it first (Ctrl-C), so that nothing changes meanwhile.`);
  const elsewhere = process.env.TIN_GHOST_DATABASE;
  const cluster = elsewhere ? { url: elsewhere, stop: async () => undefined } : await startCluster(data, { say });
  try {
    await work(cluster.url);
  } finally {
    await cluster.stop();
    release();
  }
}

async function backup() {
  if (process.env.TIN_GHOST_STORE) say('what lies in the bucket is not in the backup: keep that by the means of whoever runs it');
  if (!process.env.TIN_GHOST_DATABASE && !existsSync(join(data, 'database-passwords.json'))) giveUp(`There is nothing to back up: Tin Ghost has never run on ${data}.`);
  if (existsSync(file)) giveUp(`${file} is there already; a backup overwrites nothing.`);
  const scratch = mkdtempSync(join(dirname(file), '.tin-ghost-backup-'));
  try {
    await withDatabase((url) =>
      run(join(postgresFolder(), 'pg_dump'), ['--format=custom', '--no-owner', '--exclude-schema=pgboss', `--file=${join(scratch, 'database.dump')}`, url]),
    );
    writeFileSync(join(scratch, 'backup.json'), JSON.stringify({ kind: KIND, at: new Date().toISOString() }));
    mkdirSync(media, { recursive: true });
    const made = join(scratch, 'whole.tar');
    // Half-made files and unfinished uploads are nothing that is kept.
    const tar = [
      '--create',
      `--file=${made}`,
      '--exclude=.*.part-*',
      '-C',
      scratch,
      'backup.json',
      'database.dump',
      `--transform=s,^\\./,media/,`,
      '-C',
      media,
      ...['./media', './prints', './segments'].filter((folder) => existsSync(join(media, folder))),
    ];
    run('tar', tar);
    renameSync(made, file);
  } finally {
    rmSync(scratch, { recursive: true, force: true });
  }
  say(`everything that is kept is in ${file}`);
}

async function restore() {
  if (!existsSync(file)) giveUp(`${file} is not there.`);
  if (existsSync(data) && readdirSync(data).length > 0) giveUp(`${data} is not empty: a backup is laid into a folder where nothing is yet. Set TIN_GHOST_DATA to another.`);
  if (existsSync(media) && readdirSync(media).length > 0) giveUp(`${media} is not empty: a backup is laid into a folder where nothing is yet. Set TIN_GHOST_MEDIA to another.`);
  const parts = spawnSync('tar', ['--extract', `--file=${file}`, '--to-stdout', 'backup.json'], { encoding: 'utf8' });
  if (parts.status !== 0 || !parts.stdout.includes(KIND)) giveUp(`${file} is no backup of Tin Ghost, or one of a newer version.`);
  mkdirSync(dirname(data), { recursive: true });
  const scratch = mkdtempSync(join(dirname(data), '.tin-ghost-restore-'));
  try {
    run('tar', ['--extract', `--file=${file}`, '-C', scratch]);
    await withDatabase((url) =>
      run(join(postgresFolder(), 'pg_restore'), ['--no-owner', '--exit-on-error', '--single-transaction', `--dbname=${url}`, join(scratch, 'database.dump')]),
    );
    if (existsSync(join(scratch, 'media'))) {
      mkdirSync(media, { recursive: true });
      for (const folder of readdirSync(join(scratch, 'media'))) run('cp', ['-a', join(scratch, 'media', folder), media]);
    }
  } catch (error) {
    // Nothing half-laid stays behind.
    rmSync(data, { recursive: true, force: true });
    throw error;
  } finally {
    rmSync(scratch, { recursive: true, force: true });
  }
  say(`restored into ${data}; npm start goes on with it`);
}

try {
  await (what === 'backup' ? backup() : restore());
  process.exit(0);
} catch (error) {
  giveUp(error.message);
}
