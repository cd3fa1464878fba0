#!/usr/bin/env node
import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const here = dirname(fileURLToPath(import.meta.url));
const built = ['../dist/tinghost.mjs', '../../media/dist/render-worker.mjs', '../../core/dist/kernels.wasm'].every((file) => existsSync(join(here, file)));
if (!built) {
  const { build } = await import('../../scripts/build.mjs');
  await build(['kernels', 'render worker', 'command line']);
}
const { main } = await import('../dist/tinghost.mjs');
process.exitCode = await main(process.argv.slice(2));
