import { inTheWay } from './advice';
import { CHEMISTRY } from '../chemistry';
import type { StoragePlan } from '../charging';
import type { RoundKind, RowOutcome, SeasonState, Unusual } from '../rounds';
import type { StowageWarning } from '../stowage';
import { ampHours, amps, durationWords, plural, volts } from './figures';
import { whenWords } from './time';
import type { Reader } from './time';

export const ROUND_WORDS: Readonly<Record<RoundKind, { readonly name: string; readonly gathers: string }>> = {
  'put-away': {
    name: 'Put-away after flying',
    gathers: 'what came back today, is out of its band or not measured',
  },
  'season-start': {
    name: 'Season start',
    gathers: 'packs back from a long rest: look, leads, balance port, cells, first charge',
  },
  scheduled: { name: 'Scheduled inspection', gathers: 'packs whose inspection is due within a week' },
  receipt: { name: 'Receipt of a delivery', gathers: 'new packs whose baseline is not complete' },
  idle: { name: 'Measure idle packs again', gathers: 'stored packs due for a reading within a week' },
  free: { name: 'Free round', gathers: 'nothing by itself: scan packs as they come' },
};

export const OUTCOME_WORDS: Readonly<Record<RowOutcome, string>> = {
  done: 'done',
  stopped: 'stopped',
  skipped: 'skipped',
  missing: 'not found',
};

/** "Discharge 1.90 Ah at 1.3 A, 1 h 28 min, to 3.80 V a cell, 22.80 V the pack". */
export function storagePlanWords(plan: StoragePlan): string {
  if (plan.inTheWay) return inTheWay(plan.inTheWay);
  const doing = plan.direction === 'charge' ? 'Storage charge' : 'Discharge';
  return `${doing} ${ampHours(plan.chargeAh)} at ${amps(plan.amps)}, about ${durationWords(plan.minutes)}, to ${volts(plan.targetMv)} V a cell, ${volts(plan.packTargetMv)} V the pack`;
}

/** So long nobody stays with a pack on a load. */
const LONGEST_ATTENDED_MIN = 180;

/** What to do instead of a job that takes longer than anybody stays with it; null for one that does not. */
export function storagePlanCaution(plan: StoragePlan): string | null {
  if (plan.minutes <= LONGEST_ATTENDED_MIN) return null;
  return plan.direction === 'charge'
    ? `${durationWords(plan.minutes)} is longer than anybody stays with it: charge it in parts, or at a higher current if its label allows.`
    : `${durationWords(plan.minutes)} is longer than anybody stays with it: fly it down, or use a larger load.`;
}

/** The question asked once before an unusual value is kept. */
export function unusualQuestion(why: Unusual, reader: Reader): string {
  switch (why.code) {
    case 'moved':
      return `Cell ${why.cell}: ${volts(why.mv)} after ${volts(why.beforeMv)} ${whenWords(why.beforeAt, reader)}, with nothing logged between? Enter again to save it.`;
    case 'apart':
      return `Cell ${why.cell}: ${volts(why.mv)} beside ${volts(why.othersMv)} in the others? Enter again to save it.`;
    default:
      return why satisfies never;
  }
}

export function stowageWarningWords(why: StowageWarning): string {
  switch (why.code) {
    case 'held-among-sound':
      return `${plural(why.packIds.length, 'pack')} out of use among sound ones. Set apart.`;
    case 'too-many':
      return `${plural(why.count, 'pack')} where ${why.capacity} may lie.`;
    case 'charged-in-the-warm':
      return `${plural(why.packIds.length, 'charged pack')} at ${why.celsius} °C; from ${why.limitC} °C is too warm.`;
    case 'not-fire-resistant':
      return `${plural(why.packIds.length, 'lithium pack')} where nothing resists fire.`;
    case 'unvented-metal':
      return `${plural(why.packIds.length, 'lithium pack')} in a metal box that lets no gas out: it bursts when one burns.`;
    case 'mixed-chemistries':
      return `${why.chemistries.map((of) => CHEMISTRY[of].name).join(' and ')} in one place; the rules keep them apart.`;
    default:
      return why satisfies never;
  }
}

/** Where a pack stands in its season start, and what comes next. */
export function seasonWords(state: SeasonState): string {
  switch (state.step) {
    case 'look-over':
      return 'To be inspected.';
    case 'charge':
      return state.pass === 1
        ? `First charge: 1C, balanced. Cells ${state.spreadMv} mV apart.`
        : `Still ${state.spreadMv} mV apart. Discharge, then balance gently: pass ${state.pass} of ${state.of}.`;
    case 'stopped':
      return state.why === 'found'
        ? 'Stopped: what was found takes it out of use. It is not charged.'
        : state.why === 'too-low'
          ? 'Stopped: a cell is under what a charger may start on. It is not charged.'
          : 'Stopped: the cells did not close. Retirement is recommended.';
    case 'done':
      return state.passes > 1 ? `Ready, after ${plural(state.passes, 'pass', 'passes')}.` : 'Ready.';
    default:
      return state satisfies never;
  }
}
