// What a fresh machine lacks: Debian packages and npm packages. Plain Node, since it runs before anything is installed.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = dirname(dirname(fileURLToPath(import.meta.url)));

const has = (program) => spawnSync('sh', ['-c', `command -v ${program}`], { stdio: 'ignore' }).status === 0;

/** Folder of PostgreSQL's programs, or undefined. */
export function postgresFolder() {
  const debian = '/usr/lib/postgresql';
  const versions = existsSync(debian) ? readdirSync(debian).sort((a, b) => Number(b) - Number(a)) : [];
  const found = versions.map((v) => join(debian, v, 'bin')).find((folder) => existsSync(join(folder, 'initdb')) && existsSync(join(folder, 'postgres')));
  if (found) return found;
  const asked = spawnSync('pg_config', ['--bindir'], { encoding: 'utf8' });
  return asked.status === 0 && existsSync(join(asked.stdout.trim(), 'initdb')) ? asked.stdout.trim() : undefined;
}

/** Ends the process with a message a person can act on. */
export function giveUp(message) {
  console.error(`\n${message}\n`);
  process.exit(1);
}

const PACKAGES = { ffmpeg: () => has('ffmpeg') && has('ffprobe'), postgresql: () => postgresFolder() !== undefined, chromium: () => has('chromium') };

function debianPackages(say, needed) {
  const missing = needed.filter((name) => !PACKAGES[name]());
  if (missing.length === 0) return;
  const install = `apt-get update && apt-get install -y ${missing.join(' ')}`;
  const asRoot = process.getuid?.() === 0;
  const sudo = !asRoot && spawnSync('sudo', ['-n', 'true'], { stdio: 'ignore' }).status === 0;
  if (!has('apt-get') || !(asRoot || sudo)) {
    giveUp(`Tin Ghost needs ${missing.join(', ')}. Install with this one command and start again:\n\n  sudo sh -c '${install}'`);
  }
  say(`installing ${missing.join(', ')} (Debian packages; a minute or two)`);
  const run = spawnSync(asRoot ? 'sh' : 'sudo', [...(asRoot ? [] : ['sh']), '-c', `export DEBIAN_FRONTEND=noninteractive; ${install} -qq`], {
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  if (run.status !== 0) giveUp(`The packages could not be installed. Run this and start again:\n\n  sudo sh -c '${install}'`);
}

function npmPackages(say) {
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  const stamp = join(root, 'node_modules/.tin-ghost');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  // `npm ci` refuses lock files that were made on one platform; this installs the locked versions and leaves the lock alone.
  say('installing npm packages');
  const run = spawnSync('npm', ['install', '--no-save', '--no-audit', '--no-fund', '--loglevel=error'], { cwd: root, stdio: ['ignore', 'ignore', 'inherit'] });
  if (run.status !== 0) giveUp('The npm packages could not be installed; see above.');
  mkdirSync(dirname(stamp), { recursive: true });
  writeFileSync(stamp, lock);
}

/** Installs what is missing of some Debian packages (all that are used, by default) and of npm's. `say` is told of each longer step. */
export function prepare(say, debian = Object.keys(PACKAGES)) {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19)) giveUp(`Tin Ghost needs Node 20.19 or later; this is ${process.versions.node}.`);
  debianPackages(say, debian);
  npmPackages(say);
}
