import type { FailedItem, Finding, LowCell, RuleId, SettingSlip } from '../assess';
import { CHEMISTRY } from '../chemistry';
import { INCIDENT_FACTS } from '../incident';
import { HOUR_MS } from '../measure';
import type { Lines } from '../rules';
import { amps, ohms, plural, volts } from './figures';
import { INCIDENT_WORDS } from './incident';
import { OCCASION_WORDS } from './inspection';
import { dayWords, dueWords, span, whenWords } from './time';
import type { Reader } from './time';

type Of<Rule extends RuleId> = Extract<Finding, { rule: Rule }>;

/** What is the case: the fact, its numbers and the limit it is held against. */
export function statement(finding: Finding, reader: Reader): string {
  switch (finding.rule) {
    case 'unmeasured':
      return finding.usedAt === null
        ? 'No rested reading yet, so nobody can say what it holds.'
        : `Used ${whenWords(finding.usedAt, reader)} and not read since, so nobody can say what it holds.`;
    case 'storage-pending':
      return finding.by === 'job'
        ? `Put to storage ${whenWords(finding.since, reader)}; volts move after a job, so it is pending until read rested.`
        : `Should have bled itself to storage by ${whenWords(finding.since, reader)}; pending until read.`;
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
    case 'weak-cell':
      return `Cell ${finding.cell} rested ${finding.belowMv} mV below its siblings after its use, read ${whenWords(finding.at, reader)}; ${linesWords(finding.lines, finding.severity, ' mV')}.`;
    case 'weakest-again':
      return weakestAgain(finding);
    case 'resistance-growth':
      return `Cell ${finding.cell} stands at ${ohms(finding.milliohm)}, ${times(finding.factor)} its own baseline of ${ohms(finding.against)}; ${linesWords(finding.lines, finding.severity, ' times')}.`;
    case 'resistance-siblings':
      return `Cell ${finding.cell} stands at ${ohms(finding.milliohm)}, ${times(finding.factor)} its siblings’ ${ohms(finding.against)}; ${linesWords(finding.lines, finding.severity, ' times')}.`;
    case 'resistance-jump':
      return `Cell ${finding.cell} jumped from ${ohms(finding.against)} to ${ohms(finding.milliohm)}, ${percentUp(finding.factor)} in one step; over ${finding.limitPercent} % is more often a bad contact than a bad cell.`;
    case 'capacity':
      return `Holds ${Math.round(finding.percent)} % of its label, by the latest measurements; ${linesWords(finding.lines, finding.severity, ' %')}.`;
    case 'run-time':
      return `Flies ${Math.round(finding.percent)} % shorter on the same charge than at first, on ${finding.craft}; ${linesWords(finding.lines, finding.severity, ' %')}.`;
    case 'long-full':
      return `Has stood full for ${Math.floor(finding.days)} days’ worth within a year, the longest from ${dayWords(finding.longestFrom, reader)} to ${dayWords(finding.longestTo, reader)}; from ${finding.limitDays} it is one to watch.`;
    case 'cycles':
      return `Has gone through ${Math.floor(finding.count)} full cycles; this chemistry is reviewed at ${finding.limit}.${
        finding.guessed > 0
          ? ` ${plural(finding.guessed, 'use')} had no charge noted and counted as a full one.`
          : ''
      }`;
    case 'age':
      return `In service for ${years(finding.years)}; at ${finding.dutyClass} duty a pack is reviewed after ${years(finding.limit)}.`;
    case 'hot-use':
      return hotUse(finding, reader);
    case 'hot-charge':
      return finding.severity === 'hold'
        ? `Reached ${finding.celsius} °C while charging ${whenWords(finding.at, reader)}; over ${finding.limits.chargeHoldC} °C the house holds it. A lithium pack should be barely warm.`
        : `Reached ${finding.celsius} °C while charging ${whenWords(finding.at, reader)}; over ${finding.limits.chargeWatchC} °C is one to watch.`;
    case 'wrong-setting':
      return `The charge of ${whenWords(finding.at, reader)} was set for another pack: ${listed(finding.slips.map(slipWords))}.`;
    case 'charge-failed':
      return `${FAILED_WORDS[finding.how]} ${whenWords(finding.at, reader)}, ${failedPasses(finding.passes)}; the house retires after ${finding.limit}.`;
    case 'charge-implausible':
      return implausible(finding, reader);
    case 'landed-low':
      return `Landed at ${volts(finding.mv)} V a cell under load ${whenWords(finding.at, reader)}, below ${volts(finding.limitMv)} V${again(finding.times, finding.ofFlights, 'flight')}.`;
    case 'unlogged':
      return finding.direction === 'charge'
        ? `Read ${volts(finding.fromMv)} V ${whenWords(finding.fromAt, reader)} and ${volts(finding.toMv)} V ${whenWords(finding.toAt, reader)} with no charge logged between.`
        : `Read ${volts(finding.fromMv)} V ${whenWords(finding.fromAt, reader)} and ${volts(finding.toMv)} V ${whenWords(finding.toAt, reader)} with no use or discharge logged between.`;
    case 'swollen':
      return swollen(finding, reader);
    case 'incident':
      return incidentStatement(finding, reader);
    case 'held-by-hand':
      return `Put on hold by hand ${whenWords(finding.at, reader)}: ${finding.reason}`;
    case 'inspection-asked':
      return `To be inspected before its next use, asked ${whenWords(finding.at, reader)}: ${finding.reason}`;
    case 'recovery':
      return recoveryStatement(finding, reader);
    case 'second-name':
      return `Retired by one person ${whenWords(finding.at, reader)}; the house wants a second name under it.`;
    case 'inspection-failed':
      return `Failed its inspection: ${listed(finding.failures.map((failure) => failureWords(failure, reader)))}.`;
    case 'not-as-delivered':
      return notAsDelivered(finding);
    case 'long-rest':
      return `Not used since ${dayWords(finding.since, reader)}; after ${finding.days} days at rest the house looks a pack over before it is used.`;
    case 'baseline-missing':
      return `New, and its baseline lacks ${listed(finding.missing.map((what) => missingWords(what, finding.resistances)))}.`;
    case 'inspection-due':
      return finding.lastAt === null
        ? `Never inspected; the house inspects every ${finding.everyDays} days.`
        : `Last inspected ${whenWords(finding.lastAt, reader)}; the house inspects every ${finding.everyDays} days.`;
    case 'nimh-top-up':
      return `Last charged ${whenWords(finding.lastAt, reader)}; the house tops a nickel pack up every ${finding.everyDays} days.`;
    default:
      return finding satisfies never;
  }
}

