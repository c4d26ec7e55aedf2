import type { Finding } from '../assess';
import type { StorageJob } from '../storage';
import { ampHours, amps, volts } from './figures';
import { whenWords } from './time';
import type { Reader } from './time';

/** What to do about it; null where nothing is asked, or a person must decide first. */
export function advice(finding: Finding, reader: Reader): string | null {
  switch (finding.rule) {
    case 'unmeasured':
      if (finding.restedFrom === null) return 'Measure it before it is charged or flown.';
      return finding.why === 'lapsed'
        ? 'Read it.'
        : `Read it rested from ${whenWords(finding.restedFrom, reader)}.`;
    case 'not-known':
      return 'Measure it before it is charged or flown.';
    case 'self-storing':
      return `Read it then.`;
    case 'smart-settings':
      return finding.wrong.some(({ is }) => is === 'off' || is === 'late')
        ? 'Set it by the rules, or put it to storage by hand.'
        : 'Set it by the rules.';
    case 'memory-unread':
      return 'Read its memory.';
    case 'own-faults':
      return 'Look it over, and ask what happened.';
    case 'field-charged':
      return `Fly it or put it to storage by ${whenWords(finding.dueAt, reader)}.`;
    case 'balance-due':
      return 'Balance it at the next charge.';
    case 'charge-habits':
      return null;
    case 'two-hands':
      return 'Whoever has it says so, or returns it.';
    case 'deep-use':
      return 'Set the timer shorter.';
    case 'cold-use':
      return 'Warm it before the next flight, set the timer shorter, land at higher volts.';
    case 'cooling':
      return `Let it cool where nothing can burn, and feel it again at ${whenWords(finding.againFrom, reader)}.`;
    case 'shelf-loss':
      return 'Read it again in a week, and keep it off costly craft.';
    case 'wears-faster':
      return 'Measure it again soon, and keep it off costly craft.';
    case 'written-late':
      return 'Read it to be sure.';
    case 'storage-pending':
      return finding.by === 'job' ? `Read it from ${whenWords(finding.restedFrom, reader)}.` : 'Read it.';
    case 'not-rested':
      return `Read it rested from ${whenWords(finding.restedFrom, reader)}.`;
    case 'over-discharge-event':
      return finding.readSince ? null : 'Charge it to storage at once and read it again.';
    case 'recharge-soon':
      if (finding.job?.inTheWay) return `${inTheWay(finding.job.inTheWay)}.`;
      if (finding.basis === 'used') return 'Read it, then bring it up.';
      return finding.job ? `Bring it up to storage now${jobPhrase(finding.job)}.` : 'Top it up now.';
    case 'overfull':
      return finding.severity === 'hold'
        ? null
        : 'Take it down to storage, and check the charger’s top voltage.';
    case 'storage-high':
    case 'storage-low':
      if (finding.job?.inTheWay) return `${inTheWay(finding.job.inTheWay)}.`;
      return finding.job && `Put it to storage${jobPhrase(finding.job)}.`;
    case 'spread':
      if (finding.severity === 'retire') return null;
      return finding.mv > finding.limits.retireMv
        ? 'Balance it and read it again: still over that, it is to be retired.'
        : 'Balance it at the next charge.';
    case 'charge-failed':
      return finding.severity === 'retire' ? null : 'Discharge it and balance again.';
    case 'charge-implausible':
      if (finding.severity === 'hold') return null;
      return finding.oddity === 'too-much'
        ? 'Check the figure and the charger’s setting.'
        : 'Check the setting; let the pack lie outdoors overnight before anybody inspects it.';
    case 'wrong-setting':
      return finding.severity === 'hold' ? null : 'Set the charger for this pack before the next charge.';
    case 'resistance-jump':
      return 'Clean the contacts and measure again.';
    case 'weak-cell':
    case 'cell-drift':
    case 'weakest-again':
    case 'resistance-growth':
    case 'resistance-siblings':
      return finding.severity === 'note'
        ? 'Clean the contacts and measure again.'
        : 'Charge it at 1C, balanced, and keep it off costly craft.';
    case 'capacity':
      return finding.severity === 'note' ? 'Measure it again.' : 'Shorten its timer to what it still holds.';
    case 'run-time':
      return finding.stepAt === null || finding.severity === 'retire'
        ? 'Shorten its timer to what it still holds.'
        : 'Measure its capacity before anything is concluded.';
    case 'hot-use':
      return finding.severity === 'hold' ? null : 'Look for a wrong gear, propeller or load.';
    case 'hot-charge':
      return finding.severity === 'hold' ? null : 'Charge it slower, and watch it.';
    case 'long-full':
      return 'Watch its flight times and resistance; put it to storage sooner.';
    case 'cycles':
    case 'age':
      return 'Review it: capacity, resistance, and what it is used for.';
    case 'unlogged':
      return finding.direction === 'charge'
        ? 'Log the charge if you know of it.'
        : 'Log it if you know of it.';
    case 'nimh-top-up':
      return 'Charge it.';
    case 'inspection-failed':
      return finding.severity === 'hold' ? null : 'Put it right and inspect it again.';
    case 'swollen':
      return finding.severity === 'hold' ? null : 'Measure it again cold, and at every inspection.';
    case 'not-as-delivered':
      return 'Do not charge it; send it back to the seller.';
    case 'long-rest':
      return 'Inspect it, then charge it first at 1C, balanced.';
    case 'baseline-missing':
      return `Measure it by ${whenWords(finding.dueAt, reader)}.`;
    case 'inspection-due':
      return 'Inspect it.';
    case 'inspection-asked':
      return 'Inspect it.';
    case 'incident':
    case 'held-by-hand':
    case 'recovery':
    case 'second-name':
    case 'landed-low':
    case 'damage-floor':
    case 'over-discharged':
    case 'idle':
      return null;
    default:
      return finding satisfies never;
  }
}

/** A charge through the main lead moves all cells alike: which one keeps the pack from being brought to storage that way. */
export function inTheWay({ cell, would }: NonNullable<StorageJob['inTheWay']>): string {
  return would === 'overfill'
    ? `Balance it first, gently and watched: cell ${cell} would be overfilled before the lowest is in the band`
    : `Balance it first, gently and watched: cell ${cell} would run flat before the highest is in the band`;
}

/** ": put in 1.02 Ah at up to 3.3 A, to 3.80 V a cell (15.20 V the pack)"; nothing for no job. */
function jobPhrase(job: StorageJob | null): string {
  if (!job) return '';
  const target = `to ${volts(job.targetMv)} V a cell (${volts(job.packTargetMv)} V the pack)`;
  return job.direction === 'charge'
    ? `: put in ${ampHours(job.chargeAh)} at up to ${amps(job.chargeAmps)}, ${target}`
    : `: take out ${ampHours(job.chargeAh)}, ${target}`;
}
