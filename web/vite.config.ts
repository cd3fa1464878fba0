import { join } from 'node:path';
import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { compression } from 'vite-plugin-compression2';
import { defineConfig, type Plugin } from 'vite';

const WORKER = "new URL('./render.worker.ts', import.meta.url)";

/** Builds the render worker as a part of the page's own build, not as one by itself: the engine, which both need, is fetched once. */
const workerOfTheBuild: Plugin = {
  name: 'worker-of-the-build',
  apply: 'build',
  enforce: 'pre',
  transform(code, id) {
    if (!code.includes(WORKER)) return undefined;
    const file = this.emitFile({ type: 'chunk', id: join(id, '../render.worker.ts'), name: 'render.worker' });
    return code.replace(WORKER, `import.meta.ROLLUP_FILE_URL_${file}`);
  },
};

export default defineConfig({
  plugins: [workerOfTheBuild, react(), tailwindcss(), compression({ algorithms: ['brotliCompress'], include: /\.(js|css|wasm)$/ })],
  worker: { format: 'es' },
  build: {
    target: 'es2022',
    chunkSizeWarningLimit: 1500,
    // There are no documents in workers to put links into.
    modulePreload: { resolveDependencies: (_, files, { hostId }) => (hostId.includes('render.worker') ? [] : files) },
  },
  // The workspaces are sources, not packages to be bundled beforehand.
  optimizeDeps: { exclude: ['@tin-ghost/core'], include: ['joi', 'jsonc-parser'] },
});
