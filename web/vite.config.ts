import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react(), tailwindcss()],
  worker: { format: 'es' },
  build: { target: 'es2022', chunkSizeWarningLimit: 1500 },
  // The workspaces are sources, not packages to be bundled beforehand.
  optimizeDeps: { exclude: ['@tin-ghost/core'], include: ['joi', 'jsonc-parser'] },
});
