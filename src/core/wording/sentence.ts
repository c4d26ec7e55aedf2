import type { Finding, LowCell } from '../assess';
import { HOUR_MS } from '../measure';
import type { StorageJob } from '../storage';
import { ampHours, amps, volts } from './figures';
import { dueWords, span, whenWords } from './time';
import type { Reader } from './time';

/**
 * A finding as a custodian would say it: what is the case, with numbers and limit, then what to do about it. A pack that
 * is out of use gets no advice: nobody may charge it, and a custodian decides.
 */
export function sentence(finding: Finding, reader: Reader, outOfUse = false): string {
  const said = statement(finding, reader);
  const toDo = outOfUse ? null : advice(finding, reader);
  return toDo ? `${said} ${toDo}` : said;
}

function statement(finding: Finding, reader: Reader): string {
  switch (finding.rule) {
    case 'unmeasured':
      return 'No rested reading yet, so nobody can say what it holds.';
    case 'not-rested':
      return finding.condition === 'loaded'
        ? `Read under load ${whenWords(finding.at, reader)}; that decides neither storage nor spread.`
        : `Still settling when read ${whenWords(finding.at, reader)}; its volts do not count yet.`;
    case 'damage-floor':
      return `${lowCell(finding.low)} rested at ${volts(finding.low.mv)} V ${whenWords(finding.low.at, reader)}, below the ${volts(finding.limitMv)} V damage floor: out of use. Nobody may charge or fly it.`;
    case 'over-discharged':
      return finding.school === 'retire'
        ? `Over-discharged to ${volts(finding.low.mv)} V: the house retires such a pack. A custodian decides.`
        : `Over-discharged to ${volts(finding.low.mv)} V: the house allows a supervised recovery, by a custodian, if the cause is known and nothing is swollen.`;
    case 'over-discharge-event':
      return overDischargeEvent(finding, reader);
    case 'recharge-soon':
      return `${lowCell(finding.low)} rests at ${volts(finding.low.mv)} V, under the ${volts(finding.limitMv)} V recharge-soon floor.`;
    case 'overfull':
      return finding.severity === 'hold'
        ? `Cell ${finding.cell} rested at ${volts(finding.mv)} V ${whenWords(finding.at, reader)}. This chemistry is full at ${volts(finding.fullMv)} V; from ${volts(finding.holdFromMv)} V it was charged as something it is not: on hold.`
        : `Cell ${finding.cell} rests at ${volts(finding.mv)} V, above full (${volts(finding.fullMv)} V).`;
    case 'storage-high':
      return `Rests at ${volts(finding.mv)} V a cell, above its storage band (${volts(finding.bandLowMv)}–${volts(finding.bandHighMv)} V), ${clockPhrase(finding, reader)}.`;
    case 'storage-low':
      return `Rests at ${volts(finding.mv)} V a cell, below its storage band (${volts(finding.bandLowMv)}–${volts(finding.bandHighMv)} V), ${clockPhrase(finding, reader)}.`;
    case 'spread':
      return spreadStatement(finding);
    case 'idle':
      return `Last read ${whenWords(finding.lastReadAt, reader)}, ${span(reader.now - finding.lastReadAt)} ago; the house ${finding.doing === 'cycle' ? 'cycles' : 'reads'} an idle pack every ${finding.everyDays} days.`;
    default:
      return finding satisfies never;
  }
}

function advice(finding: Finding, reader: Reader): string | null {
  switch (finding.rule) {
    case 'unmeasured':
      return 'Measure it before it is charged or flown.';
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
      return finding.mv > finding.limits.retireMv
        ? 'Balance it and read it again: still over that, it is to be retired.'
        : 'Balance it at the next charge.';
    case 'damage-floor':
    case 'over-discharged':
    case 'idle':
      return null;
    default:
      return finding satisfies never;
  }
}

function overDischargeEvent(
  finding: Extract<Finding, { rule: 'over-discharge-event' }>,
  reader: Reader,
): string {
  const { low, limitMv, readSince } = finding;
  const event = `${lowCell(low)} rested at ${volts(low.mv)} V ${whenWords(low.at, reader)}, under the ${volts(limitMv)} V over-discharge line`;
  return readSince
    ? `${event}; it read ${volts(readSince.mv)} V ${whenWords(readSince.at, reader)}.`
    : `${event}.`;
}

function spreadStatement(finding: Extract<Finding, { rule: 'spread' }>): string {
  const { mv, lowestCell, limits, socPercent } = finding;
  const apart = `Cell ${lowestCell} rests ${mv} mV below the highest`;
  if (mv > limits.retireMv)
    return `${apart}; the house retires for over ${limits.retireMv} mV after balancing.`;
  if (mv > limits.watchMv) return `${apart}; over ${limits.watchMv} mV is one to watch.`;
  if (finding.severity === 'watch') {
    return `${apart}, at least ${Math.floor(socPercent)} % of charge apart; over ${limits.watchSocPercent} % is one to watch.`;
  }
  return `${apart}; up to ${limits.toleranceMv} mV is within tolerance.`;
}

function clockPhrase(
  { clock }: Extract<Finding, { rule: 'storage-high' | 'storage-low' }>,
  reader: Reader,
): string {
  return `for ${outFor(clock.since, reader)} of ${clock.allowanceHours} h allowed: ${dueWords(clock.dueAt, reader)}`;
}

/** "Cell 3", or the average of a pack whose cells cannot be read one by one. */
function lowCell(low: LowCell): string {
  return low.cell === null ? 'Its average cell' : `Cell ${low.cell}`;
}

function outFor(since: number, reader: Reader): string {
  const out = Math.max(0, reader.now - since);
  return out < HOUR_MS ? 'under 1 h' : span(out);
}

/** ": put in 1.02 Ah at up to 3.3 A, to 3.80 V a cell (15.20 V the pack)"; nothing for no job. */
function jobPhrase(job: StorageJob | null): string {
  if (!job) return '';
  const target = `to ${volts(job.targetMv)} V a cell (${volts(job.packTargetMv)} V the pack)`;
  return job.direction === 'charge'
    ? `: put in ${ampHours(job.chargeAh)} at up to ${amps(job.chargeAmps)}, ${target}`
    : `: take out ${ampHours(job.chargeAh)}, ${target}`;
}
