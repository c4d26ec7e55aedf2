import type { Verdict } from '../assess';
import { isOutOfUse } from '../assess';
import { isLithium } from '../chemistry';
import type { Chemistry } from '../chemistry';
import type { PackId } from '../measure';
import type { HouseRules } from '../rules';
import type { StorageState } from '../storage';

/** What matters of a place for what lies in it. */
export interface PlaceFacts {
  readonly kind: string;
  readonly fireResistant: boolean;
  /** A closed metal box that lets no gas out bursts when a pack in it burns. */
  readonly metal: 'no' | 'vented' | 'unvented';
  /** How many packs it may hold; null where nobody set a limit. */
  readonly capacity: number | null;
  readonly celsius: number | null;
}

/** What matters of a pack for where it lies. */
export interface StowedPack {
  readonly id: PackId;
  readonly chemistry: Chemistry;
  readonly verdict: Verdict;
  readonly storage: StorageState['state'];
}

export type StowageWarning =
  | { readonly code: 'held-among-sound'; readonly packIds: readonly PackId[] }
  | { readonly code: 'too-many'; readonly count: number; readonly capacity: number }
  | {
      readonly code: 'charged-in-the-warm';
      readonly packIds: readonly PackId[];
      readonly celsius: number;
      readonly limitC: number;
    }
  | { readonly code: 'not-fire-resistant'; readonly packIds: readonly PackId[] }
  | { readonly code: 'unvented-metal'; readonly packIds: readonly PackId[] }
  | { readonly code: 'mixed-chemistries'; readonly chemistries: readonly Chemistry[] };

/**
 * What is wrong with the way packs lie in one place, the gravest first: a pack out of use among sound ones, more than the
 * place may hold, a charged pack in the warm, lithium in a metal box that lets no gas out, lithium where nothing resists fire, and chemistries the rules keep apart.
 */
export function stowageWarnings(
  place: PlaceFacts,
  packs: readonly StowedPack[],
  { stowage }: Pick<HouseRules, 'stowage'>,
): readonly StowageWarning[] {
  const held = packs.filter(({ verdict }) => isOutOfUse(verdict));
  const charged = packs.filter(({ storage }) => storage === 'high' || storage === 'self-storing');
  const lithium = packs.filter(({ chemistry }) => isLithium(chemistry));
  const chemistries = [...new Set(packs.map(({ chemistry }) => chemistry))].sort();
  const warnings: StowageWarning[] = [];
  if (held.length > 0 && held.length < packs.length)
    warnings.push({ code: 'held-among-sound', packIds: held.map(({ id }) => id) });
  if (place.capacity !== null && packs.length > place.capacity)
    warnings.push({ code: 'too-many', count: packs.length, capacity: place.capacity });
  if (place.celsius !== null && place.celsius >= stowage.warmC && charged.length > 0) {
    const packIds = charged.map(({ id }) => id);
    warnings.push({ code: 'charged-in-the-warm', packIds, celsius: place.celsius, limitC: stowage.warmC });
  }
  if (place.metal === 'unvented' && lithium.length > 0)
    warnings.push({ code: 'unvented-metal', packIds: lithium.map(({ id }) => id) });
  if (!place.fireResistant && lithium.length > 0)
    warnings.push({ code: 'not-fire-resistant', packIds: lithium.map(({ id }) => id) });
  if (stowage.mixing === 'kept apart' && chemistries.length > 1)
    warnings.push({ code: 'mixed-chemistries', chemistries });
  return warnings;
}

/** What would newly be wrong with a place if this pack were laid there as well. */
export function warningsAdded(
  place: PlaceFacts,
  packsThere: readonly StowedPack[],
  pack: StowedPack,
  rules: Pick<HouseRules, 'stowage'>,
): readonly StowageWarning[] {
  const others = packsThere.filter(({ id }) => id !== pack.id);
  const before = new Set(stowageWarnings(place, others, rules).map(({ code }) => code));
  return stowageWarnings(place, [...others, pack], rules).filter(({ code }) => !before.has(code));
}
