import type {
  ChargeBreach,
  FailedItem,
  Finding,
  LowCell,
  RuleId,
  SettingSlip,
  WrongSetting,
} from '../assess';
import { CHEMISTRY } from '../chemistry';
import { INCIDENT_FACTS } from '../incident';
import { HOUR_MS } from '../measure';
import type { Lines } from '../rules';
import type { ContentsBasis } from '../storage';
import { amps, ohms, plural, volts } from './figures';
import { INCIDENT_WORDS } from './incident';
import { OCCASION_WORDS } from './inspection';
import { dayWords, dueWords, span, whenWords } from './time';
import type { Reader } from './time';

type Of<Rule extends RuleId> = Extract<Finding, { rule: Rule }>;

/** One setting that is not as the rules want. */
export function wrongSettingSentence(wrong: WrongSetting): string {
  switch (wrong.is) {
    case 'off':
      return 'The pack’s own storage is switched off, so it will not come down by itself.';
    case 'late':
      return `The pack is set to store itself only after ${wrong.afterHours} h; the rules allow ${wrong.allowanceHours} h above the band.`;
    case 'storage-volts':
      return `Its own storage stops at ${volts(wrong.mv)} V a cell, outside the band of ${volts(wrong.lowMv)} to ${volts(wrong.highMv)} V.`;
    case 'rate':
      return `Its memory asks for ${amps(wrong.amps)}; the rules charge it at ${amps(wrong.limitA)} at most.`;
    case 'top':
      return `Its memory charges to ${volts(wrong.mv)} V a cell; the rules stop at ${volts(wrong.limitMv)} V.`;
    default:
      return wrong satisfies never;
  }
}

