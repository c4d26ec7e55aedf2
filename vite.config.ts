import { fileURLToPath } from 'node:url';
import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';

const API = `http://127.0.0.1:${process.env.MALLE_PORT ?? 4180}`;
/** A field with one bar of signal is treated as one without. */
const PATIENCE_S = 4;

export default defineConfig({
  root: fileURLToPath(new URL('src/web', import.meta.url)),
  plugins: [
    react(),
    tailwindcss(),
    // Keeps the application itself on the device, so that it opens where there is no network. Data is not its business:
    // see src/web/app/offlineCopy.ts.
    VitePWA({
      injectRegister: null,
      registerType: 'autoUpdate',
      manifest: {
        name: 'Malle',
        short_name: 'Malle',
        description: 'The register of the flight batteries.',
        display: 'standalone',
        background_color: '#f5efe3',
        theme_color: '#f5efe3',
        icons: [{ src: '/trunk.svg', sizes: 'any', type: 'image/svg+xml' }],
      },
      workbox: {
        globPatterns: ['assets/*', 'trunk.svg'],
        // A proven bound is a luxury: three megabytes that no phone need carry into the field. The reader of codes is needed there.
        globIgnores: ['**/highs*.wasm'],
        inlineWorkboxRuntime: true,
        // The page carries a nonce of its answer's policy, so the answer is kept whole and never put together here.
        navigateFallback: null,
        runtimeCaching: [
          {
            urlPattern: ({ request, url }) =>
              request.mode === 'navigate' && !url.pathname.startsWith('/api/'),
            handler: 'NetworkFirst',
            options: {
              cacheName: 'page',
              networkTimeoutSeconds: PATIENCE_S,
              plugins: [{ cacheKeyWillBeUsed: () => Promise.resolve('/') }],
            },
          },
        ],
      },
    }),
  ],
  define: { __BUILD__: JSON.stringify(Date.now().toString(36)) },
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
