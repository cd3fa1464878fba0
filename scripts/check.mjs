// `npm run check`: format, lint, types and boundaries, and the unit tests of what has changed since the last commit, or since a revision:
// `npm run check -- main~3`. What a change needs before it is committed; `npm test` checks everything.
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
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

const scratch = mkdtempSync(join(tmpdir(), 'tin-ghost-check-'));
const { startCluster } = await import('./cluster.mjs');
const cluster = await startCluster(join(scratch, 'data'));
let tests;
try {
  const jest = ['--experimental-vm-modules', '--disable-warning=ExperimentalWarning', join(root, 'node_modules/jest/bin/jest.js')];
  const args = ['--selectProjects', 'core', 'media', 'cli', 'server', 'web', '--maxWorkers=2', '--passWithNoTests', '--changedSince', since];
  tests = spawnSync(process.execPath, [...jest, ...args], { cwd: root, stdio: 'inherit', env: { ...process.env, TEST_DATABASE_URL: cluster.adminUrl } });
} finally {
  await cluster.stop();
  rmSync(scratch, { recursive: true, force: true, maxRetries: 5 });
}
process.exit(failed || tests.status !== 0 ? 1 : 0);
