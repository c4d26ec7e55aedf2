import type { Finding, SettingSlip } from '../assess';
import { CHEMISTRY } from '../chemistry';
import type { Felt } from '../reading';
import type { Lines } from '../rules';
import { ampHours, amps, ohms, volts } from './figures';
import { MEANING_WORDS } from './inspection';
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
      if (finding.since === null) return [];
      return finding.why === 'used'
        ? [t('Used', finding.since), t('Rested from', finding.restedFrom!)]
        : [
            ...(finding.lastReadAt === null ? [] : [t('Last read', finding.lastReadAt)]),
            t('In its band until', finding.since),
          ];
    case 'not-known':
      return [t('Last measured', finding.since), { label: 'Known for', value: `${finding.afterDays} days` }];
    case 'self-storing':
      return [t('Charged', finding.since), t('In its band by', finding.bledAt)];
    case 'smart-settings':
      return finding.wrong.flatMap((wrong): readonly Figure[] => {
        switch (wrong.is) {
          case 'off':
            return [{ label: 'Stores itself', value: 'switched off' }];
          case 'late':
            return [
              { label: 'Stores itself', value: `after ${wrong.afterHours} h` },
              { label: 'Allowed above the band', value: `${wrong.allowanceHours} h` },
            ];
          case 'storage-volts':
            return [
              v('Stops at', wrong.mv),
              { label: 'Band', value: `${volts(wrong.lowMv)} to ${volts(wrong.highMv)} V` },
            ];
          case 'rate':
            return [
              { label: 'Its current', value: amps(wrong.amps) },
              { label: 'House', value: amps(wrong.limitA) },
            ];
          case 'top':
            return [v('Its top', wrong.mv), v('House', wrong.limitMv)];
          default:
            return wrong satisfies never;
        }
      });
    case 'memory-unread':
      return [t(finding.did === 'written' ? 'Set' : 'Updated', finding.at)];
    case 'own-faults':
      return [
        { label: 'Faults more', value: `${finding.faults}` },
        t('From', finding.fromAt),
        t('To', finding.toAt),
      ];
    case 'field-charged':
      return [
        t('Charged', finding.at),
        { label: 'Rate', value: `${Number(finding.rateC.toFixed(2))}C` },
        t('Fly or drain by', finding.dueAt),
      ];
    case 'balance-due':
      return [
        ...(finding.lastAt === null ? [] : [t('Last balanced', finding.lastAt)]),
        { label: 'Charges since', value: `${finding.charges}` },
        { label: 'House balances', value: `every ${finding.every}` },
      ];
    case 'charge-habits':
      return [
        t('Charged', finding.at),
        { label: 'Such charges', value: `${finding.times} of ${finding.ofCharges}` },
        { label: 'By the same person', value: `${finding.timesBySame}` },
      ];
    case 'two-hands':
      return [t('Taken out', finding.firstAt), t('Taken out again', finding.secondAt)];
    case 'deep-use':
      return [
        { label: 'Taken out', value: `${finding.percent.toFixed(1)} %` },
        { label: 'Deepest', value: `${finding.limitPercent} %` },
        { label: 'Into the reserve', value: `${(finding.percent - finding.limitPercent).toFixed(1)} points` },
        { label: 'Deep flights', value: `${finding.times} of ${finding.ofFlights}` },
        { label: 'By the same pilot', value: `${finding.timesBySame}` },
        ...(finding.craft === null ? [] : [{ label: 'Craft', value: finding.craft }]),
        t('Landed', finding.at),
      ];
    case 'cold-use':
      return [
        { label: 'Outside', value: `${finding.celsius} °C` },
        { label: 'Cold below', value: `${finding.limitC} °C` },
        t('Landed', finding.at),
      ];
    case 'cooling':
      return [t('Used', finding.usedAt), t('Felt', finding.feltAt), t('Feel again', finding.againFrom)];
    case 'shelf-loss':
      return [
        { label: 'Lost in a week', value: `${finding.percentAWeek.toFixed(1)} %` },
        { label: 'Caution', value: `over ${finding.limitPercent} %` },
        t('From', finding.fromAt),
        t('to', finding.toAt),
      ];
    case 'wears-faster':
      return [t('Since about', finding.since), { label: 'Measured since', value: `${finding.values} times` }];
    case 'written-late':
      return [t('Clock ran out', finding.dueAt), t('Dated', finding.at), t('Written', finding.recordedAt)];
    case 'storage-pending':
      return [
        { label: 'Brought there by', value: finding.by === 'job' ? 'a storage job' : 'its own bleed' },
        t('Since', finding.since),
        t('Rested from', finding.restedFrom),
      ];
    case 'swollen':
      return [
        ...(finding.thicknessMm === null ? [] : [{ label: 'Thickness', value: `${finding.thicknessMm} mm` }]),
        ...(finding.percent === null
          ? []
          : [
              { label: 'Baseline', value: `${finding.baselineMm} mm` },
              { label: 'Thicker by', value: `${Math.round(finding.percent * 10) / 10} %` },
            ]),
        {
          label: 'Caution / hold from',
          value: `${finding.limits.watchPercent} / ${finding.limits.holdPercent} %`,
        },
        t('Found', finding.at),
      ];
    case 'incident':
      return [
        t('Happened', finding.at),
        ...(finding.watchUntil === null ? [] : [t('In quarantine until', finding.watchUntil)]),
        ...(finding.kind === 'crash'
          ? [{ label: 'House rule after a crash', value: finding.afterCrash }]
          : []),
      ];
    case 'held-by-hand':
    case 'inspection-asked':
      return [t('Asked', finding.at)];
    case 'recovery':
      return [t(finding.how === 'running' ? 'Begun' : 'Ended', finding.at), t('Time over', finding.endsAt)];
    case 'second-name':
      return [t('First name', finding.at)];
    case 'inspection-failed':
      return finding.failures.map(({ asks, means }) => ({ label: asks, value: MEANING_WORDS[means] }));
    case 'not-as-delivered':
      return [
        v('Lowest cell', finding.lowestMv),
        v('Highest cell', finding.highestMv),
        { label: 'Outside its band by', value: `${finding.outsideBy} mV` },
        { label: 'Goes back over', value: `${finding.limits.arrivalMv} mV` },
        { label: 'Apart', value: `${finding.spreadMv} mV` },
        { label: 'In tolerance', value: `${finding.limits.toleranceMv} mV` },
        t('Read', finding.at),
      ];
    case 'long-rest':
      return [t('Last used', finding.since), { label: 'Long from', value: `${finding.days} days` }];
    case 'baseline-missing':
      return [
        { label: 'Resistances', value: `${finding.resistances} of 3` },
        t('Complete by', finding.dueAt),
      ];
    case 'inspection-due':
      return [
        ...(finding.lastAt === null ? [] : [t('Last inspected', finding.lastAt)]),
        { label: 'House interval', value: `${finding.everyDays} days` },
        t('Due', finding.dueAt),
      ];
    case 'weak-cell':
      return [
        { label: 'Below its siblings', value: `${finding.belowMv} mV` },
        ...lineFigures(finding.lines, ' mV'),
        t('Read', finding.at),
      ];
    case 'cell-drift':
      return [
        { label: 'Further below', value: `${finding.percent.toFixed(1)} % of charge` },
        { label: 'Caution', value: `over ${finding.limitPercent} %` },
      ];
    case 'weakest-again':
      return [
        { label: 'Out of tolerance', value: `${finding.times} of ${finding.ofCharges} charges` },
        { label: 'Again since on caution', value: `${finding.timesAgain}` },
        { label: 'Caution', value: `from ${finding.limits.times} in ${finding.limits.inCharges}` },
        { label: 'Retire', value: `from ${finding.limits.times} more` },
      ];
    case 'resistance-growth':
    case 'resistance-siblings':
      return [
        { label: 'At 25 °C', value: ohms(finding.milliohm) },
        {
          label: finding.rule === 'resistance-growth' ? 'Baseline' : 'Siblings',
          value: ohms(finding.against),
        },
        { label: 'Factor', value: `× ${finding.factor.toFixed(2)}` },
        { label: 'Readings that agree', value: `${finding.agreeing} of 3` },
        ...lineFigures(finding.lines, ' times'),
      ];
    case 'resistance-jump':
      return [
        { label: 'Before', value: ohms(finding.against) },
        { label: 'Now', value: ohms(finding.milliohm) },
        { label: 'Rise', value: `${Math.round((finding.factor - 1) * 100)} %` },
        { label: 'Measure again over', value: `${finding.limitPercent} %` },
      ];
    case 'capacity':
      return [
        { label: 'Of its label', value: `${finding.percent.toFixed(1)} %` },
        { label: 'Measurements that agree', value: `${finding.agreeing} of 3` },
        ...lineFigures(finding.lines, ' %'),
      ];
    case 'run-time':
      return [
        { label: 'Shorter by', value: `${finding.percent.toFixed(1)} %` },
        { label: 'Craft', value: finding.craft },
        ...lineFigures(finding.lines, ' %'),
      ];
    case 'long-full':
      return [
        { label: 'Full days in a year', value: finding.days.toFixed(1) },
        { label: 'Caution', value: `from ${finding.limitDays}` },
        t('Longest from', finding.longestFrom),
        t('to', finding.longestTo),
      ];
    case 'cycles':
      return [
        { label: 'Full cycles', value: finding.count.toFixed(1) },
        { label: 'Review at', value: `${finding.limit}` },
        { label: 'Guessed uses', value: `${finding.guessed}` },
      ];
    case 'age':
      return [
        { label: 'In service', value: `${finding.years.toFixed(1)} years` },
        { label: 'Duty', value: finding.dutyClass },
        { label: 'Review at', value: `${finding.limit} years` },
      ];
    case 'hot-use':
      return [
        { label: 'Hottest', value: heatWords(finding.celsius, 'hot') },
        { label: 'Hot flights', value: `${finding.times} of ${finding.ofFlights}` },
        { label: 'Caution', value: `over ${finding.limits.useWatchC} °C` },
        { label: 'Hold', value: `over ${finding.limits.useHoldC} °C` },
        t('On', finding.at),
      ];
    case 'hot-charge':
      return [
        { label: 'Hottest', value: heatWords(finding.celsius, finding.felt) },
        { label: 'Caution', value: `over ${finding.limits.chargeWatchC} °C` },
        { label: 'Hold', value: `over ${finding.limits.chargeHoldC} °C` },
        t('On', finding.at),
      ];
    case 'wrong-setting':
      return [t('Charged', finding.at), ...finding.slips.map(slipFigure)];
    case 'charge-failed':
      return [
        { label: 'Ended', value: finding.how },
        ...(finding.cell === null
          ? []
          : [{ label: `Cell ${finding.cell} below`, value: `${finding.apartMv} mV` }]),
        { label: 'Failed in a row', value: `${finding.passes}` },
        { label: 'Retire', value: `from ${finding.limit}` },
        t('On', finding.at),
      ];
    case 'charge-implausible': {
      const unit = finding.oddity === 'too-much' ? 'mAh' : 'min';
      return [
        { label: 'Noted', value: `${Math.round(finding.value)} ${unit}` },
        {
          label: finding.oddity === 'too-much' ? 'Room' : 'Expected',
          value: `${Math.round(finding.expected)} ${unit}`,
        },
        t('On', finding.at),
      ];
    }
    case 'landed-low':
      return [
        v('Lowest, loaded', finding.mv),
        v('Land at', finding.limitMv),
        { label: 'Low landings', value: `${finding.times} of ${finding.ofFlights}` },
        t('Landed', finding.at),
      ];
    case 'unlogged':
      return [
        v('Lowest before', finding.fromMv),
        t('Read', finding.fromAt),
        v('Lowest after', finding.toMv),
        t('Read again', finding.toAt),
      ];
    case 'nimh-top-up':
      return [
        t('Last charged', finding.lastAt),
        { label: 'House interval', value: `${finding.everyDays} days` },
      ];
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
        { label: 'The rules say', value: finding.school },
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
        { label: 'Caution', value: `over ${finding.limits.watchMv} mV` },
        { label: 'Charge apart, at least', value: `${Math.floor(finding.socPercent)} %` },
        { label: 'Caution in charge', value: `over ${finding.limits.watchSocPercent} %` },
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

