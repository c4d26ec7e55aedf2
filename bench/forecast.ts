import { assess, restedReadings } from '../src/core/assess';
import { measure } from '../src/core/health';
import type { Forecast } from '../src/core/health';
import { foretold, outlooks, siblingsOf, wearShown } from '../src/core/health/outlook';
import type { Siblings } from '../src/core/health/outlook';
import { DAY_MS } from '../src/core/measure';
import type { Instant } from '../src/core/measure';
import { fold } from '../src/core/record';
import { PRESET_RULES } from '../src/core/rules';
import { START } from '../src/core/testing/histories';
import { fleetOf, livesOf, SHAPES } from './lives';
import type { Life, Shape } from './lives';
import { say } from './measure';

const LIVES = Number(process.env.LIVES ?? 16);
const SEED = Number(process.env.SEED ?? 31);
const AHEAD_DAYS = [30, 90, 180] as const;
const RULES = PRESET_RULES['even-keel'];
const MEASURES = ['capacity', 'resistance'] as const;
type MeasureId = (typeof MEASURES)[number];

/** What a shape's forecasts came to. */
class Score {
  readonly inside = new Map<number, number>();
  readonly stated = new Map<number, number>();
  readonly errors = new Map<number, number[]>();
  readonly tooEarly = new Map<number, number>();
  readonly asked = new Map<number, number>();
  readonly issued = new Map<number, { inside: number; of: number }>();
  months = 0;
  falseAlarms = 0;
  dyingMonths = 0;
  missed = 0;
}

const add = (map: Map<number, number>, key: number, by = 1) => map.set(key, (map.get(key) ?? 0) + by);

/** How often a forecast's range holds the truth, by shape and by two scorings, and what the rules miss or hold wrongly. */
export function benchForecast(): void {
  const scores = new Map(SHAPES.map((shape) => [shape, new Score()]));
  for (const shape of SHAPES) {
    for (const life of livesOf(shape, LIVES, SEED)) {
      scoreBeforeCrossings(life, scores.get(shape)!);
      scoreIssued(life, scores.get(shape)!);
      scoreVerdicts(life, scores.get(shape)!);
    }
  }
  for (const [shape, score] of scores) tell(shape, score);
  tell('all shapes', summed([...scores.values()]));
  for (const shape of ['straight', 'sparse', 'knee'] as const) benchSiblings(shape);
}

const TYPES = 12;
const ELDERS = 5;
const YOUNG_DAYS = 150;

/** What older packs of the type add to a young pack's forecast: five elders of two and a half years, one pack of 150 days. */
function benchSiblings(shape: Shape): void {
  const errors = { alone: [] as number[], borrowing: [] as number[] };
  const inside = { alone: 0, borrowing: 0 };
  let of = 0;
  for (let type = 0; type < TYPES; type++) {
    const [young, ...elders] = fleetOf(shape, ELDERS + 1, SEED + type * 101);
    const then = START + 900 * DAY_MS;
    const shown = elders.flatMap((elder) => {
      const { history, followed } = followedAt(elder, then);
      return wearShown(history, followed);
    });
    const now = START + YOUNG_DAYS * DAY_MS;
    const said = { alone: saidAt(young!, now), borrowing: saidAt(young!, now, siblingsOf(shown)) };
    for (const id of MEASURES) {
      const truth = young!.crossed[id];
      if (truth === null || truth <= now) continue;
      const [alone, borrowing] = [said.alone.get(id), said.borrowing.get(id)];
      if (!alone || !borrowing) continue;
      of += 1;
      for (const [key, forecast] of [
        ['alone', alone],
        ['borrowing', borrowing],
      ] as const) {
        if (holds(forecast, truth, now)) inside[key] += 1;
        errors[key].push(
          forecast.state === 'range' ? Math.abs(forecast.expected - truth) / DAY_MS : Infinity,
        );
      }
    }
  }
  const middle = (list: readonly number[]) => [...list].sort((a, b) => a - b)[list.length >> 1]?.toFixed(0);
  say(
    `A young pack among elders, ${shape}`,
    `median error ${middle(errors.borrowing)} d, inside ${inside.borrowing} of ${of}`,
    `by itself ${middle(errors.alone)} d, inside ${inside.alone} of ${of}`,
  );
}

/** Asked so many days before a true crossing. A knee or step that has not begun cannot be foretold, and is left out. */
function scoreBeforeCrossings(life: Life, score: Score): void {
  for (const id of MEASURES) {
    const truth = life.crossed[id];
    if (truth === null || life.shape === 'dying cell') continue;
    for (const days of AHEAD_DAYS) {
      const now = truth - days * DAY_MS;
      if (now < START + 60 * DAY_MS || (life.turnedAt !== null && life.turnedAt > now)) continue;
      const said = saidAt(life, now).get(id);
      if (!said) continue;
      add(score.asked, days);
      if (said.state === 'crossed') add(score.tooEarly, days);
      add(score.stated, days);
      if (holds(said, truth, now)) add(score.inside, days);
      if (said.state === 'range') {
        const list = score.errors.get(days) ?? [];
        list.push(Math.abs(said.expected - truth) / DAY_MS);
        score.errors.set(days, list);
      }
    }
  }
}