/** What is the case: the fact, its numbers and the limit it is held against. */
export function statement(finding: Finding, reader: Reader): string {
  switch (finding.rule) {
    case 'unmeasured':
      return unmeasured(finding, reader);
    case 'not-known':
      return `Nothing of this pack was measured for ${span(reader.now - finding.since)}, since ${dayWords(finding.since, reader)}: after ${finding.afterDays} days nobody knows how it is.`;
    case 'self-storing':
      return `The pack stores itself: it should be in its band by ${whenWords(finding.bledAt, reader)}.`;
    case 'smart-settings':
      return finding.wrong.map(wrongSettingSentence).join(' ');
    case 'memory-unread':
      return finding.did === 'written'
        ? `Its memory was set ${whenWords(finding.at, reader)} and not read back, so nobody knows whether that took.`
        : `Its program was updated ${whenWords(finding.at, reader)}; its settings were not read since.`;
    case 'own-faults':
      return `The pack’s own count of faults rose by ${finding.faults} between ${whenWords(finding.fromAt, reader)} and ${whenWords(finding.toAt, reader)}${finding.holderId === null ? '' : ', while one person had it'}.`;
    case 'field-charged':
      return `The pack was charged at ${rate(finding.rateC)} ${whenWords(finding.at, reader)}, faster than at home: such a charge is for flying the same day.`;
    case 'balance-due':
      return finding.lastAt === null
        ? `The cells were not balanced in ${plural(finding.charges, 'charge')}; the rules say to balance ${everyCharge(finding.every)}.`
        : `The cells were last balanced ${whenWords(finding.lastAt, reader)}, ${plural(finding.charges, 'charge')} ago; the rules say to balance ${everyCharge(finding.every)}.`;
    case 'charge-habits':
      return `The charge of ${whenWords(finding.at, reader)} broke a house rule: ${listed(finding.breaches.map(breachWords))}${often(finding.times, finding.ofCharges, 'charge', finding.timesBySame)}.`;
    case 'two-hands':
      return `Two people say that they have the pack: one took it out ${whenWords(finding.firstAt, reader)}, another ${whenWords(finding.secondAt, reader)} without knowing of it.`;
    case 'deep-use':
      return `The flight of ${whenWords(finding.at, reader)} took out ${Math.ceil(finding.percent)} % of what the pack holds, ${plural(Math.ceil(finding.percent - finding.limitPercent), 'point')} into the reserve; the rules go down to ${100 - finding.limitPercent} %${often(finding.times, finding.ofFlights, 'flight', finding.timesBySame)}.`;
    case 'cold-use':
      return `The last flight, ${whenWords(finding.at, reader)}, was at ${finding.celsius} °C outside. Below ${finding.limitC} °C a pack gives less and sags more.`;
    case 'cooling':
      return `The pack was warm ${whenWords(finding.feltAt, reader)}, so soon after its use that it may just be cooling.`;
    case 'shelf-loss':
      return `${finding.cell === null ? 'The pack' : `Cell ${finding.cell}`} lost ${Math.round(finding.percentAWeek * 10) / 10} % of charge a week lying on the shelf from ${dayWords(finding.fromAt, reader)} to ${dayWords(finding.toAt, reader)}, beyond what its chemistry leaks; over ${finding.limitPercent} % is a caution.`;
    case 'wears-faster':
      return finding.how === 'step'
        ? `The pack’s ${MEASURED[finding.measure]} changed at a stroke about ${dayWords(finding.since, reader)}; ${plural(finding.values, 'measurement')} since.`
        : `The pack wears faster since about ${dayWords(finding.since, reader)}, by its ${MEASURED[finding.measure]}; ${plural(finding.values, 'measurement')} since.`;
    case 'storage-pending':
      return finding.by === 'job'
        ? `The pack was put to storage ${whenWords(finding.since, reader)}. Volts move after a job, so the pack counts as pending until it is read rested.`
        : `The pack should have brought itself to storage by ${whenWords(finding.since, reader)}; that is pending until it is read.`;
    case 'written-late':
      return `The storage clock ran out ${whenWords(finding.dueAt, reader)}; what ended it is dated ${whenWords(finding.at, reader)} and was written ${span(finding.recordedAt - finding.at)} later.`;
    case 'not-rested':
      return finding.condition === 'loaded'
        ? `The latest reading, ${whenWords(finding.at, reader)}, was under load; that decides neither storage nor spread.`
        : `The pack was still settling when it was read ${whenWords(finding.at, reader)}; those volts do not count yet.`;
    case 'damage-floor':
      return `${lowCell(finding.low)} rested at ${volts(finding.low.mv)} V ${whenWords(finding.low.at, reader)}, below the ${volts(finding.limitMv)} V damage floor: out of use. Nobody may charge or fly it.`;
    case 'over-discharged':
      return overDischarged(finding);
    case 'over-discharge-event':
      return overDischargeEvent(finding, reader);
    case 'recharge-soon':
      return finding.basis === 'read'
        ? `${lowCell(finding.low)} rests at ${volts(finding.low.mv)} V, under the ${volts(finding.limitMv)} V recharge-soon floor.`
        : finding.basis === 'used'
          ? `${lowCell(finding.low)} rested at ${volts(finding.low.mv)} V ${whenWords(finding.low.at, reader)}, under the ${volts(finding.limitMv)} V recharge-soon floor, and the pack was used since.`
          : `${lowCell(finding.low)} was left at about ${volts(finding.low.mv)} V ${whenWords(finding.low.at, reader)}, under the ${volts(finding.limitMv)} V recharge-soon floor, and was not read since.`;
    case 'overfull':
      return finding.severity === 'hold'
        ? `${overfullCell(finding, reader)} This chemistry is full at ${volts(finding.fullMv)} V; from ${volts(finding.holdFromMv)} V on the pack was charged as something it is not, and is on hold.`
        : `${overfullCell(finding, reader)} This chemistry is full at ${volts(finding.fullMv)} V.`;
    case 'storage-high':
      return `${restsAt(finding)}, above its storage band (${volts(finding.bandLowMv)}–${volts(finding.bandHighMv)} V), ${clockPhrase(finding, reader)}.`;
    case 'storage-low':
      return `${restsAt(finding)}, below its storage band (${volts(finding.bandLowMv)}–${volts(finding.bandHighMv)} V), ${clockPhrase(finding, reader)}.`;
    case 'spread':
      return spreadStatement(finding);
    case 'idle':
      return `The pack was last read ${whenWords(finding.lastReadAt, reader)}, ${span(reader.now - finding.lastReadAt)} ago; the rules say to ${finding.doing === 'cycle' ? 'cycle' : 'read'} an idle pack every ${finding.everyDays} days.`;
    case 'weak-cell':
      return `Cell ${finding.cell} rested ${finding.belowMv} mV below its siblings after its use, read ${whenWords(finding.at, reader)}; ${linesWords(finding.lines, finding.severity, ' mV')}.`;
    case 'cell-drift':
      return `Cell ${finding.cell} comes back from its uses ${Math.round(finding.percent)} % of charge further below its siblings than at first; over ${finding.limitPercent} % is a caution.`;
    case 'weakest-again':
      return weakestAgain(finding);
    case 'resistance-growth':
      return `Cell ${finding.cell} stands at ${ohms(finding.milliohm)}, ${times(finding.factor)} its own baseline of ${ohms(finding.against)}; ${linesWords(finding.lines, finding.severity, ' times')}.`;
    case 'resistance-siblings':
      return `Cell ${finding.cell} stands at ${ohms(finding.milliohm)}, ${times(finding.factor)} its siblings’ ${ohms(finding.against)}; ${linesWords(finding.lines, finding.severity, ' times')}.`;
    case 'resistance-jump':
      return `Cell ${finding.cell} jumped from ${ohms(finding.against)} to ${ohms(finding.milliohm)}, ${percentUp(finding.factor)} in one step; over ${finding.limitPercent} % is more often a bad contact than a bad cell.`;
    case 'capacity':
      return finding.severity === 'note'
        ? `The latest measurement says that the pack holds ${Math.round(finding.percent)} % of its label; those before do not. One measurement decides nothing.`
        : `The pack holds ${Math.round(finding.percent)} % of its label, by ${COUNTS[finding.agreeing] ?? finding.agreeing} of the latest measurements; ${linesWords(finding.lines, finding.severity, ' %')}.`;
    case 'run-time':
      return runTime(finding, reader);
    case 'long-full':
      return `The pack has ${Math.floor(finding.days)} full-charge days within a year, the longest from ${dayWords(finding.longestFrom, reader)} to ${dayWords(finding.longestTo, reader)}; from ${finding.limitDays} on that is a caution.`;
    case 'cycles':
      return `The pack went through ${Math.floor(finding.count)} full cycles; this chemistry is reviewed at ${finding.limit}.${
        finding.guessed > 0
          ? ` ${plural(finding.guessed, 'use')} had no charge noted and counted as a full one.`
          : ''
      }`;
    case 'age':
      return `The pack is in service for ${years(finding.years)}; at ${finding.dutyClass} duty a pack is reviewed after ${years(finding.limit)}.`;
    case 'hot-use':
      return hotUse(finding, reader);
    case 'hot-charge':
      return hotCharge(finding, reader);
    case 'wrong-setting':
      return `The ${JOB_NOUNS[finding.mode]} of ${whenWords(finding.at, reader)} was set for another pack: ${listed(finding.slips.map(slipWords))}.`;
    case 'charge-failed':
      return `${FAILED_WORDS[finding.how]} ${whenWords(finding.at, reader)}${finding.cell === null ? '' : `, cell ${finding.cell} ${finding.apartMv} mV below the highest`}, ${failedPasses(finding.passes)}; the rules say to retire it after ${finding.limit}.`;
    case 'charge-implausible':
      return implausible(finding, reader);
    case 'landed-low':
      return `The pack landed at ${volts(finding.mv)} V a cell under load ${whenWords(finding.at, reader)}, below ${volts(finding.limitMv)} V${again(finding.times, finding.ofFlights, 'flight')}.`;
    case 'unlogged':
      return finding.direction === 'charge'
        ? `The lowest cell read ${volts(finding.fromMv)} V ${whenWords(finding.fromAt, reader)} and ${volts(finding.toMv)} V ${whenWords(finding.toAt, reader)} with no charge logged between.`
        : `The lowest cell read ${volts(finding.fromMv)} V ${whenWords(finding.fromAt, reader)} and ${volts(finding.toMv)} V ${whenWords(finding.toAt, reader)} with no use or discharge logged between.`;
    case 'swollen':
      return swollen(finding, reader);
    case 'incident':
      return incidentStatement(finding, reader);
    case 'held-by-hand':
      return `The pack was put on hold by hand ${whenWords(finding.at, reader)}: ${finding.reason}`;
    case 'inspection-asked':
      return `The pack is to be inspected before its next use, asked for ${whenWords(finding.at, reader)}: ${finding.reason}`;
    case 'recovery':
      return recoveryStatement(finding, reader);
    case 'second-name':
      return `The pack was retired by one person ${whenWords(finding.at, reader)}; the rules want a second name under that.`;
    case 'inspection-failed':
      return `The pack failed its inspection: ${listed(finding.failures.map((failure) => failureWords(failure, reader)))}.`;
    case 'not-as-delivered':
      return notAsDelivered(finding);
    case 'long-rest':
      return `The pack was not used since ${dayWords(finding.since, reader)}; after ${finding.days} days at rest the rules say to inspect a pack before its next use.`;
    case 'baseline-missing':
      return `The pack is new, and its baseline lacks ${listed(finding.missing.map((what) => missingWords(what, finding.resistances)))}.`;
    case 'inspection-due':
      return finding.lastAt === null
        ? `The pack was never inspected; the rules say to inspect every ${finding.everyDays} days.`
        : `The pack was last inspected ${whenWords(finding.lastAt, reader)}; the rules say to inspect every ${finding.everyDays} days.`;
    case 'nimh-top-up':
      return `The pack was last charged ${whenWords(finding.lastAt, reader)}; the rules say to top a nickel pack up every ${finding.everyDays} days.`;
    default:
      return finding satisfies never;
  }
}

