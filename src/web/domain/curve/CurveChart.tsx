import { Area, ComposedChart, Line, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import type { CurvePoint } from '../../../core/charging';

/** More points than this a screen cannot show, and a browser draws them slowly. */
const MOST_POINTS = 240;

/** How a charge goes: each cell's volts above, current and charge below, on the same minutes, with the moment it was expected to end. */
export default function CurveChart({
  points,
  topMv,
  expectedMinutes,
}: {
  points: readonly CurvePoint[];
  topMv: number | null;
  expectedMinutes: number | null;
}) {
  const cells = points[0]?.mv.length ?? 0;
  const shown = thinned(points);
  const data = shown.map(({ seconds, mv, amps, movedMah }) => ({
    minutes: seconds / 60,
    amps,
    charge: movedMah / 1000,
    ...Object.fromEntries(mv.map((one, i) => [`cell${i + 1}`, one / 1000])),
  }));
  const last = points.at(-1)?.seconds ?? 0;
  const until = Math.max(last / 60, expectedMinutes ?? 0, 1);
  const lowest = Math.min(...shown.flatMap(({ mv }) => mv)) / 1000;
  const highest = Math.max(...shown.flatMap(({ mv }) => mv), topMv !== null && cells > 1 ? topMv : 0) / 1000;
  const mostAmps = Math.max(...shown.map(({ amps }) => amps), 0.1);
  const mostAh = Math.max((points.at(-1)?.movedMah ?? 0) / 1000, 0.1);
  const axis = (hidden: boolean) => (
    <XAxis
      dataKey="minutes"
      type="number"
      domain={[0, until]}
      tickCount={6}
      tickFormatter={(value: number) => `${Math.round(value)} min`}
      tick={hidden ? false : TICK}
      height={hidden ? 4 : 22}
      stroke="var(--rule)"
    />
  );
  const expected = expectedMinutes !== null && (
    <ReferenceLine x={expectedMinutes} stroke="var(--accent)" strokeDasharray="4 3" />
  );
  return (
    <div role="img" aria-label={`The charge so far: ${sentence(points)}`}>
      <ResponsiveContainer width="100%" height={150} initialDimension={{ width: 520, height: 150 }}>
        <ComposedChart
          accessibilityLayer={false}
          data={data}
          margin={{ ...MARGIN, right: MARGIN.right + AXIS }}
        >
          {axis(true)}
          <YAxis
            type="number"
            domain={[Math.floor(lowest * 20) / 20, Math.ceil(highest * 20) / 20]}
            tick={TICK}
            tickCount={4}
            tickFormatter={(value: number) => value.toFixed(2)}
            unit=" V"
            width={AXIS}
            stroke="var(--rule)"
          />
          {topMv !== null && cells > 1 && (
            <ReferenceLine y={topMv / 1000} stroke="var(--rule)" strokeDasharray="6 4" />
          )}
          {expected}
          {Array.from({ length: cells }, (_, i) => (
            <Line
              key={i}
              dataKey={`cell${i + 1}`}
              stroke="var(--ink)"
              strokeWidth={1.2}
              dot={false}
              isAnimationActive={false}
            />
          ))}
        </ComposedChart>
      </ResponsiveContainer>
      <ResponsiveContainer width="100%" height={96} initialDimension={{ width: 520, height: 96 }}>
        <ComposedChart accessibilityLayer={false} data={data} margin={MARGIN}>
          {axis(false)}
          <YAxis
            yAxisId="amps"
            type="number"
            domain={[0, mostAmps * 1.1]}
            tick={TICK}
            tickCount={3}
            tickFormatter={(value: number) => value.toFixed(1)}
            unit=" A"
            width={AXIS}
            stroke="var(--rule)"
          />
          <YAxis
            yAxisId="charge"
            orientation="right"
            type="number"
            domain={[0, mostAh * 1.1]}
            tick={TICK}
            tickCount={3}
            tickFormatter={(value: number) => value.toFixed(1)}
            unit=" Ah"
            width={AXIS}
            stroke="var(--rule)"
          />
          <Area
            yAxisId="amps"
            dataKey="amps"
            stroke="var(--faint)"
            fill="var(--used)"
            fillOpacity={0.5}
            isAnimationActive={false}
          />
          <Line
            yAxisId="charge"
            dataKey="charge"
            stroke="var(--accent)"
            strokeWidth={2}
            dot={false}
            isAnimationActive={false}
          />
          {expectedMinutes !== null && (
            <ReferenceLine yAxisId="amps" x={expectedMinutes} stroke="var(--accent)" strokeDasharray="4 3" />
          )}
        </ComposedChart>
      </ResponsiveContainer>
      <p className="text-sm text-faint">
        Volts of each cell; below them the current (filled) and the charge (line).
        {expectedMinutes !== null && ' Dashed: when it was expected to end.'}
      </p>
    </div>
  );
}

const TICK = { fill: 'var(--faint)', fontSize: 12 };
/** Both pictures stand on the same minutes: the upper one leaves the room of the lower one's second axis free. */
const AXIS = 58;
const MARGIN = { top: 6, right: 4, bottom: 0, left: 0 };

function sentence(points: readonly CurvePoint[]): string {
  const last = points.at(-1);
  if (!last) return 'nothing yet.';
  const volts = last.mv.map((mv) => (mv / 1000).toFixed(2)).join(' ');
  return `after ${Math.round(last.seconds / 60)} min ${volts} V, ${last.amps.toFixed(1)} A, ${Math.round(last.movedMah)} mAh.`;
}

/** The first, the last, and so many between them. */
function thinned(points: readonly CurvePoint[]): readonly CurvePoint[] {
  if (points.length <= MOST_POINTS) return points;
  return Array.from(
    { length: MOST_POINTS },
    (_, i) => points[Math.round((i * (points.length - 1)) / (MOST_POINTS - 1))]!,
  );
}
