// `npm run bench`: measures speed on this machine and writes docs/bench.md. Ratios within one run are what counts; a machine
// is never as fast twice. `npm run bench -- kernels looks` runs those parts alone and writes nothing.
import { writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { prepare, root } from './prepare.mjs';

const say = (line) => console.log(`  ${line}`);
prepare(say);
const { build, bundle } = await import('./build.mjs');
await build(undefined, say);
const core = await import(pathToFileURL(await bundle('core/src/index.ts', 'core/dist/core.mjs')).href);
const media = await import(pathToFileURL(await bundle('media/src/index.ts', 'media/dist/media.mjs')).href);

const PARTS = ['kernels', 'looks', 'prints', 'preview'];
const chosen = process.argv.slice(2);
const texts = [];
for (const part of PARTS) {
  if (chosen.length && !chosen.includes(part)) continue;
  say(`measuring ${part}`);
  const { measure } = await import(`./bench/${part}.mjs`);
  const text = await measure({ core, media, root });
  console.log(`\n${text}\n`);
  texts.push(text);
}
if (chosen.length === 0) {
  const head = `# Speed\n\nMade by \`npm run bench\` on ${new Date().toISOString().slice(0, 10)}, on ${cpus().length} cores (${cpus()[0].model.trim()}), Node ${process.versions.node}. Times are medians; compare ratios, not machines.\n`;
  writeFileSync(join(root, 'docs/bench.md'), `${[head, ...texts].join('\n')}`);
}
process.exit(0);
