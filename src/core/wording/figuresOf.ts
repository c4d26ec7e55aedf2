import type { Finding } from '../assess';
import { ampHours, amps, volts } from './figures';
import { span, whenWords } from './time';
import type { Reader } from './time';
import type { StorageJob } from '../storage';

/** One number behind a finding, with its unit, as a line of a form. */
export interface Figure {
  readonly label: string;
  readonly value: string;
}

/** The numbers and limits a finding rests on, in the order they were compared. */
export function figuresOf(finding: Finding, reader: Reader): readonly Figure[] {
  const v = (label: string, mv: number): Figure => ({ label, value: `${volts(mv)} V` });
  const t = (label: string, at: number): Figure => ({ label, value: whenWords(at, reader) });
  switch (finding.rule) {
    case 'unmeasured':
      return [];
    case 'not-rested':
      return [
        t('Read', finding.at),
        { label: 'Condition', value: finding.condition },
        t('Counts from', finding.restedFrom),
      ];
    case 'damage-floor':
      return [v('Lowest', finding.low.mv), v('Damage floor', finding.limitMv), t('Read', finding.low.at)];
    case 'over-discharged':
      return [
        v('Lowest', finding.low.mv),
        { label: 'House school', value: finding.school },
        t('Read', finding.low.at),
      ];
    case 'over-discharge-event':
      return [
        v('Lowest', finding.low.mv),
        v('Over-discharge line', finding.limitMv),
        t('Read', finding.low.at),
        ...(finding.readSince ? [v('Read since', finding.readSince.mv)] : []),
      ];
    case 'recharge-soon':
      return [
        v('Lowest', finding.low.mv),
        v('Recharge-soon floor', finding.limitMv),
        ...jobFigures(finding.job),
      ];
    case 'overfull':
      return [
        v('Highest', finding.mv),
        v('Full', finding.fullMv),
        v('Held from', finding.holdFromMv),
        t('Read', finding.at),
      ];
    case 'storage-high':
    case 'storage-low':
      return [
        v(finding.rule === 'storage-high' ? 'Highest' : 'Lowest', finding.mv),
        { label: 'Band', value: `${volts(finding.bandLowMv)}–${volts(finding.bandHighMv)} V` },
        t('Out since', finding.clock.since),
        { label: 'Allowed', value: `${finding.clock.allowanceHours} h` },
        t('Due', finding.clock.dueAt),
        ...jobFigures(finding.job),
      ];
    case 'spread':
      return [
        { label: 'Spread', value: `${finding.mv} mV` },
        { label: 'In tolerance', value: `up to ${finding.limits.toleranceMv} mV` },
        { label: 'Watch', value: `over ${finding.limits.watchMv} mV` },
        { label: 'Charge apart, at least', value: `${Math.floor(finding.socPercent)} %` },
        { label: 'Watch in charge', value: `over ${finding.limits.watchSocPercent} %` },
      ];
    case 'idle':
      return [
        t('Last read', finding.lastReadAt),
        { label: 'Idle for', value: span(reader.now - finding.lastReadAt) },
        { label: 'House interval', value: `${finding.everyDays} days` },
      ];
    default:
      return finding satisfies never;
  }
}

function jobFigures(job: StorageJob | null): readonly Figure[] {
  if (!job) return [];
  return [
    { label: job.direction === 'charge' ? 'Put in' : 'Take out', value: ampHours(job.chargeAh) },
    { label: 'To', value: `${volts(job.targetMv)} V a cell · ${volts(job.packTargetMv)} V the pack` },
    ...(job.direction === 'charge' ? [{ label: 'At up to', value: amps(job.chargeAmps) }] : []),
  ];
}
