import type { Course, Forecast, HealthReport, Measure, MeasureId } from '../health';
import type { NextUseAdvice } from '../storage';
import { DAY_MS } from '../measure';
import type { Instant } from '../measure';
import { plural } from './figures';
import { dayWords, dueWords, span, whenWords } from './time';
import type { Reader } from './time';

export const MEASURE_TITLES: Readonly<Record<MeasureId, string>> = {
  spread: 'Spread at rest',
  resistance: 'Resistance at 25 °C',
  capacity: 'Capacity against its label',
  'run-time': 'Flight time for each Ah',
  temperature: 'Hottest in use',
  cycles: 'Full cycles',
  age: 'Age in service',
};

/**
 * A value of a measure with its unit.
 * @example measureValue({ id: 'resistance', unit: 'mΩ' }, 4.234) // => "4.23 mΩ"
 * @example measureValue({ id: 'spread', unit: 'mV' }, 12) // => "12 mV"
 */
export function measureValue({ id, unit }: Pick<Measure, 'id' | 'unit'>, value: number): string {
  if (unit === '×') return `× ${value.toFixed(2)}`;
  const decimals: Readonly<Record<MeasureId, number>> = {
    spread: 0,
    resistance: value >= 20 ? 1 : 2,
    capacity: 0,
    'run-time': 2,
    temperature: 0,
    cycles: 0,
    age: 1,
  };
  return `${value.toFixed(decimals[id])} ${unit}`;
}

/** The same in the middle of a sentence. */
const NOUNS: Readonly<Record<MeasureId, string>> = {
  spread: 'its spread',
  resistance: 'its resistance',
  capacity: 'its capacity',
  'run-time': 'its flight time',
  temperature: 'its temperature',
  cycles: 'its cycle count',
  age: 'its age',
};

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/**
 * A far day, as far as a forecast goes: its month.
 * @example monthWords(1_800_000_000_000) // => "Jan 2027"
 */
export function monthWords(at: Instant): string {
  const date = new Date(at);
  return `${MONTHS[date.getUTCMonth()]} ${date.getUTCFullYear()}`;
}

/** Near crossings to the week, farther ones to the month. */
const NEAR_MS = 60 * DAY_MS;

/** A range wider than this is told in months: days would pretend to know. */
const NARROW_MS = 120 * DAY_MS;

/** A pace shows a figure that says something: "0.4 % a month" rather than "0 %". */
function paceWords({ unit }: Measure, value: number): string {
  return `${Number(value.toPrecision(2))} ${unit === '×' ? 'times' : unit}`;
}

function aboutWhen(at: Instant, reader: Reader): string {
  const away = at - reader.now;
  return away < NEAR_MS
    ? `in about ${plural(Math.max(1, Math.round(away / (7 * DAY_MS))), 'week')}`
    : `about ${monthWords(at)}`;
}

/** From this likelihood on it is worth saying that a line may have been crossed unseen. */
const PERHAPS_ALREADY = 0.25;

function isPerhapsAlready(forecast: Forecast): boolean {
  return forecast.state === 'range' && (forecast.alreadyShare ?? 0) >= PERHAPS_ALREADY;
}

/** When a measure crosses its line, honestly. */
export function forecastWords(forecast: Forecast, reader: Reader): string {
  switch (forecast.state) {
    case 'not-enough':
      return `not enough data to say (${forecast.count} of ${plural(forecast.wanted, 'value')})`;
    case 'crossed':
      return 'crossed';
    case 'not-in-sight':
      return 'not in sight';
    case 'range': {
      const { earliest, expected, latest } = forecast;
      if (isPerhapsAlready(forecast)) {
        const otherwise =
          latest === null ? ', perhaps never' : `, four times in five by ${monthWords(latest)}`;
        return `perhaps already; if not, ${aboutWhen(expected, reader)}${otherwise}`;
      }
      if (latest !== null && latest - earliest <= NARROW_MS && latest > earliest)
        return `four times in five between ${dayWords(earliest, reader)} and ${dayWords(latest, reader)}, most likely about ${dayWords(expected, reader)}`;
      const about = aboutWhen(expected, reader);
      if (latest === null) return `${about}, not before ${monthWords(earliest)}, perhaps never`;
      const [from, to] = [monthWords(earliest), monthWords(latest)];
      return from === to ? about : `${about}, four times in five between ${from} and ${to}`;
    }
    default:
      return forecast satisfies never;
  }
}

