// `npm run bench`: measures speed on this machine and writes docs/bench.md. Ratios within one run are what counts; a machine
// is never as fast twice. `npm run bench -- kernels looks` runs those parts alone and replaces their sections.
import { readFileSync, writeFileSync } from 'node:fs';
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

const PARTS = ['kernels', 'recorder', 'looks', 'alone', 'chain', 'plates', 'prints', 'machines', 'preview', 'editing', 'stockroom'];
const chosen = process.argv.slice(2);
const file = join(root, 'docs/bench.md');
const today = new Date().toISOString().slice(0, 10);
for (const part of PARTS) {
  if (chosen.length && !chosen.includes(part)) continue;
  say(`measuring ${part}`);
  const { measure } = await import(`./bench/${part}.mjs`);
  const text = await measure({ core, media, root });
  console.log(`\n${text}\n`);
  const [title, ...body] = text.trim().split('\n');
  keep(title, `${title}\n\nMeasured on ${today}.\n${body.join('\n')}`);
}
process.exit(0);

/** Puts a section in place of the one of its title, or at the end. */
function keep(title, section) {
  const head = `# Speed\n\nMade by \`npm run bench\`, on ${cpus().length} cores (${cpus()[0].model.trim()}), Node ${process.versions.node}. Times are medians; compare ratios within a section, not machines.`;
  const sections = readFileSync(file, 'utf8')
    .split(/^(?=## )/m)
    .slice(1)
    .map((old) => old.trim());
  const at = sections.findIndex((old) => old.startsWith(`${title}\n`));
  if (at < 0) sections.push(section);
  else sections[at] = section;
  writeFileSync(file, `${[head, ...sections].join('\n\n')}\n`);
}