function overDischargeEvent(finding: Of<'over-discharge-event'>, reader: Reader): string {
  const { low, limitMv, readSince } = finding;
  const event = `${lowCell(low)} rested at ${volts(low.mv)} V ${whenWords(low.at, reader)}, under the ${volts(limitMv)} V over-discharge line`;
  return readSince
    ? `${event}; the lowest cell read ${volts(readSince.mv)} V ${whenWords(readSince.at, reader)}.`
    : `${event}.`;
}

function spreadStatement(finding: Of<'spread'>): string {
  const { mv, lowestCell, limits, socPercent } = finding;
  const apart = `Cell ${lowestCell} rests ${mv} mV below the highest`;
  if (mv > limits.retireMv && finding.balancedAt !== null)
    return `${apart}, though just balanced; over ${limits.retireMv} mV after balancing the rules say to retire a pack.`;
  if (mv > limits.retireMv)
    return `${apart}; the rules say to retire it over ${limits.retireMv} mV after balancing.`;
  if (mv > limits.watchMv) return `${apart}; over ${limits.watchMv} mV is a caution.`;
  if (finding.severity === 'watch') {
    return `${apart}, at least ${Math.floor(socPercent)} % of charge apart; over ${limits.watchSocPercent} % is a caution.`;
  }
  return `${apart}; up to ${limits.toleranceMv} mV is within tolerance.`;
}

