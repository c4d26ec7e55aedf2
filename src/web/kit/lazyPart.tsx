import { lazy, useState } from 'react';
import type { ComponentType, ReactNode } from 'react';

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

/** A component that is fetched when it is first shown, or before that. */
export interface LazyPart<Props extends object> {
  (props: Props): ReactNode;
  /** Fetches it ahead, so that it is shown at once. */
  ahead(): Promise<void>;
  /** Fetches it because somebody asked for it; where it was lost before, the page is opened anew. Rejects without a connection. */
  orAnew(): Promise<void>;
}

/**
 * A part of the application that is fetched when it is first shown. A browser remembers a module that failed and never asks for it again in
 * the same page, so one lost while the connection was gone would stay lost: with a connection the page is opened anew, at the same address.
 * What was typed and what waits to be sent survive that. Where it would not help, showing the part throws `NotFetched`.
 *
 * One that is here already is shown without suspending: React holds back for 300 ms what comes after a fallback.
 */
export function lazyPart<Props extends object>(
  load: () => Promise<{ default: ComponentType<Props> }>,
): LazyPart<Props> {
  let here: ComponentType<Props> | null = null;
  const fetched = async () => {
    const module = await load();
    here = module.default;
    return module;
  };
  const Fetched = lazy(() => fetched().catch(openAnew)) as unknown as ComponentType<Props>;
  function Part(props: Props) {
    // The same one for as long as it is shown, or what is typed in it would be lost.
    const [Shown] = useState(() => here ?? Fetched);
    return <Shown {...props} />;
  }
  return Object.assign(Part, {
    ahead: async () => void (await fetched()),
    orAnew: async () => void (await fetched().catch(openAnew)),
  });
}

async function openAnew(cause: unknown): Promise<never> {
  const last = Number(sessionStorage.getItem(OPENED_ANEW) ?? 0);
  if (Date.now() - last < SOON_MS || !(await isServerThere())) throw new NotFetched(cause);
  sessionStorage.setItem(OPENED_ANEW, String(Date.now()));
  window.location.reload();
  // The page that waits for this goes away.
  return new Promise<never>(() => undefined);
}

/** A browser with a network may still have no server: opened anew then, there would be no page at all. */
async function isServerThere(): Promise<boolean> {
  if (!navigator.onLine) return false;
  return fetch('/api/health').then(
    ({ ok }) => ok,
    () => false,
  );
}
