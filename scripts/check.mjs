// `npm run check`: format, lint, types and boundaries, and the unit tests nearest to what has changed since the last commit, or since a revision:
// `npm run check -- main~3`. What a change needs while it is made; `npm test` checks everything.
import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, relative } from 'node:path';
import { prepare, root } from './prepare.mjs';
import { checks } from './checks.mjs';

const say = (line) => console.log(`  ${line}`);
prepare(say);
const { build } = await import('./build.mjs');
await build(undefined, say);

const since = process.argv[2] ?? 'HEAD';
const git = (...args) => execFileSync('git', args, { cwd: root, encoding: 'utf8' }).split('\n');
const changed = [...git('diff', '--name-only', '--diff-filter=d', since), ...git('ls-files', '--others', '--exclude-standard')];
const code = changed.filter((name) => /\.(ts|tsx|mjs|js)$/.test(name));
const { failed } = await checks([
  ['types', 'tsc', ['--noEmit']],
  ['types of core, without Node and DOM', 'tsc', ['-p', 'core', '--noEmit']],
  ...(code.length ? [['lint', 'eslint', ['--max-warnings', '0', '--no-warn-ignored', ...code]]] : []),
  ['format', 'prettier', ['--check', '--log-level', 'warn', '--ignore-unknown', ...changed.filter(Boolean), 'package.json']],
  ['boundaries', 'depcruise', ['core/src', 'contract/src', 'media/src', 'server/src', 'web/src', 'cli/src', 'e2e', '--config', '.dependency-cruiser.cjs']],
]);

/** A file that so many tests import lies under all of a part; they are left to `npm test`. */
const MOST_LEANING = 8;

/** Tests that were changed, that belong to a changed file by name, or that import one themselves: all that lean on it would be most of them. */
function nearest() {
  const of = new Set(changed);
  const all = git('ls-files', '--cached', '--others', '--exclude-standard', '*.test.ts', '*.test.tsx').filter(
    (name) => name && !name.startsWith('e2e/') && existsSync(join(root, name)),
  );
  const imports = (name) =>
    [...readFileSync(join(root, name), 'utf8').matchAll(/(?:from|import)\s*\(?\s*'(\.[^']+)'/g)].flatMap(([, path]) =>
      ['.ts', '.tsx', '/index.ts', ''].map((ending) => relative(root, join(root, dirname(name), `${path}${ending}`))),
    );
  const importing = all.map((name) => [name, imports(name)]);
  const narrow = new Set(changed.filter((path) => importing.filter(([, paths]) => paths.includes(path)).length <= MOST_LEANING));
  const near = (name) => of.has(name) || of.has(name.replace(/\.test(\.tsx?)$/, '$1')) || importing.find(([test]) => test === name)[1].some((path) => narrow.has(path));
  const kernels = changed.some((name) => name.startsWith('core/kernels/')) ? ['core/src/kernels.test.ts'] : [];
  return [...new Set([...all.filter(near), ...kernels])];
}

const files = nearest();
if (files.length === 0) {
  say('no test stands near to what has changed');
  process.exit(failed ? 1 : 0);
}
const scratch = mkdtempSync(join(tmpdir(), 'tin-ghost-check-'));
const { startCluster } = await import('./cluster.mjs');
const cluster = await startCluster(join(scratch, 'data'));
let tests;
try {
  const jest = ['--experimental-vm-modules', '--disable-warning=ExperimentalWarning', join(root, 'node_modules/jest/bin/jest.js')];
  const args = ['--maxWorkers=2', '--runTestsByPath', ...files];
  tests = spawnSync(process.execPath, [...jest, ...args], { cwd: root, stdio: 'inherit', env: { ...process.env, TEST_DATABASE_URL: cluster.adminUrl } });
} finally {
  await cluster.stop();
  rmSync(scratch, { recursive: true, force: true, maxRetries: 5 });
}
process.exit(failed || tests.status !== 0 ? 1 : 0);