function unmeasured({ why, since, lastReadAt }: Of<'unmeasured'>, reader: Reader): string {
  switch (why) {
    case 'never':
      return 'There is no rested reading of this pack yet, so nobody can say what it holds.';
    case 'used':
      return `The pack was used ${since === null ? '' : `${whenWords(since, reader)} `}and not read since, so nobody can say what it holds.`;
    case 'lapsed':
      return `The pack was ${lastReadAt === null ? 'not read for long' : `last read ${dayWords(lastReadAt, reader)}`}; its own leak may have taken it out of its storage band since.`;
    default:
      return why satisfies never;
  }
}

const MEASURED = { capacity: 'capacity', resistance: 'resistance' } as const;

const JOB_NOUNS: Readonly<Record<Of<'wrong-setting'>['mode'], string>> = {
  balance: 'charge',
  fast: 'charge',
  storage: 'storage job',
  discharge: 'discharge',
};

function rate(c: number): string {
  return `${Number(c.toFixed(1))}C`;
}

function everyCharge(every: number): string {
  return every === 1 ? 'at every charge' : `at every ${ORDINALS[every] ?? `${every}th`} charge`;
}

/** "; the third of twenty charges, two by the same person"; nothing the first time. */
function often(count: number, of: number, what: string, bySame: number): string {
  if (count < 2) return '';
  const same = bySame === count ? 'all by the same person' : `${COUNTS[bySame] ?? bySame} by the same person`;
  return `; that is ${COUNTS[count] ?? count} of the last ${plural(of, what)}, ${same}`;
}

