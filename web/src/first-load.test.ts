/** What a browser fetches before it shows its first screen, as the server sends it. */
import { readFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { gzipSync } from 'node:zlib';
import { expect, test } from '@jest/globals';

const built = join(dirname(dirname(fileURLToPath(import.meta.url))), 'dist');
/** Kilobytes, compressed. */
const BUDGET = 500;

test('the first load is under 500 kB, compressed', async () => {
  const page = await readFile(join(built, 'index.html'), 'utf8');
  const named = [...page.matchAll(/(?:src|href)="(\/assets\/[^"]+)"/g)].map((match) => match[1]!);
  expect(named.filter((name) => name.endsWith('.js')).length).toBeGreaterThan(0);
  const sizes = await Promise.all(named.map(async (name) => [name, Math.round(gzipSync(await readFile(join(built, name))).length / 1000)] as const));
  const total = sizes.reduce((sum, [, size]) => sum + size, 0);
  expect([sizes, total < BUDGET]).toEqual([sizes, true]);
});
