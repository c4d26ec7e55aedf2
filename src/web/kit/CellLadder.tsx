import { CHEMISTRY, isLithium } from '../../core/chemistry';
import type { Chemistry } from '../../core/chemistry';
import type { HouseRules } from '../../core/rules';
import { volts } from '../../core/wording';

interface LadderProps {
  readonly chemistry: Chemistry;
  /** Per cell from the negative end, or one average figure. */
  readonly cellsMv: readonly number[];
  readonly rules: HouseRules;
}

interface Axis {
  readonly lowMv: number;
  readonly highMv: number;
  /** Share of the axis, 0 to 1; clamped, so that a ruined cell still shows as an empty rung. */
  readonly at: (mv: number) => number;
}

/** Beyond the voltages that matter at either end, so that their marks are not on the edge. */
const MARGIN_MV = 50;

/** From the recharge-soon floor to full: every pack of a chemistry on the same axis, stretched over what a stored pack does. */
function axisOf(chemistry: Chemistry, rules: HouseRules): Axis {
  const lowMv = rules.floors[chemistry].rechargeSoonMv - MARGIN_MV;
  const highMv = (CHEMISTRY[chemistry].fullMv ?? 1500) + MARGIN_MV;
  return { lowMv, highMv, at: (mv) => Math.min(1, Math.max(0, (mv - lowMv) / (highMv - lowMv))) };
}

type RungState = 'ruined' | 'low' | 'apart' | 'sound';
const RUNG: Readonly<Record<RungState, string>> = {
  ruined: 'var(--red)',
  low: 'var(--amber)',
  apart: 'var(--amber)',
  sound: 'var(--ink)',
};

function rungState(
  mv: number,
  cellsMv: readonly number[],
  chemistry: Chemistry,
  rules: HouseRules,
): RungState {
  const floors = rules.floors[chemistry];
  const { fullMv } = CHEMISTRY[chemistry];
  if (mv < floors.damageMv || (fullMv !== null && mv >= fullMv + rules.overfullHoldMv)) return 'ruined';
  if (mv < floors.rechargeSoonMv) return 'low';
  return Math.max(...cellsMv) - mv > rules.spread.toleranceMv ? 'apart' : 'sound';
}

const ROW = { width: 92, height: 24 };

/** The cells as a ladder at row height: one rung a cell on the chemistry's axis, the storage band shaded behind. */
export function CellLadder({ chemistry, cellsMv, rules }: LadderProps) {
  const axis = axisOf(chemistry, rules);
  const band = isLithium(chemistry) ? rules.storage[chemistry] : null;
  const pitch = ROW.height / cellsMv.length;
  const thickness = Math.min(4, pitch - 1);
  return (
    <svg
      width={ROW.width}
      height={ROW.height}
      viewBox={`0 0 ${ROW.width} ${ROW.height}`}
      role="img"
      aria-label={`${cellsMv.map(volts).join(', ')} volts`}
      className="shrink-0"
    >
      {band && (
        <rect
          x={axis.at(band.bandLowMv) * ROW.width}
          width={(axis.at(band.bandHighMv) - axis.at(band.bandLowMv)) * ROW.width}
          height={ROW.height}
          fill="var(--band)"
        />
      )}
      <path d={`M.5 0v${ROW.height}M${ROW.width - 0.5} 0v${ROW.height}`} stroke="var(--rule)" />
      {cellsMv.map((mv, i) => (
        <Rung
          key={i}
          y={pitch * (i + 0.5)}
          end={axis.at(mv) * ROW.width}
          thickness={thickness}
          colour={RUNG[rungState(mv, cellsMv, chemistry, rules)]}
        />
      ))}
    </svg>
  );
}

/** A thin line to where the cell stands, and a thick end there, so that the band behind stays readable. */
function Rung({ y, end, thickness, colour }: { y: number; end: number; thickness: number; colour: string }) {
  const at = Math.min(ROW.width - KNOB, Math.max(0, end - KNOB / 2));
  return (
    <>
      <rect y={y - 0.5} width={at} height={1} fill={colour} />
      <rect x={at} y={y - thickness / 2} width={KNOB} height={thickness} fill={colour} />
    </>
  );
}

const KNOB = 5;

/** The ladder at full size: each cell numbered with its volts and how far it lies under the highest. */
export function LargeCellLadder({ chemistry, cellsMv, rules, byCell }: LadderProps & { byCell: boolean }) {
  const axis = axisOf(chemistry, rules);
  const highest = Math.max(...cellsMv);
  const band = isLithium(chemistry) ? rules.storage[chemistry] : null;
  const percent = (mv: number) => `${axis.at(mv) * 100}%`;
  const bandStyle = band && {
    left: percent(band.bandLowMv),
    width: `${(axis.at(band.bandHighMv) - axis.at(band.bandLowMv)) * 100}%`,
  };
  return (
    <div className="grid grid-cols-[auto_1fr_auto_auto] items-stretch font-mono text-sm">
      {cellsMv.map((mv, i) => (
        <div key={i} className="contents">
          <span className="pr-2 text-right text-faint">{byCell ? i + 1 : 'avg'}</span>
          <span className="relative min-h-6 border-x border-rule" aria-hidden="true">
            {bandStyle && <span className="absolute inset-y-0 bg-band" style={bandStyle} />}
            <span
              className="absolute top-1/2 left-0 h-2.5 -translate-y-1/2"
              style={{
                width: `max(4px, ${percent(mv)})`,
                background: RUNG[rungState(mv, cellsMv, chemistry, rules)],
              }}
            />
          </span>
          <span className="pl-3 text-right font-bold">{volts(mv)} V</span>
          <span className="pl-3 text-right text-faint">{highest === mv ? '' : `−${highest - mv} mV`}</span>
        </div>
      ))}
      <span />
      <span className="relative h-5 border-x border-t border-rule text-xs text-faint" aria-hidden="true">
        {band && (
          <AxisLabel at={percent(band.bandLowMv)} align="right">
            {volts(band.bandLowMv)}
          </AxisLabel>
        )}
        {band && (
          <AxisLabel at={percent(band.bandHighMv)} align="left">
            {volts(band.bandHighMv)}
          </AxisLabel>
        )}
        {axis.at(axis.highMv - MARGIN_MV) - axis.at(band?.bandHighMv ?? 0) > ROOM_FOR_LABELS && (
          <AxisLabel at={percent(axis.highMv - MARGIN_MV)} align="right">
            {volts(axis.highMv - MARGIN_MV)}
          </AxisLabel>
        )}
      </span>
      <span className="col-span-2" />
    </div>
  );
}

/** Share of the axis two labels side by side need. */
const ROOM_FOR_LABELS = 0.45;

function AxisLabel({
  at,
  align,
  children,
}: {
  at: string;
  align: 'left' | 'right';
  children: React.ReactNode;
}) {
  const shift = align === 'left' ? '0.2em' : 'calc(-100% - 0.2em)';
  return (
    <span className="absolute top-0.5" style={{ left: at, transform: `translateX(${shift})` }}>
      {children}
    </span>
  );
}
