import { outOfUseAt } from '../assess';
import type { Verdict } from '../assess';
import { MINUTE_MS } from '../measure';
import type { Instant } from '../measure';
import { fold } from '../record';
import type { Correctable, RecordDraft } from '../record';
import type { AtTheGate } from './admit';
import type { PlaceUse } from './circumstances';

export type UseRefusal =
  /** The pack was on hold, retired or worse when this began. */
  | { readonly code: 'out-of-use'; readonly field: string; readonly verdict: Verdict }
  | { readonly code: 'not-among-sound'; readonly field: string; readonly verdict: Verdict };

type UseKind = 'charge' | 'flight' | 'moved' | 'taken-out' | 'returned';
type UseDraft = Extract<RecordDraft, { kind: UseKind }>;

const USES: ReadonlySet<string> = new Set<UseKind>(['charge', 'flight', 'moved', 'taken-out', 'returned']);

/** Whether it charges, flies, takes along or lays down a pack. */
export function isUse(said: Correctable): said is Extract<Correctable, { kind: UseKind }> {
  return USES.has(said.kind);
}

/**
 * Nobody charges, flies or takes out a pack that is out of use, and it lies only where packs set apart lie. A record that
 * arrives late is judged by when the use began, by what is known of that time now: a flight that began before the pack
 * was held is evidence, one that began after is not taken.
 */
export function refusedUse(asked: AtTheGate<UseDraft>): UseRefusal[] {
  const { draft, circumstances } = asked;
  if (circumstances.through === 'import') return [];
  if (draft.kind === 'charge' || draft.kind === 'flight' || draft.kind === 'taken-out') {
    const began = draft.kind === 'taken-out' ? draft.at : startOf(draft);
    const verdict = verdictAt(asked, began);
    return verdict ? [{ code: 'out-of-use', field: 'kind', verdict }] : [];
  }
  const { placeId } = draft.payload;
  const holderId = draft.kind === 'moved' ? draft.payload.holderId : null;
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

function startOf(draft: Extract<UseDraft, { kind: 'charge' | 'flight' }>): Instant {
  return draft.at - (draft.payload.minutes ?? 0) * MINUTE_MS;
}

function verdictAt({ pack, records, circumstances: { rules } }: AtTheGate, at: Instant): Verdict | null {
  const known = records.filter((record) => record.at <= at);
  return outOfUseAt(fold(pack, known), rules, at);
}
