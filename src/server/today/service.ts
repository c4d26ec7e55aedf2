import { TODAY_LIMIT } from '../../contract';
import type { DueGroup, TodayAnswer, TodayItem } from '../../contract';
import { DAY_MS, HOUR_MS } from '../../core/measure';
import type { Instant } from '../../core/measure';
import { timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import { onCharge } from '../charging';
import { daysToCome } from '../flying';
import { openTasks, watches } from '../incidents';
import { rounds } from '../rounds';
import { PACK_ROW_COLUMNS, PACK_ROW_TABLES, stepColumn } from '../packs';

/** How far ahead Today looks. */
const HORIZON_HOURS = 72;

/** Routine is shown this far ahead, so that an evening's round can take along what is due soon. */
const DUE_DAYS = 7;
/** So many packs a task are named; the rest is a count and a round. */
const NAMED_PACKS = 12;

const HELD = `s.verdict in ('hold', 'retire-advised')`;
/** Retired: no longer among the packs that are flown and stored. */
const LEFT = `s.verdict in ('retired', 'recycled')`;
const OUT_OF_BAND = `s.storage in ('high', 'low') and not (${HELD}) and not (${LEFT})`;
const TO_MEASURE = `s.read_do in ('measure', 'measure-rested') and s.read_due_at <= ? and s.storage not in ('high', 'low') and not (${HELD}) and not (${LEFT})`;
/** Due back by now, or said to be in two hands. */
const WANTED_BACK = `s.holder_id is not null and not (${LEFT}) and (
  (s.flying #>> '{out,wantedBackAt}')::float8 <= ? or s.findings @> '[{"rule": "two-hands"}]')`;
const LEAVING = `s.life not in ('in-service', 'retiring', 'recycled') and s.next_do is not null and s.next_due_at <= ?`;

/** What needs hands now: packs out of their band, packs that wait for a decision, packs to be measured. */
export async function today(em: Entities, now: Instant): Promise<Omit<TodayAnswer, 'now' | 'frozen'>> {
  const horizon = timestamp(now + HORIZON_HOURS * HOUR_MS);
  const [counts] = await em.execute<[TodayAnswer['counts'] & { outOfBand: number; toMeasure: number }]>(
    `select count(*)::int as packs,
            count(*) filter (where s.storage in ('in-band', 'pending'))::int as "inBand",
            count(*) filter (where (s.due_at > ? or s.storage = 'self-storing') and not (${HELD}))::int as "withinAllowance",
            count(*) filter (where s.due_at <= ? and not (${HELD}))::int as overdue,
            count(*) filter (where s.storage = 'unmeasured')::int as unmeasured,
            count(*) filter (where ${HELD})::int as "outOfUse",
            count(*) filter (where s.verdict = 'watch')::int as watch,
            count(*) filter (where s.storage = 'no-rule')::int as "noRule",
            count(*) filter (where ${OUT_OF_BAND})::int as "outOfBand",
            count(*) filter (where ${TO_MEASURE})::int as "toMeasure"
       from pack_state_at(?) s where not (${LEFT})`,
    [timestamp(now), timestamp(now), horizon, timestamp(now)],
  );
  const { outOfBand, toMeasure, ...rest } = counts;
  return {
    counts: rest,
    outOfBand: await items(em, now, OUT_OF_BAND, `(s.next_do = 'store-up-now') desc, s.due_at`, 'next'),
    outOfBandTotal: outOfBand,
    held: await items(em, now, HELD, `s.out_since`, 'next'),
    heldTotal: rest.outOfUse,
    toMeasure: await items(em, now, TO_MEASURE, 's.read_due_at', 'read', [horizon]),
    toMeasureTotal: toMeasure,
    due: await dueGroups(em, now),
    onCharge: await onCharge(em),
    flying: await daysToCome(em, now),
    out: await wantedBack(em, now),
    outTotal: await wantedBackTotal(em, now),
    openRounds: await rounds(em, 'open'),
    watches: await watches(em, now),
    unexplained: await unexplained(em, now),
    tasks: await openTasks(em),
    leaving: await items(em, now, LEAVING, 's.next_due_at', 'next', [horizon]),
    leavingTotal: await leavingTotal(em, now, horizon),
    ownStorageOff: await ownStorageOff(em, now),
  };
}

function wantedBack(em: Entities, now: Instant): Promise<TodayItem[]> {
  return items(em, now, WANTED_BACK, `(s.flying #>> '{out,wantedBackAt}')::float8`, 'next', [now]);
}

async function wantedBackTotal(em: Entities, now: Instant): Promise<number> {
  const [counted]: { total: number }[] = await em.execute(
    `select count(*)::int as total from pack_state_at(?) s where ${WANTED_BACK}`,
    [timestamp(now), now],
  );
  return counted!.total;
}

async function leavingTotal(em: Entities, now: Instant, horizon: string): Promise<number> {
  const [counted]: { total: number }[] = await em.execute(
    `select count(*)::int as total from pack_state_at(?) s where ${LEAVING}`,
    [timestamp(now), horizon],
  );
  return counted!.total;
}

/** Smart packs that would not come down by themselves. */
function ownStorageOff(em: Entities, now: Instant): Promise<TodayAnswer['ownStorageOff']> {
  return em.execute(
    `select p.id, p.tag from pack_state_at(?) s join pack p on p.id = s.pack_id
      where p.smart is not null and s.findings @> '[{"rule": "smart-settings", "wrong": [{"is": "off"}]}]' and not (${LEFT})
      order by p.tag_key limit ${MOST_WAITING}`,
    [timestamp(now)],
  );
}

/** Packs that wait for a decision, the oldest first. */
export function waiting(em: Entities, now: Instant): Promise<TodayItem[]> {
  return items(em, now, HELD, 's.out_since', 'next', [], MOST_WAITING);
}

/** A queue longer than this is a batch. */
const MOST_WAITING = 500;

function items(
  em: Entities,
  now: Instant,
  where: string,
  order: string,
  step: 'next' | 'read',
  params: readonly (string | number)[] = [],
  limit = TODAY_LIMIT,
): Promise<TodayItem[]> {
  return em.execute(
    `select ${PACK_ROW_COLUMNS}, ${stepColumn(step)}, s.findings -> 0 as finding, s.needs from ${PACK_ROW_TABLES}
      where ${where} order by ${order}, p.tag_key limit ${limit}`,
    [timestamp(now), ...params],
  );
}

/** What the cells tell and nobody wrote down, with whoever had the pack last; they are asked on their own page. */
async function unexplained(em: Entities, now: Instant): Promise<TodayAnswer['unexplained']> {
  return em.execute(
    `select p.id as "packId", p.tag, f ->> 'direction' as direction, (f ->> 'fromAt')::float8 as "fromAt",
            (f ->> 'toAt')::float8 as "toAt", (f ->> 'fromMv')::int as "fromMv", (f ->> 'toMv')::int as "toMv",
            (select r.payload ->> 'holderId' from record r
              where r.pack_id = p.id and r.kind = 'moved' and r.payload ->> 'holderId' is not null
                and r.at <= to_timestamp((f ->> 'toAt')::float8 / 1000)
              order by r.at desc, r.seq desc limit 1) as "holderId"
       from pack_state_at(?) s join pack p on p.id = s.pack_id
      cross join lateral jsonb_array_elements(s.findings) f
      where s.findings @> '[{"rule": "unlogged"}]' and f ->> 'rule' = 'unlogged' and not (${LEFT})
      order by (f ->> 'toAt')::float8 desc, p.tag_key limit ${TODAY_LIMIT}`,
    [timestamp(now)],
  );
}

/** What the calendar asks soon, a line a task; the task with the oldest debt first. */
async function dueGroups(em: Entities, now: Instant): Promise<DueGroup[]> {
  return em.execute(
    `with due as (
       select p.id, p.tag, task ->> 'do' as "do", (task ->> 'dueAt')::float8 as "dueAt",
              row_number() over (partition by task ->> 'do' order by (task ->> 'dueAt')::float8, p.tag_key) as place
         from pack_state s join pack p on p.id = s.pack_id cross join jsonb_array_elements(s.tasks) task
        where s.task_due_at <= ? and (task ->> 'dueAt')::float8 <= ?
     )
     select "do", count(*)::int as total, (count(*) filter (where "dueAt" <= ?))::int as overdue,
            min("dueAt") as "firstDueAt",
            json_agg(json_build_object('id', id, 'tag', tag, 'dueAt', "dueAt") order by place)
              filter (where place <= ${NAMED_PACKS}) as packs
       from due group by "do" order by min("dueAt")`,
    [timestamp(now + DUE_DAYS * DAY_MS), now + DUE_DAYS * DAY_MS, now],
  );
}
