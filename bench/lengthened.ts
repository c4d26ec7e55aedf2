import { v7 as newId } from 'uuid';
import type { PackRecord } from '../src/core/record';
import { DAY_MS } from '../src/core/measure';
import type { RecordId } from '../src/core/measure';

/** Kinds that happen to a pack once, or end its life: a season repeated must not repeat them. */
const ONCE: ReadonlySet<PackRecord['kind']> = new Set([
  'received',
  'disposal',
  'recovery',
  'decision',
  'confirmation',
  'incident',
]);

/** A ledger with so many records: what a pack's own says, told again for the time before it, season by season. */
export function lengthened(records: readonly PackRecord[], count: number): readonly PackRecord[] {
  const season = records.filter(({ kind }) => !ONCE.has(kind));
  const first = Math.min(...season.map(({ at }) => at));
  const spanMs = Math.max(...season.map(({ recordedAt }) => recordedAt)) - first + DAY_MS;
  const seasons = Math.ceil(count / season.length);
  const told: PackRecord[] = [];
  for (let ago = seasons - 1; ago >= 0; ago -= 1) {
    const ids = new Map<string, string>(season.map(({ id }) => [id, newId()]));
    const again = JSON.parse(
      JSON.stringify(season).replace(/[0-9a-f]{8}-[0-9a-f-]{27}/g, (id) => ids.get(id) ?? id),
    ) as PackRecord[];
    told.push(
      ...again.map((one) => ({
        ...one,
        at: one.at - ago * spanMs,
        recordedAt: one.recordedAt - ago * spanMs,
      })),
    );
  }
  const newest = told.slice(1 - count);
  const kept = new Set(newest.map(({ id }) => id));
  const received = records.find(({ kind }) => kind === 'received');
  const whole = newest.filter(({ supersedes }) => supersedes === null || kept.has(supersedes));
  const at = whole[0]!.at - DAY_MS;
  return [...(received ? [{ ...received, id: newId() as RecordId, at, recordedAt: at }] : []), ...whole].map(
    (one, i) => ({
      ...one,
      seq: i + 1,
    }),
  );
}