/** Every forecast issued, by what it said: its expected crossing puts it near 30, 90 or 180 days. */
function scoreIssued(life: Life, score: Score): void {
  if (life.shape === 'dying cell') return;
  for (let now = START + 120 * DAY_MS; now < life.until - 30 * DAY_MS; now += 60 * DAY_MS) {
    const said = saidAt(life, now);
    for (const id of MEASURES) {
      const forecast = said.get(id);
      const truth = life.crossed[id];
      if (forecast?.state !== 'range' || (truth !== null && truth <= now)) continue;
      if (life.turnedAt !== null && life.turnedAt > now) continue;
      const away = (forecast.expected - now) / DAY_MS;
      const bin = away < 60 ? 30 : away < 130 ? 90 : away < 250 ? 180 : null;
      if (bin === null) continue;
      // What lies beyond the life that was drawn is neither right nor wrong.
      if (truth === null && (forecast.latest ?? Infinity) > life.until) continue;
      const sum = score.issued.get(bin) ?? { inside: 0, of: 0 };
      sum.of += 1;
      if (truth !== null && holds(forecast, truth, now)) sum.inside += 1;
      score.issued.set(bin, sum);
    }
  }
}

function holds(said: Forecast, truth: Instant, now: Instant): boolean {
  if (said.state !== 'range') return false;
  return (
    truth >= Math.min(said.earliest, now + DAY_MS) - DAY_MS &&
    said.earliest <= truth &&
    truth <= (said.latest ?? Infinity)
  );
}

function saidAt(life: Life, now: Instant, siblings?: Siblings): ReadonlyMap<MeasureId, Forecast> {
  const { followed } = followedAt(life, now, siblings);
  return new Map(followed.map((one) => [one.measure, foretold(one, now).toWatch]));
}

function followedAt({ facts, records }: Life, now: Instant, siblings?: Siblings) {
  const history = fold(
    facts,
    records.filter(({ at }) => at <= now),
  );
  const { rested } = restedReadings(history, RULES);
  const measured = measure(history, rested, RULES, now);
  return { history, followed: outlooks(history, measured, RULES, siblings) };
}

function scoreVerdicts(life: Life, score: Score): void {
  for (let now = START + 60 * DAY_MS; now <= life.until; now += 30 * DAY_MS) {
    const history = fold(
      life.facts,
      life.records.filter(({ at }) => at <= now),
    );
    const { verdict } = assess(history, RULES, now);
    const dying = life.dyingFrom !== null && now > life.dyingFrom + 60 * DAY_MS;
    const ends = Object.values(life.retired);
    const worn = ends.some((at) => at !== null && now > at - 30 * DAY_MS);
    if (dying) {
      score.dyingMonths += 1;
      if (verdict === 'fit') score.missed += 1;
      continue;
    }
    if (life.dyingFrom !== null && now > life.dyingFrom) continue;
    score.months += 1;
    if (!worn && (verdict === 'hold' || verdict === 'retire-advised')) {
      score.falseAlarms += 1;
      if (process.env.WHY)
        console.log(
          life.shape,
          assess(history, RULES, now)
            .findings.filter(({ severity }) => severity === 'retire' || severity === 'hold')
            .map(({ rule }) => rule)
            .join(),
        );
    }
  }
}

function summed(scores: readonly Score[]): Score {
  const all = new Score();
  for (const one of scores) {
    for (const key of ['inside', 'stated', 'tooEarly', 'asked'] as const)
      for (const [days, count] of one[key]) add(all[key], days, count);
    for (const [days, errors] of one.errors)
      all.errors.set(days, [...(all.errors.get(days) ?? []), ...errors]);
    for (const [days, { inside, of }] of one.issued) {
      const sum = all.issued.get(days) ?? { inside: 0, of: 0 };
      all.issued.set(days, { inside: sum.inside + inside, of: sum.of + of });
    }
    all.months += one.months;
    all.falseAlarms += one.falseAlarms;
    all.dyingMonths += one.dyingMonths;
    all.missed += one.missed;
  }
  return all;
}

function tell(shape: Shape | 'all shapes', score: Score): void {
  const share = (part: number, of: number) => (of === 0 ? '–' : `${((part / of) * 100).toFixed(0)}`);
  const row = (of: (days: number) => string) => AHEAD_DAYS.map(of).join(' / ');
  const median = (list: readonly number[]) =>
    [...list].sort((a, b) => a - b)[list.length >> 1]?.toFixed(0) ?? '–';
  const perThousand = (count: number, of: number) => (of === 0 ? '–' : ((count / of) * 1000).toFixed(1));
  say(
    `Forecasts, ${shape}`,
    `before crossings ${row((days) => share(score.inside.get(days) ?? 0, score.stated.get(days) ?? 0))} %`,
    `issued ${row((days) => share(score.issued.get(days)?.inside ?? 0, score.issued.get(days)?.of ?? 0))} % of ${row((days) => String(score.issued.get(days)?.of ?? 0))}, median error ${row((days) => median(score.errors.get(days) ?? []))} d, crossed too early ${row((days) => share(score.tooEarly.get(days) ?? 0, score.asked.get(days) ?? 0))} %, false holds ${perThousand(score.falseAlarms, score.months)}${score.dyingMonths > 0 ? `, dying called fit ${perThousand(score.missed, score.dyingMonths)}` : ''} per 1,000 months`,
  );
}
