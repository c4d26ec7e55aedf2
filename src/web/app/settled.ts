import { queryClient } from './queries';

/** A page that asks without end is not to be without its menus. */
const AT_LATEST_MS = 8_000;

/** A moment in a page's beginning: nothing has been asked of the register for so long. */
class Moment {
  #isPast = false;
  readonly #waiting = new Set<() => void>();

  constructor(private readonly quietMs: number) {}

  once(tell: () => void): () => void {
    if (this.#isPast) {
      tell();
      return () => undefined;
    }
    if (this.#waiting.size === 0) this.#watch();
    this.#waiting.add(tell);
    return () => void this.#waiting.delete(tell);
  }

  #watch(): void {
    let quiet: ReturnType<typeof setTimeout> | undefined;
    const past = () => {
      clearTimeout(quiet);
      clearTimeout(latest);
      stop();
      this.#isPast = true;
      for (const tell of this.#waiting) tell();
      this.#waiting.clear();
    };
    const latest = setTimeout(past, AT_LATEST_MS);
    const look = () => {
      clearTimeout(quiet);
      if (queryClient.isFetching() === 0) quiet = setTimeout(past, this.quietMs);
    };
    const stop = queryClient.getQueryCache().subscribe(look);
    look();
  }
}

const answered = new Moment(50);
const settled = new Moment(400);

/** Calls back once the page's first answers are here: the time for what it shows only later. At once where they are. */
export function onceAnswered(tell: () => void): () => void {
  return answered.once(tell);
}

/** Calls back once the page's first answers are here and drawn: the time for what is wanted later. At once where it has settled. */
export function onceSettled(tell: () => void): () => void {
  return settled.once(tell);
}