function breachWords(breach: ChargeBreach): string {
  switch (breach.of) {
    case 'label-rate':
      return `${rate(breach.rateC)} where the label allows ${rate(breach.limitC)}`;
    case 'field-rate':
      return `${rate(breach.rateC)} where the rules allow ${rate(breach.limitC)} in the field`;
    case 'after-rest':
      return `${rate(breach.rateC)} as the first charge after a long rest, which is at most ${rate(breach.limitC)}`;
    case 'unrated':
      return `${rate(breach.rateC)} though the label states no rate, which means 1C at most`;
    case 'house-top':
      return `up to ${volts(breach.topMv)} V a cell where the rules stop at ${volts(breach.limitMv)} V`;
    case 'cold':
      return `at ${breach.celsius} °C where the rules charge nothing below ${breach.limitC} °C`;
    case 'warm-landing':
      return `${breach.minutes} min after a warm landing where ${breach.limitMinutes} are waited`;
    case 'felt-lukewarm':
      return 'lukewarm to the hand at no more than 1C';
    default:
      return breach satisfies never;
  }
}

function overDischarged({ low, school, severity, recoveryFromMv }: Of<'over-discharged'>): string {
  const event = `The pack was over-discharged to ${volts(low.mv)} V a cell`;
  if (school === 'retire') return `${event}: the rules say to retire such a pack. A custodian decides.`;
  if (severity === 'retire' && recoveryFromMv !== null)
    return `${event}. A supervised recovery wants every cell above ${volts(recoveryFromMv)} V, so the rules say to retire this one. A custodian decides.`;
  return `${event}: the rules allow a supervised recovery, by a custodian, if the cause is known and nothing is swollen.`;
}

function overfullCell({ cell, mv, at, when }: Of<'overfull'>, reader: Reader): string {
  return when === 'read'
    ? `Cell ${cell} read ${volts(mv)} V ${whenWords(at, reader)}.`
    : `Cell ${cell} stood at ${volts(mv)} V when the charge of ${whenWords(at, reader)} ended.`;
}

/**
 * What a pack holds while it was not read since: "charged to about 4.20 V a cell today 18:20, not read since".
 * @param mv millivolts of its fullest cell by now
 */
export function basisWords(basis: ContentsBasis, mv: number, since: number, reader: Reader): string {
  const when = whenWords(since, reader);
  switch (basis) {
    case 'read':
      return `Read ${when}.`;
    case 'charged':
      return `Charged to about ${aboutVolts(mv)} V a cell ${when}, not read since.`;
    case 'taper':
      return `Charged to about 90–95 % ${when}, taken off before the last of it, not read since.`;
    case 'filled':
      return `By what went in ${when} about ${aboutVolts(mv)} V a cell; not read since.`;
    case 'stored':
      return `Put to storage ${when}, not read since.`;
    case 'bled':
      return `It should have brought itself to storage by ${when}; not read since.`;
    case 'used':
      return `By what was used ${when} about ${aboutVolts(mv)} V a cell; not read since.`;
    default:
      return basis satisfies never;
  }
}

