import { WedgeListener } from './wedge';

/** The one keyboard of this page: a scan may begin before the pages listen and end when they do. */
export const wedge = new WedgeListener();

let stop: (() => string[]) | null = null;

/** Listens for scans from the first moment, since hands do not wait until the register has answered. */
export function hearEarlyScans(): void {
  const heard: string[] = [];
  const onKeyDown = (event: KeyboardEvent) => {
    const scanned = wedge.key(event.key, event.timeStamp);
    if (scanned !== null) heard.push(scanned);
  };
  window.addEventListener('keydown', onKeyDown);
  stop = () => {
    window.removeEventListener('keydown', onKeyDown);
    stop = null;
    return heard;
  };
}

/** What was scanned before any page listened; from here on the pages listen themselves, or nobody may. */
export function takeEarlyScans(): readonly string[] {
  return stop?.() ?? [];
}
