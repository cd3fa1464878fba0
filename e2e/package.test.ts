/** The engine as others take it: the package is made, laid into a folder of its own, and used by plain Node. */
import { execFileSync, spawnSync } from 'node:child_process';
import { cp, mkdir, mkdtemp, readFile, rm, symlink, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { Engine, Plan, shippedLook, signalPicture, toCodes, traits } from '@tin-ghost/core';
import { packCore } from '../scripts/package-core.mjs';

const root = dirname(dirname(fileURLToPath(import.meta.url)));
let folder: string;
let manifest: Awaited<ReturnType<typeof packCore>>;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'tin-ghost-package-'));
  manifest = await packCore(join(folder, 'made'));
  const own = join(folder, 'node_modules/@tin-ghost/core');
  await mkdir(own, { recursive: true });
  await cp(join(folder, 'made'), own, { recursive: true });
  for (const name of Object.keys(manifest.dependencies as object)) {
    await mkdir(dirname(join(folder, 'node_modules', name)), { recursive: true });
    await symlink(join(root, 'node_modules', name), join(folder, 'node_modules', name));
  }
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const run = (file: string): string => execFileSync(process.execPath, [file], { cwd: folder, encoding: 'utf8' });

test('the lines of its README run in plain Node, and give the picture that the product gives', async () => {
  const [, code] = /```js\n([\s\S]*?)```/.exec(await readFile(join(root, 'core/README.md'), 'utf8'))!;
  expect(
    code!
      .trim()
      .split('\n')
      .filter((line) => line && !line.startsWith('//')).length,
  ).toBeLessThanOrEqual(20);
  await writeFile(join(folder, 'readme.mjs'), code!);
  run('readme.mjs');
  const made = await readFile(join(folder, 'last-night.ppm'));
  expect(made.subarray(0, 15).toString()).toBe('P6\n640 480\n255\n');

  const size = { width: 640, height: 480 };
  const bars = {
    ...size,
    encoding: { layout: 'rgb', bits: 8, subX: 0, subY: 0, matrix: 'bt709', range: 'full' } as const,
    planes: toCodes(signalPicture('bars', size), 8),
  };
  const plan = new Plan(await Engine.load(), { ...shippedLook('sunday-reel')!, seed: 14 }, { source: bars, target: bars, rate: 24 });
  const planes = plan.render(2, () => bars);
  const expected = Buffer.alloc(3 * 640 * 480);
  planes.forEach((plane, c) => plane.forEach((v, i) => (expected[3 * i + c] = v)));
  expect(made.subarray(15).equals(expected)).toBe(true);
  // It was worn: no picture of bars.
  expect(made.subarray(15).equals(Buffer.from(Array.from(bars.planes[0]!, (r, i) => [r, bars.planes[1]![i]!, bars.planes[2]![i]!]).flat()))).toBe(false);
});

test('a program takes the traits it needs, and no others come along', async () => {
  await writeFile(
    join(folder, 'bare.mjs'),
    `import { checkLook, registerTrait, traits } from '@tin-ghost/core/bare';
import { grain } from '@tin-ghost/core/traits/grain';
import { super8 } from '@tin-ghost/core/carriers/super8';
const look = { schema: 'tin-ghost/look@1', name: 'x', seed: 1, lives: [{ carrier: super8.id, traits: [{ trait: 'grain' }] }] };
const refused = (() => { try { checkLook(look); return ''; } catch (error) { return error.message; } })();
registerTrait(grain);
console.log(JSON.stringify({ refused, name: checkLook(look).name, traits: traits.map((t) => t.id) }));`,
  );
  expect(JSON.parse(run('bare.mjs'))).toEqual({ refused: expect.stringContaining('there is no trait "grain"'), name: 'x', traits: ['grain'] });
  // Everything that these two entry points reach, read.
  const reached = new Map<string, string>();
  const read = async (file: string): Promise<void> => {
    if (reached.has(file)) return;
    const text = await readFile(file, 'utf8');
    reached.set(file, text);
    for (const [, path] of text.matchAll(/from\s*"(\.[^"]+)"|import\s*"(\.[^"]+)"/g)) if (path) await read(join(dirname(file), path));
  };
  const { exports } = manifest as { exports: Record<string, { default: string }> };
  for (const entry of ['./bare', './traits/grain']) await read(join(folder, 'made', exports[entry]!.default));
  const all = [...reached.values()].join('\n');
  const along = traits.filter(({ id }) => new RegExp(`id: "${id}",\\s+act:`).test(all)).map(({ id }) => id);
  expect(along).toEqual(['grain']);
  for (const { id } of traits) expect(exports[`./traits/${id}`]).toBeDefined();
});

test('its types are found by a compiler that resolves as Node does', async () => {
  await writeFile(
    join(folder, 'typed.mts'),
    `import { Engine, checkLook, type Look } from '@tin-ghost/core';
import { grain } from '@tin-ghost/core/traits/grain';
const look: Look = checkLook({});
const engine: Promise<Engine> = Engine.load();
const id: string = grain.id;
// @ts-expect-error -- a look has no such field
look.nonsense;
export { engine, id };`,
  );
  await writeFile(
    join(folder, 'tsconfig.json'),
    JSON.stringify({ compilerOptions: { noEmit: true, strict: true, module: 'nodenext', target: 'es2022', types: [] }, files: ['typed.mts'] }),
  );
  const { stdout } = spawnSync(join(root, 'node_modules/.bin/tsc'), ['-p', folder], { encoding: 'utf8' });
  expect(stdout).toBe('');
});
