/** Keys of one scan come faster than any hand types. */
export const FASTEST_HAND_MS = 50;
const SHORTEST_SCAN = 3;

/**
 * Tells a keyboard-wedge scanner from a person: a run of characters each within 50 ms of the last, ended by Enter.
 * Feed it every key; it answers the scanned text at the Enter that ends one.
 */
export class WedgeListener {
  private run = '';
  private lastAt = -Infinity;

  /** @returns the scanned text when this key ends a scan, else null */
  key(key: string, at: number): string | null {
    const quick = at - this.lastAt <= FASTEST_HAND_MS;
    this.lastAt = at;
    if (key === 'Enter') {
      const scanned = quick && this.run.length >= SHORTEST_SCAN ? this.run : null;
      this.run = '';
      return scanned;
    }
    if (key.length !== 1) {
      // A scanner presses Shift for capitals; any other key ends the run.
      if (key !== 'Shift') this.run = '';
      return null;
    }
    this.run = quick ? this.run + key : key;
    return null;
  }

  /** Whether the last key may be the first of a scan: what a field held before it must be remembered. */
  get starting(): boolean {
    return this.run.length === 1;
  }
}

/**
 * A field's text without the end of a scan that landed in it.
 * @example withoutScan('38410', 'FW-10') // => "384"
 * @example withoutScan('384', 'FW-10') // => "384"
 */
export function withoutScan(value: string, scanned: string): string {
  for (let length = Math.min(value.length, scanned.length); length > 0; length--)
    if (value.endsWith(scanned.slice(-length))) return value.slice(0, -length);
  return value;
}
