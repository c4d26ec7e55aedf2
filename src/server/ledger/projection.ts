import { assess, readingStep } from '../../core/assess';
import type { Assessment } from '../../core/assess';
import type { PackFacts } from '../../core/pack';
import { fold } from '../../core/record';
import type { PackHistory, PackRecord } from '../../core/record';
import type { HouseRules } from '../../core/rules';
import { timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';

export interface RulesInForce {
  readonly version: number;
  readonly rules: HouseRules;
}

/**
 * Writes what the ledger says of a pack: one row, replaced whole. It is judged as of its newest record, so that writing
 * it again from the same records gives the same row whenever that happens; lists compare its due times with the present.
 */
export async function project(
  em: Entities,
  pack: PackFacts,
  records: readonly PackRecord[],
  headHash: string,
  { version, rules }: RulesInForce,
): Promise<void> {
  const newest = records.reduce((latest, record) => Math.max(latest, record.recordedAt), 0);
  const history = fold(pack, records);
  const row = stateRow(history, assess(history, rules, newest), records.length, headHash, version, newest);
  const columns = Object.keys(row);
  await em.execute(
    `insert into pack_state (${columns.join(', ')}) values (${columns.map(() => '?').join(', ')})
     on conflict (pack_id) do update set ${columns.map((column) => `${column} = excluded.${column}`).join(', ')}`,
    Object.values(row),
  );
}

function stateRow(
  history: PackHistory,
  assessment: Assessment,
  seq: number,
  headHash: string,
  rulesVersion: number,
  newest: number,
) {
  const { storage, latest, charge, steps, due, findings, verdict, mayFly } = assessment;
  const clock = storage.state === 'high' || storage.state === 'low' ? storage : null;
  const next = steps[0];
  const reading = readingStep(steps);
  const used = [history.charges.at(-1)?.at, history.flights.at(-1)?.at].filter((at) => at !== undefined);
  return {
    pack_id: history.pack.id,
    seq,
    head_hash: headHash,
    rules_version: rulesVersion,
    last_record_at: timestamp(history.lastRecordAt ?? newest),
    verdict,
    may_fly: mayFly,
    findings: JSON.stringify(findings),
    cells_mv: latest ? JSON.stringify(latest.cellsMv) : null,
    by_cell: latest?.byCell ?? true,
    read_at: latest ? timestamp(latest.at) : null,
    soc_percent: charge?.lowest.percent ?? null,
    storage: storage.state,
    since: 'since' in storage ? timestamp(storage.since) : null,
    due_at: clock ? timestamp(clock.dueAt) : null,
    bled_at: clock ? timestamp(clock.bledAt) : null,
    allowance_hours: clock?.allowanceHours ?? null,
    next_do: next?.do ?? null,
    next_due_at: next ? timestamp(next.dueAt) : null,
    read_do: reading?.do ?? null,
    read_due_at: reading ? timestamp(reading.dueAt) : null,
    place_id: history.placeId,
    slot: history.slot,
    holder_id: history.holderId,
    received_at: timestamp(history.receivedAt),
    used_at: used.length > 0 ? timestamp(Math.max(...used)) : null,
    tasks: JSON.stringify(due),
    task_due_at: timestamp(due[0]?.dueAt ?? null),
    season_due_at: timestamp(due.find((task) => task.do === 'inspect-season')?.dueAt ?? null),
  };
}
