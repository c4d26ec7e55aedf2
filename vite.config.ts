import { fileURLToPath } from 'node:url';
import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import type { Plugin } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';

const API = `http://127.0.0.1:${process.env.MALLE_PORT ?? 4180}`;
/** A field with one bar of signal is treated as one without. */
const PATIENCE_S = 4;

interface Modules {
  getModuleInfo(id: string): { readonly importedIds: readonly string[] } | null;
}

const ENTRY = fileURLToPath(new URL('src/web/main.tsx', import.meta.url));
let first: ReadonlySet<string> | null = null;

/** Modules that are used whole, or not at all: of what an index gathers, the first screen takes only some. */
const WHOLE =
  /src\/web\/|node_modules\/(react|react-dom|scheduler|react-router|@tanstack\/(query-core|react-query)|zustand|clsx|cmdk)\//;

/** Whether the page imports this module before it shows anything. */
function isFirst(id: string, modules: Modules): boolean {
  first ??= importedBy(ENTRY, modules);
  return first.has(id) && WHOLE.test(id);
}

function importedBy(entry: string, modules: Modules): ReadonlySet<string> {
  const found = new Set<string>();
  const toLookAt = [entry];
  for (let id = toLookAt.pop(); id !== undefined; id = toLookAt.pop()) {
    if (found.has(id)) continue;
    found.add(id);
    toLookAt.push(...(modules.getModuleInfo(id)?.importedIds ?? []));
  }
  return found;
}

const NO_DIALOG = '\0no-dialog';

/** The package of the field for tags brings a dialog, and with it all that holds a page still behind one: a tenth of the first screen. */
const withoutUnusedDialog: Plugin = {
  name: 'without-unused-dialog',
  enforce: 'pre',
  resolveId: (source, importer) =>
    source === '@radix-ui/react-dialog' && importer?.includes('/node_modules/cmdk/') ? NO_DIALOG : null,
  load: (id) =>
    id === NO_DIALOG ? 'export const Root = null, Portal = null, Overlay = null, Content = null;' : null,
};

export default defineConfig({
  root: fileURLToPath(new URL('src/web', import.meta.url)),
  plugins: [
    withoutUnusedDialog,
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
        globPatterns: ['assets/*', 'trunk.svg', 'early.js'],
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
    chunkSizeWarningLimit: 700,
    rolldownOptions: {
      output: {
        // What the first screen needs comes in one file: a browser fetches six at a time, and on a weak line each turn costs a while.
        codeSplitting: {
          groups: [{ name: (id, graph) => (isFirst(id, graph) ? 'first' : null) }],
        },
      },
    },
  },
  server: { proxy: { '/api': { target: API, changeOrigin: false } } },
});
