import type { PackDetails, PackTypeAnswer } from '../../contract';
import { restedReadings } from '../../core/assess';
import { isLithium } from '../../core/chemistry';
import type { Chemistry } from '../../core/chemistry';
import { measure, median, resistanceAt25, currentValue } from '../../core/health';
import type { PackHistory } from '../../core/record';
import type { HouseRules } from '../../core/rules';
import { contentsMv } from '../../core/storage';
import type { Contents } from '../../core/storage';
import { volts } from '../../core/wording';
import type { BenchDraft } from './sums';

/** A bench with nothing on it but the house's own figures. */
export function emptyBench(rules: HouseRules, chemistry: Chemistry = 'lipo'): BenchDraft {
  return {
    chemistry,
    series: '4',
    capacity: '',
    cells: '',
    milliohm: '',
    houseC: String(rules.charge.homeC),
    labelC: '',
    channelA: '',
    channelW: '',
    stepA: '0.1',
    topV: isLithium(chemistry) ? volts(rules.topMv[chemistry]) : '1.5',
    balanceA: '0.3',
    dischargeA: '',
    dischargeW: '',
    flies: '',
    averageA: '',
    deepest: String(rules.flight.maxDodPercent),
    dropMv: '',
    continuousC: '',
    sustainedA: '',
    punchA: '',
    hoverA: '',
    baseline: '',
    boardPacks: '',
    apartMv: '',
    supplyW: '',
    fieldWh: '',
    lampV: '',
    loadOhm: '',
    loadW: '',
    flightMin: '',
    coolMin: String(rules.heat.coolMinutes),
    chargeMin: '',
    benchChannels: '',
    handlingMin: '5',
    dayHours: '',
    fieldPackWh: '',
    usablePercent: '80',
    refillWh: '',
    fieldPrice: '',
    packPrice: '',
  };
}

/** The bench laid out for a pack: its label, and where something was measured, the measured figure when it is the safer. */
export function benchFor(
  type: PackTypeAnswer,
  history: PackHistory,
  rules: HouseRules,
  bench: BenchDraft,
): BenchDraft {
  const { rested } = restedReadings(history, rules);
  const latest = rested.at(-1);
  const { capacityMah, carried } = measure(history, rested, rules, history.lastRecordAt ?? 0);
  const at25 = history.resistances.map(({ irMilliohm, temperatureC }) =>
    median(irMilliohm.map((milliohm) => resistanceAt25(milliohm, temperatureC))),
  );
  const averages = history.flights.flatMap(({ usedMah, minutes }) =>
    usedMah && minutes ? [(usedMah / 1000 / minutes) * 60] : [],
  );
  return {
    ...bench,
    chemistry: type.chemistry,
    series: String(type.series),
    capacity: String(Math.round(capacityMah)),
    cells: cellsNow(type, latest?.cellsMv ?? null, carried.contents)
      .map(volts)
      .join(' '),
    milliohm: figure(currentValue(at25.map((value) => ({ at: 0, value, records: [] })))?.value),
    labelC: figure(type.chargeC),
    topV: isLithium(type.chemistry) ? volts(rules.topMv[type.chemistry]) : '1.5',
    averageA: averages.length > 0 ? figure(median(averages.slice(-10))) : '',
    continuousC: figure(type.continuousC),
    baseline: at25.length >= 3 ? figure(median(at25.slice(0, 3))) : '',
  };
}

/** The cells as read, or as what happened since has left them: after a charge the older reading is history. */
function cellsNow(
  { chemistry }: PackTypeAnswer,
  read: readonly number[] | null,
  contents: Contents | null,
): readonly number[] {
  if (!contents || contents.basis === 'read' || !isLithium(chemistry))
    return contents || !isLithium(chemistry) ? (read ?? []) : [];
  return contentsMv(chemistry, contents).map((mv) => Math.round(mv / 10) * 10);
}

function figure(value: number | null | undefined): string {
  return value === null || value === undefined ? '' : String(Number(value.toPrecision(3)));
}

/** What was measured rather than read from the label, for saying so. */
export function measuredNote(details: PackDetails, type: PackTypeAnswer, draft: BenchDraft): string {
  const capacity = Number(draft.capacity);
  return capacity < type.capacityMah
    ? `${details.tag}: capacity as last measured, ${Math.round((capacity / type.capacityMah) * 100)} % of its label.`
    : `${details.tag}: capacity by its label; nothing smaller was measured.`;
}
