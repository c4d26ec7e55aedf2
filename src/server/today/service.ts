import { TODAY_LIMIT } from '../../contract';
import type { DueGroup, TodayAnswer, TodayItem } from '../../contract';
import { DAY_MS, HOUR_MS } from '../../core/measure';
import type { Instant } from '../../core/measure';
import { timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import { machineTroubles } from '../platform/machine';
import { onCharge } from '../charging';
import { daysToCome } from '../flying';
import { openTasks, watches } from '../incidents';
import { rounds } from '../rounds';
import { PACK_ROW_COLUMNS, stepColumn } from '../packs';

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
  const { counts, wantedBackTotal, ...packs } = await packsToday(em, now);
  const { outOfBand, toMeasure, leaving, ...rest } = counts;
  return {
    machine: await machineTroubles(em),
    ...packs,
    counts: rest,
    outOfBandTotal: outOfBand,
    heldTotal: rest.outOfUse,
    toMeasureTotal: toMeasure,
    leavingTotal: leaving,
    outTotal: wantedBackTotal,
    due: await dueGroups(em, now),
    onCharge: await onCharge(em),
    flying: await daysToCome(em, now),
    openRounds: await rounds(em, 'open'),
    watches: await watches(em, now),
    tasks: await openTasks(em),
  };
}

/** Packs that wait for a decision, the oldest first. */
export async function waiting(em: Entities, now: Instant): Promise<TodayItem[]> {
  const { held } = await asked<{ held: TodayItem[] }>(em, now, {
    held: items(HELD, 's.out_since', 'next', [], MOST_WAITING),
  });
  return held;
}

/** A queue longer than this is a batch. */
const MOST_WAITING = 500;

interface PacksToday extends Pick<
  TodayAnswer,
  'outOfBand' | 'held' | 'toMeasure' | 'out' | 'leaving' | 'unexplained' | 'ownStorageOff'
> {
  readonly counts: TodayAnswer['counts'] & { outOfBand: number; toMeasure: number; leaving: number };
  readonly wantedBackTotal: number;
}

function packsToday(em: Entities, now: Instant): Promise<PacksToday> {
  const horizon = timestamp(now + HORIZON_HOURS * HOUR_MS);
  return asked<PacksToday>(em, now, {
    counts: counts(now, horizon),
    outOfBand: items(OUT_OF_BAND, `(s.next_do = 'store-up-now') desc, s.due_at`, 'next'),
    held: items(HELD, 's.out_since', 'next'),
    toMeasure: items(TO_MEASURE, 's.read_due_at', 'read', [horizon]),
    out: items(WANTED_BACK, `(s.flying #>> '{out,wantedBackAt}')::float8`, 'next', [now]),
    wantedBackTotal: { sql: `select count(*)::int from at s where ${WANTED_BACK}`, params: [now] },
    leaving: items(LEAVING, 's.next_due_at', 'next', [horizon]),
    unexplained: UNEXPLAINED,
    ownStorageOff: OWN_STORAGE_OFF,
  });
}

/** A question about the register at this moment, which the statement below calls `at`; `list` asks for all of its rows. */
interface Question {
  readonly sql: string;
  readonly params: readonly (string | number)[];
  readonly list?: true;
}

/**
 * Answers several questions in one statement. The packs whose rows time has changed are laid out once for all of them: that is the
 * dear part, and each question by itself would pay it again.
 */
async function asked<Answer>(
  em: Entities,
  now: Instant,
  questions: { readonly [Name in keyof Answer]: Question },
): Promise<Answer> {
  const all = Object.entries<Question>(questions);
  const columns = all.map(([name, { sql, list }]) =>
    list ? `(select coalesce(json_agg(one), '[]') from (${sql}) one) as "${name}"` : `(${sql}) as "${name}"`,
  );
  const [answer]: Answer[] = await em.execute(
    `with lapsed as materialized (select * from pack_state_at(?) where changes_at <= ?),
          at as not materialized (
            select * from pack_state where (changes_at is null or changes_at > ?) and not empty
            union all select * from lapsed)
     select ${columns.join(', ')}`,
    [timestamp(now), timestamp(now), timestamp(now), ...all.flatMap(([, { params }]) => params)],
  );
  return answer!;
}

function counts(now: Instant, horizon: string): Question {
  return {
    sql: `select json_build_object(
            'packs', count(*),
            'inBand', count(*) filter (where s.storage in ('in-band', 'pending')),
            'withinAllowance', count(*) filter (where (s.due_at > ? or s.storage = 'self-storing') and not (${HELD})),
            'overdue', count(*) filter (where s.due_at <= ? and not (${HELD})),
            'unmeasured', count(*) filter (where s.storage = 'unmeasured'),
            'outOfUse', count(*) filter (where ${HELD}),
            'watch', count(*) filter (where s.verdict = 'watch'),
            'noRule', count(*) filter (where s.storage = 'no-rule'),
            'outOfBand', count(*) filter (where ${OUT_OF_BAND}),
            'toMeasure', count(*) filter (where ${TO_MEASURE}),
            'leaving', (select count(*) from at s where ${LEAVING}))
       from at s where not (${LEFT})`,
    params: [timestamp(now), timestamp(now), horizon, horizon],
  };
}

function items(
  where: string,
  order: string,
  step: 'next' | 'read',
  params: readonly (string | number)[] = [],
  limit = TODAY_LIMIT,
): Question {
  return {
    // The first of them are found before any of them is put into its columns, which is dear.
    sql: `select ${PACK_ROW_COLUMNS}, ${stepColumn(step)}, s.findings -> 0 as finding, s.needs
            from (select s.* from pack p join at s on s.pack_id = p.id where ${where}
                   order by ${order}, p.tag_key limit ${limit}) s
            join pack p on p.id = s.pack_id order by ${order}, p.tag_key`,
    params,
    list: true,
  };
}

/** Smart packs that would not come down by themselves. */
const OWN_STORAGE_OFF: Question = {
  sql: `select p.id, p.tag from at s join pack p on p.id = s.pack_id
         where p.smart is not null and s.findings @> '[{"rule": "smart-settings", "wrong": [{"is": "off"}]}]' and not (${LEFT})
         order by p.tag_key limit ${MOST_WAITING}`,
  params: [],
  list: true,
};

/** What the cells tell and nobody wrote down, with whoever had the pack last; they are asked on their own page. */
const UNEXPLAINED: Question = {
  sql: `select p.id as "packId", p.tag, f ->> 'direction' as direction, (f ->> 'fromAt')::float8 as "fromAt",
               (f ->> 'toAt')::float8 as "toAt", (f ->> 'fromMv')::int as "fromMv", (f ->> 'toMv')::int as "toMv",
               (select r.payload ->> 'holderId' from record r
                 where r.pack_id = p.id and r.kind = 'moved' and r.payload ->> 'holderId' is not null
                   and r.at <= to_timestamp((f ->> 'toAt')::float8 / 1000)
                 order by r.at desc, r.seq desc limit 1) as "holderId"
          from at s join pack p on p.id = s.pack_id
         cross join lateral jsonb_array_elements(s.findings) f
         where s.findings @> '[{"rule": "unlogged"}]' and f ->> 'rule' = 'unlogged' and not (${LEFT})
         order by (f ->> 'toAt')::float8 desc, p.tag_key limit ${TODAY_LIMIT}`,
  params: [],
  list: true,
};

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
