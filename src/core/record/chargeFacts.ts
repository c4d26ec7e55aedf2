import type { ChargePayload } from './record';

/**
 * How fast a charge was, as a multiple of capacity: by the current set, else by what went in over its minutes, which is
 * less than its fastest. Null where neither was noted.
 * @example chargeRateC({ settings: { currentA: 6.6 }, movedMah: null, minutes: null }, 3300) // => 2
 * @example chargeRateC({ settings: { currentA: null }, movedMah: 1650, minutes: 30 }, 3300) // => 1
 */
export function chargeRateC(
  {
    settings,
    movedMah,
    minutes,
  }: Pick<ChargePayload, 'movedMah' | 'minutes'> & {
    readonly settings: Pick<ChargePayload['settings'], 'currentA'>;
  },
  capacityMah: number,
): number | null {
  if (settings.currentA !== null) return (settings.currentA * 1000) / capacityMah;
  return movedMah === null || !minutes ? null : (movedMah * 60) / minutes / capacityMah;
}

/**
 * Whether a job was asked to fill the pack: to storage and out of it are jobs of their own.
 * @example putsIn({ mode: 'fast' }) // => true
 * @example putsIn({ mode: 'storage' }) // => false
 */
export function putsIn({ mode }: Pick<ChargePayload, 'mode'>): boolean {
  return mode === 'balance' || mode === 'fast';
}