function heatWords(celsius: number | null, felt: Felt | null): string {
  return celsius === null ? `${felt} to the hand` : `${celsius} °C`;
}

function lineFigures(lines: Lines, unit: string): readonly Figure[] {
  return [
    { label: 'Caution', value: `${lines.watch}${unit}` },
    { label: 'Retire', value: `${lines.retire}${unit}` },
  ];
}

function slipFigure(slip: SettingSlip): Figure {
  switch (slip.of) {
    case 'chemistry':
      return { label: 'Set / wanted', value: `${CHEMISTRY[slip.set].name} / ${CHEMISTRY[slip.wanted].name}` };
    case 'cells':
      return { label: 'Cells set / wanted', value: `${slip.set} / ${slip.wanted}` };
    case 'top':
      return { label: 'Top set / full', value: `${volts(slip.set)} / ${volts(slip.wanted)} V` };
    case 'current':
      return { label: 'Amps set / label', value: `${amps(slip.set)} / ${amps(slip.wanted)}` };
    default:
      return slip satisfies never;
  }
}

function jobFigures(job: StorageJob | null): readonly Figure[] {
  if (!job) return [];
  if (job.inTheWay) return [{ label: 'In the way', value: `cell ${job.inTheWay.cell}` }];
  return [
    { label: job.direction === 'charge' ? 'Put in' : 'Take out', value: ampHours(job.chargeAh) },
    { label: 'To', value: `${volts(job.targetMv)} V a cell · ${volts(job.packTargetMv)} V the pack` },
    ...(job.direction === 'charge' ? [{ label: 'At up to', value: amps(job.chargeAmps) }] : []),
  ];
}
