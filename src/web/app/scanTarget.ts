import { useEffect, useRef } from 'react';

/** What a page does with a scanned tag; true when it took it, else the scan opens the pack as everywhere. */
type ScanTarget = (scanned: string) => boolean;

let target: ScanTarget | null = null;

/** Lets the page that is open take scans first. */
export function useScanTarget(handle: ScanTarget): void {
  const latest = useRef(handle);
  useEffect(() => {
    latest.current = handle;
  });
  useEffect(() => {
    const own: ScanTarget = (scanned) => latest.current(scanned);
    target = own;
    return () => {
      if (target === own) target = null;
    };
  }, []);
}

/** Offers a scan to the page that is open. */
export function offerScan(scanned: string): boolean {
  return target?.(scanned) ?? false;
}
