// Makes the references that ship: pictures of a scene that is shown nowhere clean, worn by recipes that no look of the
// product repeats. `node demo/generator/references.mjs`, after `npm start` or `npm test` has set up what is needed.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync, mkdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const here = dirname(fileURLToPath(import.meta.url));
const root = join(here, '../..');
const target = join(here, '../references');
const scratch = mkdtempSync(join(tmpdir(), 'tin-ghost-references-'));

function run(program, args) {
  const { status, stderr } = spawnSync(program, args, { cwd: root, encoding: 'utf8' });
  if (status !== 0) throw new Error(`${program} ${args.join(' ')}\n${stderr}`);
}

try {
  mkdirSync(target, { recursive: true });
  for (const { file, at, look } of JSON.parse(readFileSync(join(here, 'recipes.json'), 'utf8'))) {
    const [clean, recipe, worn] = ['clean.png', 'look.json', 'worn.png'].map((name) => join(scratch, name));
    run('node', [join(here, 'make.mjs'), 'terminus', '--at', String(at), '--out', clean]);
    writeFileSync(recipe, JSON.stringify(look));
    run('node', ['cli/bin/tinghost.mjs', 'frame', '--in', clean, '--look', recipe, '--at', '0', '--out', worn]);
    run('ffmpeg', ['-nostdin', '-v', 'error', '-y', '-i', worn, '-q:v', '2', '-pix_fmt', 'yuvj444p', join(target, file)]);
    console.log(file);
  }
} finally {
  rmSync(scratch, { recursive: true, force: true });
}