/** How the volts are known: read, or what the last charge left. */
function restsAt({ mv, basis }: Of<'storage-high' | 'storage-low'>): string {
  switch (basis) {
    case 'read':
      return `The pack rests at ${volts(mv)} V a cell`;
    case 'charged':
    case 'taper':
      return `The pack was charged to about ${aboutVolts(mv)} V a cell and not read since`;
    case 'filled':
    case 'used':
    case 'stored':
    case 'bled':
      return `The pack should rest at about ${aboutVolts(mv)} V a cell and was not read since`;
    default:
      return basis satisfies never;
  }
}

/** Carried volts to the hundredth: more would pretend to know. */
function aboutVolts(mv: number): string {
  return volts(Math.round(mv / 10) * 10);
}

function runTime({ percent, craft, lines, severity, stepAt }: Of<'run-time'>, reader: Reader): string {
  const shorter = `The pack flies ${Math.round(percent)} % shorter on the same charge than at first, on ${craft}`;
  return stepAt !== null && severity === 'watch'
    ? `${shorter}, all at once from ${dayWords(stepAt, reader)} on: that is a change to the craft more often than one in the pack.`
    : `${shorter}; ${linesWords(lines, severity, ' %')}.`;
}

function hotCharge({ celsius, felt, at, severity, limits }: Of<'hot-charge'>, reader: Reader): string {
  const heat =
    felt === 'hot' ? 'was too hot to touch' : felt === 'warm' ? 'felt warm' : `reached ${celsius} °C`;
  const event = `The pack ${heat} while it charged ${whenWords(at, reader)}`;
  if (severity === 'hold')
    return celsius !== null && celsius > limits.chargeHoldC
      ? `${event}; over ${limits.chargeHoldC} °C the rules hold a pack. A lithium pack should be barely warm.`
      : `${event}; a lithium pack should be barely warm, so the rules hold it.`;
  return celsius !== null && celsius > limits.nimhChargeC
    ? `${event}; over ${limits.nimhChargeC} °C a nickel pack is stopped and cools.`
    : felt === 'hot'
      ? `${event}: it is stopped and cools.`
      : `${event}; over ${limits.chargeWatchC} °C is a caution.`;
}

function clockPhrase({ clock }: Of<'storage-high' | 'storage-low'>, reader: Reader): string {
  return `for ${outFor(clock.since, reader)} of ${clock.allowanceHours} h allowed: ${dueWords(clock.dueAt, reader)}`;
}

/** "Cell 3", or the average of a pack whose cells cannot be read one by one. */
function lowCell(low: LowCell): string {
  return low.cell === null ? 'The average cell' : `Cell ${low.cell}`;
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
  if (timesAgain === 0) return `${now}; from ${limits.times} in ${limits.inCharges} it is a caution.`;
  return `${now}, ${plural(timesAgain, 'time')} since it was put on caution; the rules say to retire it after ${limits.times} more.`;
}

function hotUse(
  { celsius, at, times: count, ofFlights, severity, limits }: Of<'hot-use'>,
  reader: Reader,
): string {
  const hot =
    celsius === null
      ? `The pack was too hot to touch after its flight of ${whenWords(at, reader)}`
      : `The pack reached ${celsius} °C in use ${whenWords(at, reader)}`;
  return severity === 'hold'
    ? `${hot}; over ${limits.useHoldC} °C the rules hold it for inspection.`
    : `${hot}${again(count, ofFlights, 'flight')}; over ${limits.useWatchC} °C is a caution.`;
}

