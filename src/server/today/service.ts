import { TODAY_LIMIT } from '../../contract';
import type { TodayAnswer, TodayItem } from '../../contract';
import { HOUR_MS } from '../../core/measure';
import type { Instant } from '../../core/measure';
import { timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import { PACK_ROW_COLUMNS, PACK_ROW_TABLES, stepColumn } from '../packs/rows';

/** How far ahead Today looks. */
const HORIZON_HOURS = 72;

const HELD = `s.verdict in ('hold', 'retire-advised')`;
const OUT_OF_BAND = `s.storage in ('high', 'low') and not (${HELD})`;
const TO_MEASURE = `s.read_due_at <= ? and s.storage not in ('high', 'low') and not (${HELD})`;

/** What needs hands now: packs out of their band, packs that wait for a decision, packs to be measured. */
export async function today(em: Entities, now: Instant): Promise<Omit<TodayAnswer, 'now' | 'frozen'>> {
  const horizon = timestamp(now + HORIZON_HOURS * HOUR_MS);
  const [counts] = await em.execute<[TodayAnswer['counts'] & { outOfBand: number; toMeasure: number }]>(
    `select count(*)::int as packs,
            count(*) filter (where s.storage in ('in-band', 'pending'))::int as "inBand",
            count(*) filter (where s.due_at > ? and not (${HELD}))::int as "withinAllowance",
            count(*) filter (where s.due_at <= ? and not (${HELD}))::int as overdue,
            count(*) filter (where s.storage = 'unmeasured')::int as unmeasured,
            count(*) filter (where ${HELD})::int as "outOfUse",
            count(*) filter (where s.verdict = 'watch')::int as watch,
            count(*) filter (where s.storage = 'no-rule')::int as "noRule",
            count(*) filter (where ${OUT_OF_BAND})::int as "outOfBand",
            count(*) filter (where ${TO_MEASURE})::int as "toMeasure"
       from pack_standing(?) s`,
    [timestamp(now), timestamp(now), horizon, timestamp(now)],
  );
  const { outOfBand, toMeasure, ...rest } = counts;
  return {
    counts: rest,
    outOfBand: await items(em, now, OUT_OF_BAND, `(s.next_do = 'store-up-now') desc, s.due_at`, 'next'),
    outOfBandTotal: outOfBand,
    held: await items(em, now, HELD, `(s.verdict = 'retire-advised') desc, s.read_at`, 'next'),
    heldTotal: rest.outOfUse,
    toMeasure: await items(em, now, TO_MEASURE, 's.read_due_at', 'read', [horizon]),
    toMeasureTotal: toMeasure,
  };
}

function items(
  em: Entities,
  now: Instant,
  where: string,
  order: string,
  step: 'next' | 'read',
  params: string[] = [],
): Promise<TodayItem[]> {
  return em.execute(
    `select ${PACK_ROW_COLUMNS}, ${stepColumn(step)}, s.findings -> 0 as finding from ${PACK_ROW_TABLES}
      where ${where} order by ${order}, p.tag_key limit ${TODAY_LIMIT}`,
    [timestamp(now), ...params],
  );
}