function overDischargeEvent(finding: Of<'over-discharge-event'>, reader: Reader): string {
  const { low, limitMv, readSince } = finding;
  const event = `${lowCell(low)} rested at ${volts(low.mv)} V ${whenWords(low.at, reader)}, under the ${volts(limitMv)} V over-discharge line`;
  return readSince
    ? `${event}; it read ${volts(readSince.mv)} V ${whenWords(readSince.at, reader)}.`
    : `${event}.`;
}

function spreadStatement(finding: Of<'spread'>): string {
  const { mv, lowestCell, limits, socPercent } = finding;
  const apart = `Cell ${lowestCell} rests ${mv} mV below the highest`;
  if (mv > limits.retireMv && finding.balancedAt !== null)
    return `${apart}, though just balanced; over ${limits.retireMv} mV after balancing the house retires a pack.`;
  if (mv > limits.retireMv)
    return `${apart}; the house retires for over ${limits.retireMv} mV after balancing.`;
  if (mv > limits.watchMv) return `${apart}; over ${limits.watchMv} mV is one to watch.`;
  if (finding.severity === 'watch') {
    return `${apart}, at least ${Math.floor(socPercent)} % of charge apart; over ${limits.watchSocPercent} % is one to watch.`;
  }
  return `${apart}; up to ${limits.toleranceMv} mV is within tolerance.`;
}

