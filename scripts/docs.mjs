// Documents made from the declarations: docs/traits.md and docs/look.schema.json. With --check, says whether they are current.
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import compactJson from 'json-stringify-pretty-compact';
import { bundle, root } from './build.mjs';

const { carriers, lookJsonSchema, traits } = await import(pathToFileURL(await bundle('core/src/index.ts', 'core/dist/core.mjs')).href);

const WORDS = { text: 'words', font: 'a built-in font, or the hash of a file', plate: 'a built-in plate, or the hash of a file' };
const range = (s) =>
  s.kind === 'number'
    ? `${s.min} to ${s.max} ${s.sign}`
    : s.kind === 'choice'
      ? Object.keys(s.options).join(', ')
      : s.kind === 'toggle'
        ? 'true or false'
        : s.kind === 'curve'
          ? 'points [in, out], 0 to 1'
          : s.kind === 'table'
            ? 'a table kept with the look'
            : (WORDS[s.kind] ?? 'three numbers, 0 to 1');
const row = (key, s) => `| \`${key}\` | ${s.name} | ${range(s)} | ${Array.isArray(s.default) ? JSON.stringify(s.default) : s.default} | ${s.says} |`;
const part = (t) =>
  `## ${t.name}\n\n\`${t.id}\`, ${t.family ? 'any act' : `act ${t.act}`}, works in ${t.domain === 'any' ? 'any domain' : t.domain === 'rgb' ? 'any domain of red, green and blue' : `\`${t.domain}\``}. ${t.says}\n\n| setting | name | range | default | |\n| --- | --- | --- | --- | --- |\n${Object.entries(
    t.settings,
  )
    .map(([key, s]) => row(key, s))
    .join('\n')}\n`;
const gauge = (c) =>
  `| \`${c.id}\` | ${c.name} | ${c.gate ? `${c.gate.width} x ${c.gate.height} mm` : c.raster ? `${c.raster.width} x ${c.raster.height} samples and lines` : 'none'} | ${c.rate ? Math.round(c.rate * 100) / 100 : 'none'} | ${c.says} |`;
const traitsText = `# Traits and carriers\n\nMade from the declarations by \`npm run docs\`; do not edit.\n\n${traits.map(part).join('\n')}\n## Carriers\n\n| id | name | gate or raster | pictures a second | |\n| --- | --- | --- | --- | --- |\n${carriers.map(gauge).join('\n')}\n`;

const files = { 'docs/traits.md': traitsText, 'docs/look.schema.json': `${compactJson(lookJsonSchema(), { maxLength: 600 })}\n` };
let stale = false;
for (const [name, text] of Object.entries(files)) {
  const path = join(root, name);
  if (!process.argv.includes('--check')) writeFileSync(path, text);
  else if (readFileSync(path, 'utf8') !== text) {
    console.log(`${name} is not what the declarations say; run npm run docs`);
    stale = true;
  }
}
process.exit(stale ? 1 : 0);
