// Builds what is out of date: kernels (AssemblyScript), the server, the command line and the render worker (esbuild), the
// web application (Vite). Fast when nothing changed: a stamp of the sources is kept beside each result.
import { createHash } from 'node:crypto';
import { mkdirSync, readdirSync, readFileSync, statSync, writeFileSync, existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

export const root = dirname(dirname(fileURLToPath(import.meta.url)));

/** Every file below the given files and folders, without what is built or installed. */
function files(paths) {
  return paths.flatMap((path) => {
    const full = join(root, path);
    if (!existsSync(full)) return [];
    if (statSync(full).isFile()) return [full];
    return readdirSync(full, { withFileTypes: true })
      .filter((entry) => !['node_modules', 'dist'].includes(entry.name) && !entry.name.includes('.test.'))
      .flatMap((entry) => files([join(path, entry.name)]));
  });
}

function stamp(paths) {
  const hash = createHash('sha256');
  for (const file of files([...paths, 'package-lock.json', 'scripts/build.mjs']).sort()) hash.update(file.slice(root.length)).update(readFileSync(file));
  return hash.digest('hex');
}

/** Bundles an entry of our own for Node. @returns the result's path */
export const bundle = async (entry, outfile) => {
  const { build } = await import('esbuild');
  await build({
    entryPoints: [join(root, entry)],
    outfile: join(root, outfile),
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    sourcemap: true,
    logLevel: 'warning',
    // Packages stay outside; our own workspaces are bundled.
    plugins: [
      {
        name: 'workspaces',
        setup(b) {
          b.onResolve({ filter: /^[^./]/ }, ({ path, kind }) =>
            kind === 'entry-point' || /^@tin-ghost\/(core|contract|media|server)(\/|$)/.test(path) ? undefined : { path, external: true },
          );
        },
      },
    ],
  });
  return join(root, outfile);
};

const TARGETS = [
  {
    name: 'kernels',
    sources: ['core/kernels'],
    result: 'core/dist/kernels.wasm',
    async build() {
      const asc = (await import('assemblyscript/asc')).default;
      const options = ['-O3', '--runtime', 'stub', '--noAssert', '--enable', 'simd', '--initialMemory', '1'];
      const { error, stderr } = await asc.main(['core/kernels/index.ts', '-o', 'core/dist/kernels.wasm', '--baseDir', root, ...options]);
      if (error) throw new Error(`the kernels do not compile\n${stderr.toString()}`);
    },
  },
  {
    name: 'render worker',
    sources: ['core/src', 'media/src'],
    result: 'media/dist/render-worker.mjs',
    build: () => bundle('media/src/render-worker.ts', 'media/dist/render-worker.mjs'),
  },
  {
    name: 'command line',
    sources: ['core/src', 'media/src', 'cli/src', 'cli/package.json'],
    result: 'cli/dist/tinghost.mjs',
    build: () => bundle('cli/src/main.ts', 'cli/dist/tinghost.mjs'),
  },
  {
    name: 'worker',
    sources: ['core/src', 'contract/src', 'media/src', 'server/src'],
    result: 'server/dist/worker-main.mjs',
    build: () => bundle('server/src/worker-main.ts', 'server/dist/worker-main.mjs'),
  },
  {
    name: 'server',
    sources: ['core/src', 'contract/src', 'media/src', 'server/src'],
    result: 'server/dist/main.mjs',
    build: () => bundle('server/src/main.ts', 'server/dist/main.mjs'),
  },
  {
    name: 'web application',
    sources: ['core/src', 'core/kernels', 'contract/src', 'web'],
    result: 'web/dist/index.html',
    async build() {
      const { build } = await import('vite');
      await build({ root: join(root, 'web'), configFile: join(root, 'web/vite.config.ts'), logLevel: 'warn' });
    },
  },
];

/** Builds the targets that are out of date (all, or those named). `say` is told of each. */
export async function build(names, say = () => {}) {
  for (const target of TARGETS) {
    if (names && !names.includes(target.name)) continue;
    const result = join(root, target.result);
    const kept = `${result}.stamp`;
    const now = stamp(target.sources);
    if (existsSync(result) && existsSync(kept) && readFileSync(kept, 'utf8') === now) continue;
    say(`building ${target.name}`);
    mkdirSync(dirname(result), { recursive: true });
    await target.build();
    writeFileSync(kept, now);
  }
}

if (import.meta.url === pathToFileURL(process.argv[1]).href) await build(process.argv.length > 2 ? process.argv.slice(2) : undefined, (line) => console.log(line));