function implausible(
  { oddity, value, expected, at, readSince, severity }: Of<'charge-implausible'>,
  reader: Reader,
): string {
  const charge = `The charge of ${whenWords(at, reader)}`;
  switch (oddity) {
    case 'too-fast':
      return `${charge} finished in ${Math.round(value)} min where about ${Math.round(expected)} were to be expected: a wrong setting or a dying pack. ${readSince ? 'The pack was read since; its capacity is still to be seen.' : 'The pack is read, and its capacity seen, before it flies.'}`;
    case 'too-long':
      return `${charge} ran ${Math.round(value)} min where about ${Math.round(expected)} were to be expected: wrong mode, or an imbalance that will not close.`;
    case 'too-much':
      return severity === 'hold'
        ? `${charge} put in ${Math.round(value)} mAh where there was room for ${Math.round(expected)}: overcharged, or a wrong figure in the log. The pack lies outdoors overnight.`
        : `${charge} put in ${Math.round(value)} mAh where there was room for about ${Math.round(expected)}.`;
    default:
      return oddity satisfies never;
  }
}

function swollen(finding: Of<'swollen'>, reader: Reader): string {
  const { swelling, thicknessMm, baselineMm, percent, severity, limits } = finding;
  const felt = swelling ? `The pack was swollen, ${swelling} to the thumb,` : 'The pack was found swollen';
  const measured =
    percent === null
      ? thicknessMm === null
        ? ''
        : `${thicknessMm} mm thick`
      : `${thicknessMm} mm thick, ${Math.round(percent * 10) / 10} % more than its ${baselineMm} mm baseline`;
  const when = whenWords(finding.at, reader);
  if (severity === 'watch')
    return `The pack measured ${measured} ${when}; from ${limits.watchPercent} % on it is a caution.`;
  if (percent !== null && percent >= limits.holdPercent)
    return `The pack measured ${measured} ${when}; from ${limits.holdPercent} % on it is on hold.`;
  return `${felt} ${when}${measured && `, ${measured}`}: out of use. Nobody charges, presses or pierces the pack.`;
}

function incidentStatement(finding: Of<'incident'>, reader: Reader): string {
  const { kind, at, watchUntil, endedEarly, deformed, afterCrash } = finding;
  const what = `${INCIDENT_WORDS[kind].name}, ${whenWords(at, reader)}: out of use.`;
  if (deformed.length > 0)
    return `${what} A look after that found the pack out of shape (${listed(deformed.map(lowered))}): the rules say to retire such a pack.`;
  if (!INCIDENT_FACTS[kind].mayReturn) return `${what} What burnt or leaked does not fly again.`;
  if (kind === 'crash' && afterCrash === 'retire')
    return `${what} The rules say to retire every crashed pack.`;
  if (watchUntil === null) return what;
  if (reader.now < watchUntil)
    return `${what} The pack is in quarantine until ${whenWords(watchUntil, reader)}.`;
  return endedEarly ? `${what} The quarantine was ended early.` : `${what} The quarantine is over.`;
}

function recoveryStatement({ how, at, endsAt }: Of<'recovery'>, reader: Reader): string {
  switch (how) {
    case 'running':
      return `A supervised recovery runs since ${whenWords(at, reader)}; the charge must end by ${whenWords(endsAt, reader)}, or at any warmth.`;
    case 'reached':
      return `The pack was brought up by a supervised recovery ${whenWords(at, reader)}; such a pack stays on caution for life.`;
    case 'warm':
      return `The pack got warm in a supervised recovery ${whenWords(at, reader)}: the rules say to retire such a pack.`;
    case 'time':
      return `The pack did not come up within the time of a supervised recovery ${whenWords(at, reader)}: the rules say to retire such a pack.`;
    case 'given-up':
      return `A supervised recovery was given up ${whenWords(at, reader)}: the rules say to retire such a pack.`;
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
  const read = `The pack came at ${volts(lowestMv)}${highestMv === lowestMv ? '' : `–${volts(highestMv)}`} V a cell`;
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
  'ends-apart': 'The balance charge ended with its cells apart',
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

/** "over 1.5 times is a caution": the line that was reached. */
function linesWords(lines: Lines, severity: Finding['severity'], unit: string): string {
  return severity === 'retire'
    ? `at ${lines.retire}${unit} the rules say to retire a pack`
    : `at ${lines.watch}${unit} it is a caution`;
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
