import type { Instant, RecordId } from '../measure';
import type { PackHistory } from '../record';

/** When each record that may tell something of a pack's health says it happened. */
export function timesOf(history: PackHistory): ReadonlyMap<RecordId, Instant> {
  const known = kept.get(history);
  if (known) return known;
  const { readings, resistances, charges, flights, inspections, incidents, decisions, recoveries } = history;
  const times = new Map<RecordId, Instant>();
  for (const list of [readings, resistances, charges, flights, inspections, incidents, decisions, recoveries])
    for (const { at, records } of list) for (const id of records) times.set(id, at);
  kept.set(history, times);
  return times;
}

/** A history is asked about many moments when its future is worked out. */
const kept = new WeakMap<PackHistory, ReadonlyMap<RecordId, Instant>>();
