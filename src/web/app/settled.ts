import { queryClient } from './queries';

/** After nothing was asked of the register for so long, the page stands. */
const QUIET_MS = 400;
/** A page that asks without end is not to be without its menus. */
const AT_LATEST_MS = 8_000;

let settled = false;
const waiting = new Set<() => void>();

/** Calls back once the page's first answers are here and drawn: the time for what is wanted later. At once where it has settled. */
export function onceSettled(tell: () => void): () => void {
  if (settled) {
    tell();
    return () => undefined;
  }
  if (waiting.size === 0) watch();
  waiting.add(tell);
  return () => void waiting.delete(tell);
}

function watch(): void {
  let quiet: ReturnType<typeof setTimeout> | undefined;
  const latest = setTimeout(settle, AT_LATEST_MS);
  const look = () => {
    clearTimeout(quiet);
    if (queryClient.isFetching() === 0) quiet = setTimeout(settle, QUIET_MS);
  };
  const stop = queryClient.getQueryCache().subscribe(look);
  look();
  function settle() {
    clearTimeout(quiet);
    clearTimeout(latest);
    stop();
    settled = true;
    for (const tell of waiting) tell();
    waiting.clear();
  }
}
