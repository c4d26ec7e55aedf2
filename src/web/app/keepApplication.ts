/** Where the service worker of vite.config.ts keeps the page, and under what address it looks for it. */
const PAGE_CACHE = 'page';
const PAGE = '/';

/**
 * Keeps the application itself on this device from the first visit on, so that its cards open where there is no network.
 * Browsers do so over TLS and on loopback only; elsewhere a page that is open goes on, but none can be opened.
 */
export function keepApplication(): void {
  if (!('serviceWorker' in navigator)) return;
  const kept = navigator.serviceWorker
    .register('/sw.js')
    .then(() => navigator.serviceWorker.ready)
    // The first visit was on its way before there was a worker to keep it.
    .then(() => caches.open(PAGE_CACHE))
    .then((pages) => pages.add(PAGE));
  kept.catch(() => undefined);
}
