import { lazy } from 'react';
import type { ComponentType, LazyExoticComponent } from 'react';

/** A part of the application that could not be fetched: there is no connection, or the server has a newer one. */
export class NotFetched extends Error {
  constructor(cause: unknown) {
    super('This part of the application could not be fetched.', { cause });
  }
}

/** Where a tab keeps when it was last opened anew for a part that failed. */
const OPENED_ANEW = 'malle.opened-anew';
/** A part that fails again so soon after is not to be had by opening the page anew. */
const SOON_MS = 30_000;

/**
 * A part of the application that is fetched when it is first shown. A browser remembers a module that failed and never asks for it again in
 * the same page, so one lost while the connection was gone would stay lost: with a connection the page is opened anew, at the same address.
 * What was typed and what waits to be sent survive that.
 * @throws NotFetched where it would not help
 */
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- the type of lazy itself, from which the props are inferred
export function lazyPart<T extends ComponentType<any>>(
  load: () => Promise<{ default: T }>,
): LazyExoticComponent<T> {
  return lazy(() => load().catch(openAnew));
}

function openAnew(cause: unknown): Promise<never> {
  const last = Number(sessionStorage.getItem(OPENED_ANEW) ?? 0);
  if (!navigator.onLine || Date.now() - last < SOON_MS) throw new NotFetched(cause);
  sessionStorage.setItem(OPENED_ANEW, String(Date.now()));
  window.location.reload();
  // The page that waits for this goes away.
  return new Promise<never>(() => undefined);
}
