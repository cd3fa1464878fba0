// TypeScript for tests, by swc. Globals of a test are looked up anew at each use, which costs a loop over pixels ten times what its sums do: each module
// takes those it uses once.
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import swc from '@swc/jest';

const { createTransformer } = swc;
const inner = createTransformer({
  jsc: {
    target: 'es2022',
    parser: { syntax: 'typescript', tsx: true, decorators: false },
    transform: { react: { runtime: 'automatic' } },
    experimental: { keepImportAttributes: true },
  },
  module: { type: 'es6' },
});
const HELD = ['Math', 'Number', 'Array', 'Object', 'Float32Array', 'Float64Array', 'Uint8Array', 'Uint16Array', 'Uint32Array', 'Int32Array', 'Map', 'Set'];
const own = readFileSync(fileURLToPath(import.meta.url));

/** On the first line, so that lines keep their numbers. */
function held(code) {
  const used = HELD.filter((name) => new RegExp(`\\b${name}\\b`).test(code) && !new RegExp(`\\b(?:const|let|var|class|function|import|as)\\s+${name}\\b`).test(code));
  return used.length ? `const ${used.map((name) => `${name} = globalThis.${name}`).join(', ')}; ${code}` : code;
}

const result = (made) => ({ ...made, code: held(made.code) });

export default {
  process: (...asked) => result(inner.process(...asked)),
  processAsync: async (...asked) => result(await inner.processAsync(...asked)),
  getCacheKey: (...asked) =>
    createHash('sha256')
      .update(inner.getCacheKey(...asked))
      .update(own)
      .digest('hex'),
};