/** Where a measure is going: its pace, and when it crosses its lines. */
export function trendSentence(measure: Measure, reader: Reader): string {
  const { trend, toWatch, toRetire, watch, retire, id } = measure;
  if (measure.course) return courseSentence(measure, measure.course, reader);
  if (id === 'age') return toWatch ? `To be reviewed: ${forecastWords(toWatch, reader)}.` : '';
  if (!trend.enough)
    return `Not enough data for a trend: ${trend.count} of ${plural(trend.wanted, 'value')}.`;
  const aMonth = trend.perDay * 30;
  const flat = trend.perDayLow <= 0 && trend.perDayHigh >= 0;
  const pace = flat
    ? 'Steady.'
    : `${aMonth > 0 ? 'Rising' : 'Falling'} ${paceWords(measure, Math.abs(aMonth))} a month.`;
  const lines = [
    watch !== null && toWatch
      ? `Caution at ${measureValue(measure, watch)}: ${forecastWords(toWatch, reader)}.`
      : '',
    retire !== null && toRetire
      ? `Retire at ${measureValue(measure, retire)}: ${forecastWords(toRetire, reader)}.`
      : '',
  ];
  return [pace, ...lines].filter(Boolean).join(' ');
}

/** Longer ago than this, a measurement's age is the first thing to say. */
const OLD_MS = 90 * DAY_MS;
const FEW = 6;

/** Where a measure goes by the filter that follows it: how old and how many its values are, whether its pace changed, when it crosses. */
function courseSentence(measure: Measure, course: Course, reader: Reader): string {
  const { toWatch, toRetire, watch, retire } = measure;
  const { count, firstAt, lastAt, changed, siblings } = course;
  const age = reader.now - lastAt;
  const known = `${plural(count, 'measurement')} in ${span(Math.max(DAY_MS, lastAt - firstAt))}, the last ${age < DAY_MS ? 'today' : `${span(age)} ago`}`;
  const line = (at: number | null, forecast: Forecast | null, what: string) =>
    at !== null && forecast
      ? `${what} at ${measureValue(measure, at)}: ${forecastWords(forecast, reader)}.`
      : '';
  return [
    age > OLD_MS ? `Not measured for ${span(age)}.` : '',
    changed
      ? `${changed.how === 'step' ? 'It changed at a stroke about' : 'It wears faster since about'} ${dayWords(changed.at, reader)}; ${plural(changed.seen, 'measurement')} since.`
      : '',
    count < FEW
      ? `Only ${known}: what cannot be known yet is a wide range.`
      : `${known.charAt(0).toUpperCase()}${known.slice(1)}.`,
    siblings > 0 ? `It borrows from ${plural(siblings, 'pack')} of its type and duty.` : '',
    line(watch, toWatch, 'Caution'),
    line(retire, toRetire, 'Retire'),
  ]
    .filter(Boolean)
    .join(' ');
}

/** When the pack is expected to be done, and what decides it. */
export function retirementSentence({ measures, retirement }: HealthReport, reader: Reader): string {
  if (!retirement) {
    return measures.some(({ trend, course }) => trend.enough || course !== null)
      ? 'No line that ends a pack is in sight.'
      : 'Not enough data to forecast its end.';
  }
  const what = NOUNS[retirement.because];
  const { forecast } = retirement;
  const asks = retirement.because === 'age' || retirement.because === 'cycles' ? 'Review' : 'Retirement';
  return forecast.state === 'crossed'
    ? `${asks} due now, by ${what}.`
    : `By ${what}, ${asks.toLowerCase()} ${isPerhapsAlready(forecast) ? 'due' : 'expected'} ${forecastWords(forecast, reader)}.`;
}

/** What the next flying day makes of a pack's storage. */
export function nextUseWords(said: NextUseAdvice, reader: Reader): string {
  switch (said.advice) {
    case 'leave-charged':
      return `Leave it charged: it flies in ${span(said.until - reader.now)} (${whenWords(said.until, reader)}), within its allowance.`;
    case 'put-to-storage':
      return `Put it to storage, ${dueWords(said.by, reader)}.`;
    case 'charge-before':
      return `Leave it stored; charge it from ${whenWords(said.from, reader)}.`;
    case 'leave-stored':
      return 'Leave it stored.';
    case 'measure-first':
      return 'Measure it first.';
    case 'no-rule':
      return 'No storage voltage: keep it cool, and top it up by the calendar.';
    default:
      return said satisfies never;
  }
}
