import isEqual from 'fast-deep-equal';
import { benchFacts, readingStep, restedReadings, timeline } from '../../core/assess';
import type { Assessment, Segment, Verdict } from '../../core/assess';
import { isLithium } from '../../core/chemistry';
import { flyingFacts } from '../../core/flying';
import { measure, outlooksKept, wearShown } from '../../core/health';
import { isInService } from '../../core/lifecycle';
import type { Instant } from '../../core/measure';
import type { PackHistory, PackRecord } from '../../core/record';
import type { HouseRules } from '../../core/rules';
import { contentsMv } from '../../core/storage';
import { timestamp } from '../platform/columns';
import type { Head } from './keptLedgers';

export interface RulesInForce {
  readonly version: number;
  readonly rules: HouseRules;
}

/** What the ledger says of a pack: its row, column by column as PostgreSQL takes them. */
export interface Projection {
  readonly verdict: Verdict;
  readonly columns: readonly string[];
  readonly values: readonly unknown[];
}

/**
 * What the ledger says of a pack: one row, replaced whole. It is judged as of its newest record, so that writing
 * it again from the same records gives the same row whenever that happens; lists compare its due times with the present.
 * @param history what the records add up to
 * @param head where the ledger ends, or was left
 */
export function projectionOf(
  history: PackHistory,
  records: readonly PackRecord[],
  { seq, hash }: Head,
  { version, rules }: RulesInForce,
): Projection {
  const newest = records.reduce((latest, record) => Math.max(latest, record.recordedAt), 0);
  const [first, ...later] = timeline(history, rules, newest);
  const { verdict, capacityMah } = first!.assessment;
  const now = momentRow(history, rules, first!.assessment);
  const { rested } = restedReadings(history, rules);
  const followed = outlooksKept(history, measure(history, rested, rules, newest), rules);
  const wear = { json: wearShown(history, followed) };
  const told = {
    pack_id: history.pack.id,
    seq,
    head_hash: hash,
    rules_version: version,
    ...steadyRow(history, rules, capacityMah, newest),
    ...now,
    ...futureOf(history, rules, later, now),
    wear,
  };
  const values = Object.values(told).map((value) => (isJson(value) ? JSON.stringify(value.json) : value));
  return { verdict, columns: Object.keys(told), values };
}

/** A column that holds JSON, still to be written as such. */
interface Json {
  readonly json: unknown;
}

function isJson(value: unknown): value is Json {
  return typeof value === 'object' && value !== null && 'json' in value;
}

/**
 * What the row becomes by time alone: for each later segment the columns that differ from the row, by name, and from when on.
 * pack_state_at picks the one that holds at a moment.
 */
function futureOf(
  history: PackHistory,
  rules: HouseRules,
  later: readonly Segment[],
  now: Readonly<Record<string, unknown>>,
) {
  const segments: { at: Instant; row: Record<string, unknown> }[] = [];
  let before: Record<string, unknown> = {};
  for (const { from, assessment } of later) {
    const changed: Record<string, unknown> = {};
    for (const [column, value] of Object.entries(momentRow(history, rules, assessment))) {
      // Findings that no time changes are the same objects in every segment: comparing them is quicker than writing them down.
      if (!isEqual(value, now[column])) changed[column] = isJson(value) ? value.json : value;
    }
    if (isEqual(changed, before)) continue;
    before = changed;
    segments.push({ at: from, row: changed });
  }
  return { lapses: { json: segments }, changes_at: timestamp(segments[0]?.at ?? null) };
}

/** What time alone does not change. */
function steadyRow(history: PackHistory, rules: HouseRules, capacityMah: number, newest: Instant) {
  const { life } = history;
  const used = [history.charges.at(-1)?.at, history.flights.at(-1)?.at].filter((at) => at !== undefined);
  return {
    last_record_at: timestamp(history.lastRecordAt ?? newest),
    place_id: history.placeId,
    slot: history.slot,
    holder_id: history.holderId,
    received_at: timestamp(history.receivedAt),
    used_at: used.length > 0 ? timestamp(Math.max(...used)) : null,
    life: life.state,
    life_since: timestamp(life.since),
    consignment_id: life.consignmentId,
    leaves_charged: life.charged,
    flying: { json: flyingFacts(history, capacityMah, rules) },
    // Everything said of it was taken back: it is no pack of the register.
    empty: history.lastRecordAt === null,
  };
}

/** What is said of it at one moment. */
function momentRow(history: PackHistory, rules: HouseRules, assessment: Assessment) {
  const { storage, contents, steps, due, findings, verdict, mayFly, charged } = assessment;
  const { life, watch, outSince, harm } = assessment;
  const running = storage.state === 'high' || storage.state === 'low' ? storage : null;
  // Nobody puts a retired pack to storage.
  const clock = isInService(life) ? running : null;
  const next = steps[0];
  const reading = readingStep(steps);
  return {
    verdict,
    may_fly: mayFly,
    charged,
    findings: { json: findings },
    ...cellsNow(history, assessment),
    basis: contents?.basis ?? null,
    soc_percent: contents?.lowest.percent ?? null,
    storage: storage.state,
    since: 'since' in storage ? timestamp(storage.since) : null,
    due_at: clock ? timestamp(clock.dueAt) : null,
    bled_at: clock ? timestamp(clock.bledAt) : null,
    allowance_hours: clock?.allowanceHours ?? null,
    next_do: next?.do ?? null,
    next_due_at: next ? timestamp(next.dueAt) : null,
    read_do: reading?.do ?? null,
    read_due_at: reading ? timestamp(reading.dueAt) : null,
    tasks: { json: due },
    task_due_at: timestamp(due[0]?.dueAt ?? null),
    season_due_at: timestamp(due.find((task) => task.do === 'inspect-season')?.dueAt ?? null),
    out_since: timestamp(outSince),
    watch_from: timestamp(watch?.from ?? null),
    watch_until: timestamp(watch?.until ?? null),
    watch_incident: watch?.incidentId ?? null,
    apart: life.apart || harm.length > 0,
    needs: { json: assessment.needs },
    bench: { json: benchFacts(history, assessment, rules) },
  };
}

/** The cells as lists draw them: as read while nothing happened since, else as carried, to the hundredth of a volt. */
function cellsNow({ pack }: PackHistory, { latest, contents }: Assessment) {
  const read_at = latest ? timestamp(latest.at) : null;
  if (latest && (contents === null || contents.basis === 'read' || !isLithium(pack.chemistry))) {
    const holds = contents !== null || !isLithium(pack.chemistry);
    return { cells_mv: holds ? { json: latest.cellsMv } : null, by_cell: latest.byCell, read_at };
  }
  const carried = contents && isLithium(pack.chemistry) ? contentsMv(pack.chemistry, contents) : null;
  // One figure for all of them stands for each: lists draw a pack by its cells.
  const each = carried?.length === 1 ? Array.from({ length: pack.series }, () => carried[0]!) : carried;
  const cells = each?.map((mv) => Math.round(mv / 10) * 10) ?? null;
  return { cells_mv: cells ? { json: cells } : null, by_cell: true, read_at };
}
