// `npm run package`: makes of `core/` a package of plain ES modules with types, in `core/dist/package` (or a folder named), as it may be published.
import { execFile } from 'node:child_process';
import { copyFileSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { basename, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { root } from './prepare.mjs';

const SOURCES = join(root, 'core/src');

const filesBelow = (folder) =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) => (entry.isDirectory() ? filesBelow(join(folder, entry.name)) : [join(folder, entry.name)]));

/** Traits and carriers: each may be taken by itself. */
const parts = () =>
  ['traits', 'carriers'].flatMap((part) =>
    filesBelow(join(SOURCES, part)).filter(
      (file) => file.endsWith('.ts') && !/\.test\.ts$/.test(file) && /^export const \w+ = trait\(|: Carrier(\[\])? = /m.test(readFileSync(file, 'utf8')),
    ),
  );

/** Declarations name files as Node does: by the whole name. */
function withEndings(folder) {
  const files = new Set(filesBelow(folder).map((file) => file.replace(/\.d\.ts$/, '')));
  for (const file of filesBelow(folder).filter((f) => f.endsWith('.d.ts'))) {
    const text = readFileSync(file, 'utf8').replace(/((?:from|import)\s*\(?\s*['"])(\.{1,2}\/[^'"]+|\.{1,2})(['"])/g, (_, before, path, after) => {
      const whole = join(file, '..', path);
      return `${before}${files.has(whole) ? path : `${path}/index`}.js${after}`;
    });
    writeFileSync(file, text);
  }
}

/**
 * Makes the package anew. The kernels must have been built.
 * @param target folder, which is replaced @returns its `package.json`, parsed
 */
export async function packCore(target) {
  const { build } = await import('esbuild');
  rmSync(target, { recursive: true, force: true });
  const lib = join(target, 'lib');
  mkdirSync(join(target, 'dist'), { recursive: true });
  await build({
    entryPoints: [join(SOURCES, 'index.ts'), join(SOURCES, 'bare.ts'), join(SOURCES, 'text/read-font.ts'), ...parts()],
    outdir: lib,
    outbase: SOURCES,
    bundle: true,
    splitting: true,
    format: 'esm',
    platform: 'neutral',
    target: 'es2022',
    packages: 'external',
    logLevel: 'warning',
  });
  await promisify(execFile)(join(root, 'node_modules/.bin/tsc'), ['-p', join(root, 'core'), '--noEmit', 'false', '--declaration', '--emitDeclarationOnly', '--outDir', lib]);
  withEndings(lib);
  copyFileSync(join(root, 'core/dist/kernels.wasm'), join(target, 'dist/kernels.wasm'));
  for (const file of ['core/README.md', 'LICENSE']) copyFileSync(join(root, file), join(target, basename(file)));
  const { name, version, description, license, engines, dependencies } = JSON.parse(readFileSync(join(root, 'core/package.json'), 'utf8'));
  const entry = (path) => ({ types: `./lib/${path}.d.ts`, default: `./lib/${path}.js` });
  const own = parts().map((file) => [`./${relative(SOURCES, file).replace(/^(\w+)\/(?:\w+\/)?([^/]+)\.ts$/, '$1/$2')}`, entry(relative(SOURCES, file).replace(/\.ts$/, ''))]);
  const manifest = {
    name,
    version,
    description,
    license,
    type: 'module',
    engines,
    exports: { '.': entry('index'), './bare': entry('bare'), './read-font': entry('text/read-font'), ...Object.fromEntries(own), './kernels.wasm': './dist/kernels.wasm' },
    files: ['lib', 'dist'],
    dependencies,
  };
  writeFileSync(join(target, 'package.json'), `${JSON.stringify(manifest, null, 2)}\n`);
  return manifest;
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const { prepare } = await import('./prepare.mjs');
  prepare(console.log);
  await (await import('./build.mjs')).build(['kernels'], console.log);
  const target = process.argv[2] ?? join(root, 'core/dist/package');
  await packCore(target);
  console.log(target);
}
