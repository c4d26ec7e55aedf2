import type { Finding } from '../assess';
import type { StorageJob } from '../storage';
import { ampHours, amps, volts } from './figures';
import { whenWords } from './time';
import type { Reader } from './time';

/** What to do about it; null where nothing is asked, or a person must decide first. */
export function advice(finding: Finding, reader: Reader): string | null {
  switch (finding.rule) {
    case 'unmeasured':
      return finding.restedFrom === null
        ? 'Measure it before it is charged or flown.'
        : `Read it rested from ${whenWords(finding.restedFrom, reader)}.`;
    case 'storage-pending':
      return finding.by === 'job' ? `Read it from ${whenWords(finding.restedFrom, reader)}.` : 'Read it.';
    case 'not-rested':
      return `Read it rested from ${whenWords(finding.restedFrom, reader)}.`;
    case 'over-discharge-event':
      return finding.readSince ? null : 'Charge it to storage at once and read it again.';
    case 'recharge-soon':
      return finding.job ? `Bring it up to storage now${jobPhrase(finding.job)}.` : 'Top it up now.';
    case 'overfull':
      return finding.severity === 'hold'
        ? null
        : 'Take it down to storage, and check the charger’s top voltage.';
    case 'storage-high':
    case 'storage-low':
      return finding.job && `Put it to storage${jobPhrase(finding.job)}.`;
    case 'spread':
      if (finding.severity === 'retire') return null;
      return finding.mv > finding.limits.retireMv
        ? 'Balance it and read it again: still over that, it is to be retired.'
        : 'Balance it at the next charge.';
    case 'charge-failed':
      return finding.severity === 'retire' ? null : 'Discharge it and balance again.';
    case 'charge-implausible':
      return 'Check the setting; let it lie outdoors overnight before anybody inspects it.';
    case 'wrong-setting':
      return finding.severity === 'hold' ? null : 'Set the charger for this pack before the next charge.';
    case 'resistance-jump':
      return 'Clean the contacts and measure again.';
    case 'weak-cell':
    case 'weakest-again':
    case 'resistance-growth':
    case 'resistance-siblings':
      return 'Charge it at 1C, balanced, and keep it off costly craft.';
    case 'capacity':
    case 'run-time':
      return 'Shorten its timer to what it still holds.';
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
      return 'Look it over.';
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

/** ": put in 1.02 Ah at up to 3.3 A, to 3.80 V a cell (15.20 V the pack)"; nothing for no job. */
function jobPhrase(job: StorageJob | null): string {
  if (!job) return '';
  if (job.apart) return '. Its cells stand on both sides of the band: balance them first, gently and watched';
  const target = `to ${volts(job.targetMv)} V a cell (${volts(job.packTargetMv)} V the pack)`;
  return job.direction === 'charge'
    ? `: put in ${ampHours(job.chargeAh)} at up to ${amps(job.chargeAmps)}, ${target}`
    : `: take out ${ampHours(job.chargeAh)}, ${target}`;
}
