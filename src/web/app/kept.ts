import type { AppendAnswer, PackDetails, RoundDetails, RoundRow, RoundRowAnswer } from '../../contract';
import type { PackId, RoundId } from '../../core/measure';
import { joined, addToHistories } from '../domain/histories';
import { KEYS, putData, queryClient, refreshRows } from './queries';

/** What the register answers to records: what it kept, and the row of a round they ended. */
export type Kept = AppendAnswer | RoundRowAnswer;

/** Puts what was just kept on whatever pages show it, without asking for all of it again. */
export function showKept(packId: PackId, roundId: RoundId | null, answer: Kept): void {
  putData<PackDetails>(KEYS.pack(packId), (pack) => ({
    ...pack,
    records: joined(pack.records, answer.records),
  }));
  addToHistories(packId, answer.records);
  if (roundId && 'row' in answer)
    putData<RoundDetails>(KEYS.round(roundId), (round) => withRow(round, answer.row));
}

/** Fetches what an incident that was just kept changed on the packs it names. */
export async function showNamed(ids: readonly PackId[]): Promise<void> {
  if (ids.length === 0) return;
  await Promise.all([
    refreshRows(ids),
    ...ids.map((id) => queryClient.refetchQueries({ queryKey: KEYS.pack(id) })),
  ]);
}

function withRow(round: RoundDetails, row: RoundRow): RoundDetails {
  const known = round.rows.some(({ packId }) => packId === row.packId);
  const rows = known
    ? round.rows.map((other) => (other.packId === row.packId ? row : other))
    : [...round.rows, row];
  return {
    ...round,
    rows,
    packs: rows.length,
    worked: rows.filter(({ outcome }) => outcome !== null).length,
  };
}
