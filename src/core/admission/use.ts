import { outOfUseAt } from '../assess';
import type { Verdict } from '../assess';
import { MINUTE_MS } from '../measure';
import type { Instant } from '../measure';
import { fold } from '../record';
import type { RecordDraft } from '../record';
import type { AtTheGate } from './admit';
import type { PlaceUse } from './circumstances';

export type UseRefusal =
  /** The pack was on hold, retired or worse when this began. */
  | { readonly code: 'out-of-use'; readonly field: string; readonly verdict: Verdict }
  | { readonly code: 'not-among-sound'; readonly field: string; readonly verdict: Verdict };

type UseDraft = Extract<RecordDraft, { kind: 'charge' | 'flight' | 'moved' }>;

/**
 * Nobody charges, flies or takes out a pack that is out of use, and it lies only where packs set apart lie. A record that
 * arrives late is judged by when the use began, by what is known of that time now: a flight that began before the pack
 * was held is evidence, one that began after is not taken.
 */
export function refusedUse(asked: AtTheGate<UseDraft>): UseRefusal[] {
  const { draft, circumstances } = asked;
  if (circumstances.through === 'import') return [];
  if (draft.kind !== 'moved') {
    const verdict = verdictAt(asked, startOf(draft));
    return verdict ? [{ code: 'out-of-use', field: 'kind', verdict }] : [];
  }
  const { holderId, placeId } = draft.payload;
  const place = placeId === null ? null : circumstances.places.get(placeId);
  const amongSound = place !== null && !(place && takesOutOfUse(place));
  if (holderId === null && !amongSound) return [];
  const verdict = verdictAt(asked, draft.at);
  if (!verdict) return [];
  return [
    ...(holderId === null ? [] : [{ code: 'out-of-use' as const, field: 'payload.holderId', verdict }]),
    ...(amongSound ? [{ code: 'not-among-sound' as const, field: 'payload.placeId', verdict }] : []),
  ];
}

/**
 * Whether a place is one for packs out of use: set apart, or on their way to a recycler.
 * @example takesOutOfUse({ setApart: false, recycling: true }) // => true
 * @example takesOutOfUse({ setApart: false, recycling: false }) // => false
 */
export function takesOutOfUse({ setApart, recycling }: Pick<PlaceUse, 'setApart' | 'recycling'>): boolean {
  return setApart || recycling;
}

function startOf(draft: Exclude<UseDraft, { kind: 'moved' }>): Instant {
  return draft.at - (draft.payload.minutes ?? 0) * MINUTE_MS;
}

function verdictAt({ pack, records, circumstances: { rules } }: AtTheGate, at: Instant): Verdict | null {
  const known = records.filter((record) => record.at <= at);
  return outOfUseAt(fold(pack, known), rules, at);
}
