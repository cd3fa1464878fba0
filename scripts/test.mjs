// `npm test`: sets up what is missing, then format, lint, types, boundaries, unit tests and end-to-end tests. Every step runs
// even when one before it failed; the last line counts them all. `npm test -- core media` runs those projects alone.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { checks } from './checks.mjs';
import { prepare, root } from './prepare.mjs';

const say = (line) => console.log(`  ${line}`);
prepare(say);
const { build, bundle } = await import('./build.mjs');
await build(undefined, say);

const projects = process.argv.slice(2);
let [passed, failed] = [0, 0];
function jest(name, selected, env = {}) {
  const report = join(scratch, `${name}.json`);
  const args = [
    '--experimental-vm-modules',
    '--disable-warning=ExperimentalWarning',
    join(root, 'node_modules/jest/bin/jest.js'),
    '--selectProjects',
    ...selected,
    '--json',
    `--outputFile=${report}`,
    '--silent=false',
  ];
  // As many at once as there are cores on the smallest machine.
  args.push('--maxWorkers=2');
  const run = spawnSync(process.execPath, args, { cwd: root, stdio: ['ignore', 'ignore', 'inherit'], env: { ...process.env, ...env } });
  try {
    const { numPassedTests, numFailedTests, testResults } = JSON.parse(readFileSync(report, 'utf8'));
    // A file that cannot even be loaded holds no failed test, but it has failed.
    const broken = testResults.filter((file) => file.status === 'failed' && file.assertionResults.every((t) => t.status !== 'failed')).length;
    passed += numPassedTests;
    failed += numFailedTests + broken;
    if (numPassedTests + numFailedTests + broken === 0) failed++;
  } catch {
    failed++;
    console.log(`FAILED ${name}: no report was written (exit ${run.status})`);
  }
}

const scratch = mkdtempSync(join(tmpdir(), 'tin-ghost-test-'));
const { startCluster } = await import('./cluster.mjs');
const cluster = await startCluster(join(scratch, 'data'));
try {
  const env = { TEST_DATABASE_URL: cluster.adminUrl };
  if (projects.length) jest('chosen', projects, env);
  else {
    const looks = await bundle('core/checks/random-looks.ts', 'core/dist/random-looks.mjs');
    const checked = await checks([
      ['random looks', process.execPath, [looks, join(root, 'core/dist/kernels.wasm')]],
      ['lint', 'eslint', ['.', '--max-warnings', '0']],
      ['types', 'tsc', ['--noEmit']],
      ['types of core, without Node and DOM', 'tsc', ['-p', 'core', '--noEmit']],
      ['format', 'prettier', ['--check', '--log-level', 'warn', '.']],
      ['boundaries', 'depcruise', ['core/src', 'contract/src', 'media/src', 'server/src', 'web/src', 'cli/src', 'e2e', '--config', '.dependency-cruiser.cjs']],
      ['documents from declarations', process.execPath, [join(root, 'scripts/docs.mjs'), '--check']],
    ]);
    passed += checked.passed;
    failed += checked.failed;
    jest('unit', ['core', 'contract', 'media', 'cli', 'server', 'web'], env);
    jest('e2e', ['e2e'], env);
  }
} finally {
  await cluster.stop();
  rmSync(scratch, { recursive: true, force: true, maxRetries: 5 });
  if (cluster.folder !== join(scratch, 'data/postgres')) rmSync(cluster.folder, { recursive: true, force: true });
}
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed ? 1 : 0);
