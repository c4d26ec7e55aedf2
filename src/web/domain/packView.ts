import type { PackDetails } from '../../contract';
import { assess } from '../../core/assess';
import type { Assessment } from '../../core/assess';
import type { Instant, PersonId } from '../../core/measure';
import type { PackFacts } from '../../core/pack';
import { fold } from '../../core/record';
import type { PackHistory, PackRecord, RecordDraft } from '../../core/record';
import type { HouseRules } from '../../core/rules';
import type { Outgoing } from '../app/outbox';
import { draftsFor } from './waitingDrafts';

/** A record as it will stand in the ledger, for judging it before it is there. */
export function provisional(
  pack: Pick<PackDetails, 'id'>,
  draft: RecordDraft,
  by: PersonId,
  seq: number,
  now: Instant,
): PackRecord {
  return { ...draft, packId: pack.id, seq, recordedAt: now, by, rulesVersion: 0 };
}

/** The ledger's records with those still waiting on this device after them. */
export function withWaiting(
  pack: Pick<PackDetails, 'id' | 'records'>,
  outgoing: readonly Outgoing[],
  now: Instant,
): readonly PackRecord[] {
  const known = new Set(pack.records.map(({ id }) => id));
  const waiting = outgoing
    .filter((item) => item.state === 'waiting')
    .flatMap((item) => draftsFor(item, pack.id).map((draft) => ({ draft, by: item.by })))
    .filter(({ draft }) => !known.has(draft.id));
  return [
    ...pack.records,
    ...waiting.map(({ draft, by }, i) => provisional(pack, draft, by, pack.records.length + 1 + i, now)),
  ];
}

export interface PackView {
  readonly facts: PackFacts;
  readonly records: readonly PackRecord[];
  readonly history: PackHistory;
  readonly assessment: Assessment;
}

/** What Malle says of a pack at this moment, from these records: the same function the server judges with. */
export function packView(
  facts: PackFacts,
  records: readonly PackRecord[],
  rules: HouseRules,
  now: Instant,
): PackView {
  const history = fold(facts, records);
  return { facts, records, history, assessment: assess(history, rules, now) };
}
