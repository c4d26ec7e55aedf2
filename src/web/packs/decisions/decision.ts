import type { PackTypeAnswer } from '../../../contract';
import type { Assessment } from '../../../core/assess';
import { ageYears, cycles } from '../../../core/health';
import type { HealthReport } from '../../../core/health';
import type { Instant } from '../../../core/measure';
import type { PackHistory } from '../../../core/record';
import type { HouseRules } from '../../../core/rules';
import { carriedForward, exposureByHolder, storageEvidence } from '../../../core/storage';
import { restedReadings } from '../../../core/assess';
import { MEASURE_TITLES, measureValue } from '../../../core/wording';

/** What speaks for a pack: every measure that stands clear of the line it is a caution from. */
export function inFavour({ measures }: Pick<HealthReport, 'measures'>): readonly string[] {
  return measures.flatMap((measure) => {
    const last = measure.points.at(-1);
    if (!last || measure.watch === null) return [];
    const clear = measure.direction === 'rising' ? last.value < measure.watch : last.value > measure.watch;
    if (!clear) return [];
    const value = measureValue(measure, last.value);
    return [`${MEASURE_TITLES[measure.id]}: ${value}, caution from ${measureValue(measure, measure.watch)}.`];
  });
}

interface CostLine {
  readonly name: string;
  readonly value: string;
}

/** What a pack has cost for what it gave, how old it is, how long it stood full, and what another would cost. */
export function costLines(
  history: PackHistory,
  { contents }: Pick<Assessment, 'contents'>,
  { price }: Pick<PackTypeAnswer, 'price'>,
  rules: HouseRules,
  now: Instant,
): readonly CostLine[] {
  const flights = history.flights.length;
  const { count } = cycles(history, rules.flight.maxDodPercent);
  const years = ageYears(history, now);
  const { rested } = restedReadings(history, rules);
  const stretches = carriedForward(history.pack, storageEvidence(history, rested), rules, now);
  const fullDays = exposureByHolder(history, stretches, rules).reduce((sum, { days }) => sum + days, 0);
  const each = (of: number) => (price === null || of === 0 ? '–' : (price / of).toFixed(2));
  return [
    { name: 'Uses', value: String(flights) },
    { name: 'Full cycles', value: String(Math.round(count)) },
    { name: 'Price a use', value: each(flights) },
    { name: 'Price a cycle', value: each(count) },
    { name: 'Age, years', value: years === null ? '–' : years.toFixed(1) },
    { name: 'Full-charge days', value: fullDays.toFixed(1) },
    { name: 'Charge now', value: contents ? `${Math.round(contents.lowest.percent)} %` : '–' },
    { name: 'Another costs', value: price === null ? 'no price noted' : price.toFixed(2) },
  ];
}
