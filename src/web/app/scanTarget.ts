import { useEffect, useEffectEvent } from 'react';

interface ScanTarget {
  /** What a page does with a scanned tag; true when it took it, else the scan opens the pack as everywhere. */
  readonly onScan: (scanned: string) => boolean;
  /** Told of every key that may be the first of a scan, before the key does anything. */
  readonly onMayBegin?: () => void;
}

let target: ScanTarget | null = null;

/** Lets the page that is open take scans first. */
export function useScanTarget(onScan: ScanTarget['onScan'], onMayBegin?: () => void): void {
  const taken = useEffectEvent(onScan);
  const begun = useEffectEvent(() => onMayBegin?.());
  useEffect(() => {
    const own: ScanTarget = { onScan: (scanned) => taken(scanned), onMayBegin: () => begun() };
    target = own;
    return () => {
      if (target === own) target = null;
    };
  }, []);
}

/** Offers a scan to the page that is open. */
export function offerScan(scanned: string): boolean {
  return target?.onScan(scanned) ?? false;
}

/** Tells the page that is open that the next key may be the first of a scan. */
export function scanMayBegin(): void {
  target?.onMayBegin?.();
}

const LOOK_AGAIN_MS = 50;
/** A page that takes longer is not coming; what was scanned then goes where it always does. */
const LONGEST_MS = 10_000;

/** Whether another page is on its way: said to be so, or still that of the address before, since a page being fetched leaves the old one up. */
function isPageComing(): boolean {
  const main = document.querySelector<HTMLElement>('main');
  if (!main) return false;
  const shown = main.dataset.at;
  const isOld = shown !== undefined && decodeURI(shown) !== decodeURI(window.location.pathname);
  return isOld || main.querySelector(':scope > [data-loading]:only-child') !== null;
}

interface ScanInbox {
  /** Scans from now on, in their order, and those kept from before. */
  open(take: (tag: string) => void): () => void;
  put(tag: string): void;
}

/**
 * Where scans wait while a page is being fetched: it may be one that takes them, a round say, and hands do not wait. A page that takes
 * scans already gets them at once, whatever part of it is still coming.
 */
export function scanInbox(isFetching = isPageComing): ScanInbox {
  const waiting: { readonly tag: string; readonly until: number }[] = [];
  let take: ((tag: string) => void) | null = null;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const handOn = () => {
    clearTimeout(timer);
    timer = undefined;
    while (take && waiting[0]) {
      if (target === null && isFetching() && Date.now() < waiting[0].until) {
        timer = setTimeout(handOn, LOOK_AGAIN_MS);
        return;
      }
      take(waiting.shift()!.tag);
    }
  };
  return {
    open: (taker) => {
      take = taker;
      handOn();
      return () => {
        take = null;
        clearTimeout(timer);
      };
    },
    put: (tag) => {
      waiting.push({ tag, until: Date.now() + LONGEST_MS });
      handOn();
    },
  };
}
