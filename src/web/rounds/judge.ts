import type { PackId, PersonId, RecordId } from '../../core/measure';
import type { Instant } from '../../core/measure';
import type { HouseRules } from '../../core/rules';
import type { KnownPack } from '../domain/histories';
import type { Outgoing } from '../app/outbox';
import type { RowBody } from './rowDraft';
import { packView, provisional, withWaiting } from '../domain/packView';
import type { PackView } from '../domain/packView';

/** What is said of a pack now, with what still waits on this device, and with what is being typed. */
export function judgeRow(
  packId: PackId,
  known: KnownPack,
  waiting: readonly Outgoing[],
  typed: readonly RowBody[],
  by: PersonId,
  rules: HouseRules,
  now: Instant,
): PackView {
  const kept = withWaiting({ id: packId, records: known.records }, waiting, now);
  const records = [
    ...kept,
    ...typed.map(({ endedMsAgo = 0, ...body }, i) => {
      const draft = {
        ...body,
        id: `ffffffff-ffff-7fff-bfff-${String(i).padStart(12, '0')}` as RecordId,
        at: now - endedMsAgo,
      };
      return provisional({ id: packId }, draft, by, kept.length + 1 + i, now);
    }),
  ];
  return packView(known.facts, records, rules, now);
}
