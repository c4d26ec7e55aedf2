import { fileURLToPath } from 'node:url';
import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

const API = `http://127.0.0.1:${process.env.MALLE_PORT ?? 4180}`;

export default defineConfig({
  root: fileURLToPath(new URL('src/web', import.meta.url)),
  plugins: [react(), tailwindcss()],
  // The server puts a fresh nonce here for every answer; see src/server/platform/web.ts.
  html: { cspNonce: '%NONCE%' },
  build: {
    outDir: fileURLToPath(new URL('dist/web', import.meta.url)),
    emptyOutDir: true,
    target: 'es2022',
    assetsInlineLimit: 0,
  },
  server: { proxy: { '/api': { target: API, changeOrigin: false } } },
});
