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
