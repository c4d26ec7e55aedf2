import { assess, isOutOfUse, readingStep } from '../../core/assess';
import type { Assessment, MayFly, StepKind, Verdict } from '../../core/assess';
import { isInService } from '../../core/lifecycle';
import type { Instant } from '../../core/measure';
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
  const row = {
    ...stateRow(history, assess(history, rules, newest), records.length, headHash, version, newest),
    lapses: JSON.stringify(lapsesAfter(history, rules, newest)),
  };
  const columns = Object.keys(row);
  await em.execute(
    `insert into pack_state (${columns.join(', ')}) values (${columns.map(() => '?').join(', ')})
     on conflict (pack_id) do update set ${columns.map((column) => `${column} = excluded.${column}`).join(', ')}`,
    Object.values(row),
  );
}

/** What will be said of a pack from a later moment on, if no record comes before. */
interface Lapse {
  readonly at: Instant;
  readonly verdict: Verdict;
  readonly mayFly: MayFly;
  readonly findings: Assessment['findings'];
  readonly needs: Assessment['needs'];
  /** Its next step where it is out of use again; else the one it has. */
  readonly nextDo: StepKind | null;
  readonly outSince: Instant | null;
}

/** Every day until which a release keeps the pack on watch, still ahead at its latest record, and what comes of it then. */
function lapsesAfter(history: PackHistory, rules: HouseRules, newest: Instant): readonly Lapse[] {
  const days = history.decisions.flatMap(({ what }) =>
    what.to === 'release' && typeof what.watch === 'object' && what.watch.until > newest
      ? [what.watch.until]
      : [],
  );
  return [...new Set(days)].map((at) => {
    const { verdict, mayFly, findings, needs, steps, outSince } = assess(history, rules, at);
    const nextDo = isOutOfUse(verdict) ? (steps[0]?.do ?? null) : null;
    return { at, verdict, mayFly, findings, needs, nextDo, outSince };
  });
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
  const { life, watch, outSince, harm } = assessment;
  const running = storage.state === 'high' || storage.state === 'low' ? storage : null;
  // Nobody puts a retired pack to storage.
  const clock = isInService(life) ? running : null;
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
    life: life.state,
    life_since: timestamp(life.since),
    out_since: timestamp(outSince),
    watch_from: timestamp(watch?.from ?? null),
    watch_until: timestamp(watch?.until ?? null),
    watch_incident: watch?.incidentId ?? null,
    apart: life.apart || harm.length > 0,
    consignment_id: life.consignmentId,
    needs: JSON.stringify(assessment.needs),
  };
}
