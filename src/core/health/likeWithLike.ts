import { DAY_MS } from '../measure';
import type { RecordId } from '../measure';
import type { ResistanceEvent } from '../record';
import { median } from './points';

/** Readings of two instruments within so long of each other join them: one pack in one state, measured with both. */
const JOINED_WITHIN_MS = DAY_MS;

/**
 * The resistance readings that may be compared: those of the instrument used last, and those of others that were joined to
 * it by measuring once with both, brought to its scale. A change of instrument without that starts a new baseline: meters differ by
 * more than a year of wear.
 * @param odd records of charges that cannot be right; what was measured with them counts for nothing
 */
export function comparable(
  resistances: readonly ResistanceEvent[],
  odd: ReadonlySet<RecordId> = NONE,
): readonly ResistanceEvent[] {
  const sound =
    odd.size === 0 ? resistances : resistances.filter(({ records }) => !records.some((id) => odd.has(id)));
  const last = sound.at(-1);
  if (!last || sound.every(({ instrument }) => instrument === last.instrument)) return sound;
  const scales = scalesTo(sound, last.instrument);
  return sound.flatMap((event) => {
    const scale = scales.get(event.instrument);
    if (scale === undefined) return [];
    return scale === 1 ? [event] : [{ ...event, irMilliohm: event.irMilliohm.map((one) => one * scale) }];
  });
}

const NONE: ReadonlySet<RecordId> = new Set();

/** What each instrument's figures are multiplied by to stand on one's scale; instruments never joined to it are missing. */
function scalesTo(
  readings: readonly ResistanceEvent[],
  instrument: string | null,
): ReadonlyMap<string | null, number> {
  const scales = new Map<string | null, number>([[instrument, 1]]);
  const others = new Set(readings.map((one) => one.instrument));
  // One joined to one that is joined counts too; as many rounds as there are instruments find them all.
  for (let round = 0; round < others.size; round++) {
    for (const other of others) {
      if (scales.has(other)) continue;
      for (const [known, scale] of scales) {
        const ratio = ratioOf(readings, other, known);
        if (ratio !== null) scales.set(other, ratio * scale);
      }
    }
  }
  return scales;
}

/** How much higher one instrument reads than another, by pairs measured on one day; null without such a pair. */
function ratioOf(readings: readonly ResistanceEvent[], of: string | null, to: string | null): number | null {
  const ratios: number[] = [];
  for (const one of readings) {
    if (one.instrument !== of) continue;
    for (const other of readings) {
      if (other.instrument !== to || Math.abs(other.at - one.at) > JOINED_WITHIN_MS) continue;
      if (Math.abs(other.temperatureC - one.temperatureC) > SAME_TEMPERATURE_C) continue;
      for (const [i, milliohm] of one.irMilliohm.entries()) ratios.push(other.irMilliohm[i]! / milliohm);
    }
  }
  return ratios.length === 0 ? null : median(ratios);
}

/** Further apart the temperature's own correction would be in the ratio. */
const SAME_TEMPERATURE_C = 5;
