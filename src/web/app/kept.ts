import type { AppendAnswer, PackDetails, RoundDetails, RoundRow, RoundRowAnswer } from '../../contract';
import type { PackId, RecordId, RoundId } from '../../core/measure';
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

/** A record the server wrote into a pack's ledger. */
interface NamedRecord {
  readonly packId: PackId;
  readonly recordId: RecordId;
}

/** Fetches what an incident that was just kept changed on the packs it names. */
export async function showNamed(named: readonly NamedRecord[]): Promise<void> {
  if (named.length === 0) return;
  await Promise.all([refreshRows(named.map(({ packId }) => packId)), ...named.map(fetchNamed)]);
}

async function fetchNamed({ packId, recordId }: NamedRecord): Promise<void> {
  const queryKey = KEYS.pack(packId);
  await queryClient.refetchQueries({ queryKey });
  // A first fetch that was under way already is waited for, not made anew: it may be from before the incident.
  const told = queryClient.getQueryData<PackDetails>(queryKey);
  if (told && !told.records.some(({ id }) => id === recordId)) await queryClient.refetchQueries({ queryKey });
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
