import { HOUR_MS } from '../measure';
import type { Instant } from '../measure';
import type { StorageState } from './clock';

/** What the next flying day makes of a pack's storage. */
export type NextUseAdvice =
  | { readonly advice: 'leave-charged'; readonly until: Instant }
  | { readonly advice: 'put-to-storage'; readonly by: Instant }
  | { readonly advice: 'charge-before'; readonly from: Instant }
  | { readonly advice: 'leave-stored' }
  | { readonly advice: 'measure-first' }
  | { readonly advice: 'no-rule' };

/** A pack is charged the evening before: the time a slow charger and a check of the cells need. A house custom, not a limit. */
const CHARGE_AHEAD_MS = 14 * HOUR_MS;

/**
 * Next use decides: a charged pack that flies before its allowance runs out is left charged; otherwise it goes to
 * storage, and is charged again shortly before it flies.
 * @param fliesAt when the pack is wanted; null when nobody wants it
 * @example nextUse({ state: 'high', dueAt: 10 }, 9) // => { advice: 'leave-charged', until: 9 }
 * @example nextUse({ state: 'high', dueAt: 10 }, 11) // => { advice: 'put-to-storage', by: 10 }
 */
export function nextUse(storage: StorageState, fliesAt: Instant | null): NextUseAdvice {
  switch (storage.state) {
    case 'no-rule':
      return { advice: 'no-rule' };
    case 'unmeasured':
      return { advice: 'measure-first' };
    case 'high':
      return fliesAt !== null && fliesAt <= storage.dueAt
        ? { advice: 'leave-charged', until: fliesAt }
        : { advice: 'put-to-storage', by: storage.dueAt };
    case 'low':
      return { advice: 'put-to-storage', by: storage.dueAt };
    case 'in-band':
    case 'pending':
    case 'self-storing':
      return fliesAt === null
        ? { advice: 'leave-stored' }
        : { advice: 'charge-before', from: fliesAt - CHARGE_AHEAD_MS };
    default:
      return storage satisfies never;
  }
}
