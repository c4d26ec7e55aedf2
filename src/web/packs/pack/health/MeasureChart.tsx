import {
  Area,
  ComposedChart,
  Line,
  ReferenceLine,
  ResponsiveContainer,
  Scatter,
  XAxis,
  YAxis,
} from 'recharts';
import { trendBand } from '../../../../core/health';
import type { Measure } from '../../../../core/health';
import { DAY_MS } from '../../../../core/measure';
import type { Instant } from '../../../../core/measure';
import { MEASURE_TITLES, monthWords } from '../../../../core/wording';

/** One measure over time: its values, baseline, watch and retire lines, and the band its forecasts are read from. */
export function MeasureChart({ measure, now }: { measure: Measure; now: Instant }) {
  const { points, cells, baseline, watch, retire } = measure;
  const from = points[0]!.at;
  const until = horizon(measure, now);
  const band = bandOf(measure, now, until);
  const ticks = niceTicks(...range(measure, band));
  const data = [
    ...points.map((point, i) => ({
      at: point.at,
      value: point.value,
      ...Object.fromEntries(cells.map((cell, c) => [`cell${c + 1}`, cell[i]?.value])),
    })),
    ...band,
  ].sort((a, b) => a.at - b.at);
  return (
    <div
      role="img"
      aria-label={`${MEASURE_TITLES[measure.id]} over time; the figures follow.`}
      className="h-52"
    >
      <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 520, height: 208 }}>
        <ComposedChart
          accessibilityLayer={false}
          data={data}
          margin={{ top: 8, right: 56, bottom: 0, left: 0 }}
        >
          <XAxis
            dataKey="at"
            type="number"
            domain={[from, until]}
            tickFormatter={monthWords}
            tickCount={5}
            minTickGap={40}
            tick={TICK}
            stroke="var(--rule)"
          />
          <YAxis
            type="number"
            domain={[ticks[0]!, ticks.at(-1)!]}
            ticks={ticks}
            tick={TICK}
            stroke="var(--rule)"
            width={44}
            tickFormatter={tickWords}
            allowDataOverflow
          />
          <Area
            dataKey="band"
            stroke="none"
            fill="var(--used)"
            fillOpacity={0.45}
            isAnimationActive={false}
            connectNulls
          />
          <Line
            dataKey="line"
            stroke="var(--ink)"
            strokeDasharray="2 3"
            dot={false}
            isAnimationActive={false}
            connectNulls
          />
          {cells.length > 1 &&
            cells.map((_, c) => (
              <Line
                key={c}
                dataKey={`cell${c + 1}`}
                stroke="var(--rule)"
                strokeWidth={1}
                dot={false}
                isAnimationActive={false}
                connectNulls
              />
            ))}
          <Scatter dataKey="value" fill="var(--ink)" shape={dot} isAnimationActive={false} />
          {baseline !== null && (
            <ReferenceLine
              y={baseline}
              stroke="var(--rule)"
              strokeDasharray="6 4"
              label={named('baseline', 'var(--faint)')}
            />
          )}
          {watch !== null && (
            <ReferenceLine
              y={watch}
              stroke="var(--amber)"
              strokeWidth={1.5}
              label={named('watch', 'var(--amber)')}
            />
          )}
          {retire !== null && (
            <ReferenceLine
              y={retire}
              stroke="var(--plum)"
              strokeWidth={1.5}
              label={named('retire', 'var(--plum)')}
            />
          )}
          <ReferenceLine x={now} stroke="var(--faint)" strokeDasharray="1 3" />
        </ComposedChart>
      </ResponsiveContainer>
    </div>
  );
}

const TICK = { fill: 'var(--faint)', fontSize: 12 };

function named(value: string, fill: string) {
  return { value, position: 'right' as const, fill, fontSize: 12, fontWeight: 700 };
}

function dot({ cx, cy }: { cx?: number | undefined; cy?: number | undefined }) {
  return <circle cx={cx} cy={cy} r={2.2} fill="var(--ink)" />;
}

function tickWords(value: number): string {
  return Math.abs(value) >= 20 ? value.toFixed(0) : String(Number(value.toFixed(2)));
}

/** Round figures that hold a range, four or five of them. */
function niceTicks(low: number, high: number): number[] {
  const rough = (high - low) / 4;
  const magnitude = 10 ** Math.floor(Math.log10(rough));
  const step = [1, 2, 2.5, 5, 10].map((factor) => factor * magnitude).find((one) => one >= rough)!;
  const first = Math.floor(low / step);
  const count = Math.ceil(high / step - 1e-9) - first;
  return Array.from({ length: count + 1 }, (_, i) => Number(((first + i) * step).toPrecision(12)));
}

/** Far enough to see the crossing, never so far that the past is a strip at the left. */
function horizon({ points, toWatch, toRetire }: Measure, now: Instant): Instant {
  const past = Math.max(now - points[0]!.at, 90 * DAY_MS);
  const crossings = [toWatch, toRetire].flatMap((one) =>
    one?.state === 'range' ? [one.latest ?? one.expected] : [],
  );
  return Math.min(Math.max(now + 30 * DAY_MS, ...crossings), now + past);
}

interface BandPoint {
  readonly at: Instant;
  readonly line: number;
  readonly band: readonly [number, number];
}

const BAND_STEPS = 12;

function bandOf({ trend, course, direction, points }: Measure, now: Instant, until: Instant): BandPoint[] {
  if (course)
    return course.band
      .filter(({ at }) => at <= until)
      .map(({ at, low, middle, high }) => ({
        at: at === now ? at + 1 : at,
        line: middle,
        band: [low, high] as const,
      }));
  if (!trend.enough) return [];
  const from = Math.max(trend.midAt, points[0]!.at);
  const moments = Array.from({ length: BAND_STEPS + 1 }, (_, i) => from + ((until - from) * i) / BAND_STEPS);
  return moments.map((at) => {
    const { line, low, high } = trendBand(trend, direction, at);
    return { at: at === now ? at + 1 : at, line, band: [low, high] as const };
  });
}

/** The axis holds the values and the next line to be crossed; a line far away is left off rather than flattening the rest. */
function range(
  { points, cells, watch, retire, baseline }: Measure,
  band: readonly BandPoint[],
): [number, number] {
  const values = [...points, ...cells.flat()].map(({ value }) => value);
  const lines = [baseline, watch].filter((line) => line !== null);
  const inner = [...values, ...lines, ...band.slice(0, 1).flatMap(({ band: ends }) => ends)];
  const reach = Math.max(...inner) - Math.min(...inner);
  const near = retire !== null && retire < Math.max(...inner) + reach && retire > Math.min(...inner) - reach;
  const all = near ? [...inner, retire] : inner;
  const pad = (Math.max(...all) - Math.min(...all)) * 0.08 || 1;
  const floor = Math.min(...all) - pad;
  return [Math.min(...all) >= 0 ? Math.max(0, floor) : floor, Math.max(...all) + pad];
}