function clockPhrase({ clock }: Of<'storage-high' | 'storage-low'>, reader: Reader): string {
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

const ORDINALS = [
  '',
  'first',
  'second',
  'third',
  'fourth',
  'fifth',
  'sixth',
  'seventh',
  'eighth',
  'ninth',
  'tenth',
];
const COUNTS = ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten'];

/** ", third time in five charges"; nothing the first time. */
function again(count: number, of: number, what: string): string {
  if (count < 2) return '';
  return `, ${ORDINALS[count] ?? `${count}th`} time in ${COUNTS[of] ?? of} ${what}s`;
}

function weakestAgain({ cell, times: count, ofCharges, timesAgain, limits }: Of<'weakest-again'>): string {
  const now = `Cell ${cell} came to the charger lowest and out of tolerance in ${COUNTS[count] ?? count} of the last ${plural(ofCharges, 'charge')}`;
  if (timesAgain === 0) return `${now}; from ${limits.times} in ${limits.inCharges} it is watched.`;
  return `${now}, ${plural(timesAgain, 'time')} since it was put on watch; the house retires after ${limits.times} more.`;
}

function hotUse(
  { celsius, at, times: count, ofFlights, severity, limits }: Of<'hot-use'>,
  reader: Reader,
): string {
  const hot = `Reached ${celsius} °C in use ${whenWords(at, reader)}`;
  return severity === 'hold'
    ? `${hot}; over ${limits.useHoldC} °C the house holds it for inspection.`
    : `${hot}${again(count, ofFlights, 'flight')}; over ${limits.useWatchC} °C is one to watch.`;
}

function implausible({ oddity, value, expected, at }: Of<'charge-implausible'>, reader: Reader): string {
  const charge = `The charge of ${whenWords(at, reader)}`;
  switch (oddity) {
    case 'too-fast':
      return `${charge} finished in ${Math.round(value)} min where about ${Math.round(expected)} were to be expected: a wrong setting or a dying pack.`;
    case 'too-long':
      return `${charge} ran ${Math.round(value)} min where about ${Math.round(expected)} were to be expected: wrong mode, or an imbalance that will not close.`;
    case 'too-much':
      return `${charge} put in ${Math.round(value)} mAh, more than the label’s ${Math.round(expected)} mAh.`;
    default:
      return oddity satisfies never;
  }
}

function swollen(finding: Of<'swollen'>, reader: Reader): string {
  const { swelling, thicknessMm, baselineMm, percent, severity, limits } = finding;
  const felt = swelling ? `Swollen, ${swelling} to the thumb` : 'Found swollen';
  const measured =
    percent === null
      ? thicknessMm === null
        ? ''
        : `${thicknessMm} mm thick`
      : `${thicknessMm} mm thick, ${Math.round(percent * 10) / 10} % more than its ${baselineMm} mm baseline`;
  const when = whenWords(finding.at, reader);
  if (severity === 'watch')
    return `Measured ${measured} ${when}; from ${limits.watchPercent} % it is one to watch.`;
  if (percent !== null && percent >= limits.holdPercent)
    return `Measured ${measured} ${when}; from ${limits.holdPercent} % it is on hold.`;
  return `${felt} ${when}${measured && `, ${measured}`}: out of use. Do not charge, press or pierce it.`;
}

function incidentStatement(finding: Of<'incident'>, reader: Reader): string {
  const { kind, at, watchUntil, endedEarly, deformed, afterCrash } = finding;
  const what = `${INCIDENT_WORDS[kind].name}, ${whenWords(at, reader)}: out of use.`;
  if (deformed.length > 0)
    return `${what} Found out of shape after it (${listed(deformed.map(lowered))}): the house retires such a pack.`;
  if (!INCIDENT_FACTS[kind].mayReturn) return `${what} What burnt or leaked does not fly again.`;
  if (kind === 'crash' && afterCrash === 'retire') return `${what} The house retires every crashed pack.`;
  if (watchUntil === null) return what;
  if (reader.now < watchUntil)
    return `${what} Watched from a distance until ${whenWords(watchUntil, reader)}.`;
  return endedEarly ? `${what} Its watch was ended early.` : `${what} Its watch is over.`;
}

function recoveryStatement({ how, at, endsAt }: Of<'recovery'>, reader: Reader): string {
  switch (how) {
    case 'running':
      return `A supervised recovery runs since ${whenWords(at, reader)}; it must end by ${whenWords(endsAt, reader)}, or at any warmth.`;
    case 'reached':
      return `Brought up by a supervised recovery ${whenWords(at, reader)}; such a pack stays on watch for life.`;
    case 'warm':
      return `Got warm in a supervised recovery ${whenWords(at, reader)}: it goes.`;
    case 'time':
      return `Did not come up within the time of a supervised recovery ${whenWords(at, reader)}: it goes.`;
    case 'given-up':
      return `A supervised recovery was given up ${whenWords(at, reader)}: it goes.`;
    default:
      return how satisfies never;
  }
}

function lowered(text: string): string {
  return text.charAt(0).toLowerCase() + text.slice(1);
}

function failureWords({ asks, note, occasion, at }: FailedItem, reader: Reader): string {
  const said = lowered(asks);
  return `${said} (${OCCASION_WORDS[occasion]}, ${whenWords(at, reader)}${note ? `: ${note}` : ''})`;
}

function notAsDelivered({
  lowestMv,
  highestMv,
  spreadMv,
  outsideBy,
  limits,
}: Of<'not-as-delivered'>): string {
  const read = `Came at ${volts(lowestMv)}${highestMv === lowestMv ? '' : `–${volts(highestMv)}`} V a cell`;
  const level =
    spreadMv > limits.toleranceMv ? `${spreadMv} mV apart where ${limits.toleranceMv} is in tolerance` : '';
  const far = outsideBy > limits.arrivalMv ? `${outsideBy} mV outside its storage band` : '';
  return `${read}, ${[far, level].filter(Boolean).join(' and ')}: new packs arrive near storage volts and level.`;
}

function missingWords(what: 'resistance' | 'thickness' | 'mass', resistances: number): string {
  if (what === 'thickness') return 'a thickness';
  if (what === 'mass') return 'its mass';
  return resistances === 0 ? 'three resistance readings' : `${3 - resistances} of three resistance readings`;
}

const FAILED_WORDS: Readonly<Record<Of<'charge-failed'>['how'], string>> = {
  'timed-out': 'The balance charge timed out',
  stopped: 'The balance charge was stopped',
  error: 'The balance charge ended in an error',
  unbalanced: 'The balance charge ended out of balance',
};

function failedPasses(passes: number): string {
  return passes === 1 ? 'the first to fail' : `the ${ORDINALS[passes] ?? `${passes}th`} in a row to fail`;
}

function slipWords(slip: SettingSlip): string {
  switch (slip.of) {
    case 'chemistry':
      return `${CHEMISTRY[slip.set].name} instead of ${CHEMISTRY[slip.wanted].name}`;
    case 'cells':
      return `${plural(slip.set, 'cell')} instead of ${slip.wanted}`;
    case 'top':
      return `up to ${volts(slip.set)} V a cell instead of ${volts(slip.wanted)} V`;
    case 'current':
      return `${amps(slip.set)} where its label allows ${amps(slip.wanted)}`;
    default:
      return slip satisfies never;
  }
}

/** "over 1.5 times is one to watch": the line that was reached. */
function linesWords(lines: Lines, severity: Finding['severity'], unit: string): string {
  return severity === 'retire'
    ? `at ${lines.retire}${unit} the house retires a pack`
    : `at ${lines.watch}${unit} it is one to watch`;
}

function listed(parts: readonly string[]): string {
  return parts.length < 2 ? parts.join('') : `${parts.slice(0, -1).join(', ')} and ${parts.at(-1)}`;
}

function times(factor: number): string {
  return `${factor.toFixed(2).replace(/0$/, '')} times`;
}

function percentUp(factor: number): string {
  return `${Math.round((factor - 1) * 100)} %`;
}

function years(count: number): string {
  const rounded = Math.floor(count * 10) / 10;
  return rounded === 1 ? '1 year' : `${rounded} years`;
}
