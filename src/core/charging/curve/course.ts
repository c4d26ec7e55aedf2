import { CHEMISTRY, isLithium } from '../../chemistry';
import { MINUTE_MS } from '../../measure';
import type { HouseRules } from '../../rules';
import type { SettingField } from '../equipment';
import type { JobKind } from '../planner';
import { settingChanges } from '../setting';
import type { ChargerSetting } from '../setting';
import type { CurvePoint } from './point';

/** What a job was started as, and what it was to come to. */
export interface Expected {
  readonly do: JobKind;
  readonly setting: ChargerSetting;
  readonly minutes: number;
  /** What the pack had room for when it began, and what it holds in all, mAh; null where nobody knew. */
  readonly room: { readonly mah: number; readonly capacityMah: number } | null;
}

/** What a charger tells of its setting; many tell a part of it. */
export type SaidSetting = { readonly [Field in keyof ChargerSetting]?: ChargerSetting[Field] | undefined };

/** What the charger itself says beside its figures; null for what it does not tell. */
export interface ChargerSays {
  readonly setting: SaidSetting | null;
  readonly ended: boolean;
  readonly error: string | null;
}

/**
 * What a charge is doing, recognised from its figures: `quick` at the whole current, `reduced` at less of it though no cell is near the
 * top, `taper` where a cell is held at the top, `balancing` where next to nothing flows and the cells come together, `rest` where nothing flows.
 */
export type ChargePhase = 'quick' | 'reduced' | 'taper' | 'balancing' | 'rest' | 'ended';

/** What asks for a hand. `stop` means now; `look` means come and see. */
export type Alarm = { readonly asks: 'stop' | 'look' } & (
  | { readonly code: 'over-top'; readonly cell: number; readonly mv: number; readonly fullMv: number }
  | { readonly code: 'setting'; readonly fields: readonly SettingField[] }
  | { readonly code: 'cell-count'; readonly shown: number; readonly wanted: number }
  | { readonly code: 'hot'; readonly celsius: number; readonly limitC: number }
  | { readonly code: 'too-long'; readonly minutes: number; readonly expectedMinutes: number }
  | { readonly code: 'overfilled'; readonly movedMah: number; readonly roomMah: number }
  | { readonly code: 'cell-falls'; readonly cell: number; readonly byMv: number }
  | { readonly code: 'cell-apart'; readonly cell: number; readonly byMv: number }
  | { readonly code: 'wrong-way'; readonly puts: boolean }
  | { readonly code: 'error'; readonly text: string }
);

export interface ChargeCourseNow {
  readonly phase: ChargePhase;
  /** The gravest first. */
  readonly alarms: readonly Alarm[];
}

/** A cell this close under the top is held there, millivolts. */
const AT_TOP_MV = 12;
const WHOLE_SHARE = 0.95;
/** Below this share of the set current a charge at the top is over but for the balancing. */
const BALANCING_SHARE = 0.12;
const NOTHING_AMPS = 0.03;

/** What a charge is doing and what asks for a hand, from its points so far. */
export function chargeNow(
  points: readonly CurvePoint[],
  expected: Expected,
  says: ChargerSays,
  rules: HouseRules,
): ChargeCourseNow {
  const last = points.at(-1);
  return {
    phase: says.ended ? 'ended' : last ? phaseOf(last, expected) : 'rest',
    alarms: last ? alarmsOf(points, last, expected, says, rules) : [],
  };
}

/**
 * How a charge that its charger ended came to its end: `complete` on next to no current, `taper` at the top with current still flowing,
 * `quick` before a cell was held at the top.
 */
export function endingOfCurve(
  points: readonly CurvePoint[],
  setting: ChargerSetting,
): 'complete' | 'taper' | 'quick' {
  const working = lastWorking(points);
  if (!working || setting.topMv === null) return 'complete';
  if (highestMv(working, setting) < setting.topMv - AT_TOP_MV) return 'quick';
  return working.amps <= setting.amps * COMPLETE_SHARE ? 'complete' : 'taper';
}

/** The last point at which a current flowed: what the charger showed as the charge ended. */
export function lastWorking(points: readonly CurvePoint[]): CurvePoint | null {
  return points.findLast(({ amps }) => amps >= NOTHING_AMPS) ?? null;
}

/** A charger that balances to the end may bleed at its balancing current, which of a small pack is a good share of the charge's own. */
const COMPLETE_SHARE = 0.3;

function phaseOf(last: CurvePoint, { do: kind, setting }: Expected): ChargePhase {
  if (last.amps < NOTHING_AMPS) return 'rest';
  const puts = kind === 'charge' || kind === 'raise';
  const highest = highestMv(last, setting);
  const atTop = puts && setting.topMv !== null && highest >= setting.topMv - AT_TOP_MV;
  if (last.amps >= setting.amps * WHOLE_SHARE) return 'quick';
  if (!atTop) return 'reduced';
  return last.amps <= setting.amps * BALANCING_SHARE ? 'balancing' : 'taper';
}

/** Of a pack told in sum, its mean cell. */
function highestMv({ mv }: CurvePoint, { cells }: ChargerSetting): number {
  return mv.length === 1 ? mv[0]! / cells : Math.max(...mv);
}

function alarmsOf(
  points: readonly CurvePoint[],
  last: CurvePoint,
  expected: Expected,
  says: ChargerSays,
  rules: HouseRules,
): Alarm[] {
  const { setting, room } = expected;
  const puts = expected.do === 'charge' || expected.do === 'raise';
  const alarms: Alarm[] = [];
  if (says.error !== null) alarms.push({ code: 'error', asks: 'stop', text: says.error });
  alarms.push(...wrongSetting(says.setting, setting));
  const byCell = last.mv.length > 1 || setting.cells === 1;
  if (byCell && last.mv.length !== setting.cells)
    alarms.push({ code: 'cell-count', asks: 'stop', shown: last.mv.length, wanted: setting.cells });
  const fullMv = CHEMISTRY[setting.chemistry].fullMv;
  const highest = highestMv(last, setting);
  if (fullMv !== null && highest > fullMv + rules.charge.endOverMv)
    alarms.push({
      code: 'over-top',
      asks: 'stop',
      cell: last.mv.length === 1 && setting.cells > 1 ? 0 : last.mv.indexOf(Math.max(...last.mv)) + 1,
      mv: Math.round(highest),
      fullMv,
    });
  if (goesTheWrongWay(points, last, puts)) alarms.push({ code: 'wrong-way', asks: 'stop', puts });
  alarms.push(...heat(points, setting, rules));
  // Of a nearly full pack the meter's error alone is a multiple of its room.
  const isOver =
    puts &&
    room !== null &&
    last.movedMah > (room.mah * rules.charge.overHoldPercent) / 100 &&
    last.movedMah > room.mah + room.capacityMah * LEAST_OVER;
  if (isOver) alarms.push({ code: 'overfilled', asks: 'stop', movedMah: last.movedMah, roomMah: room.mah });
  if (puts && byCell && isLithium(setting.chemistry)) alarms.push(...oddCell(points, last, setting, rules));
  const minutes = last.seconds / 60;
  if (
    !says.ended &&
    minutes > (expected.minutes * rules.charge.tooLongPercent) / 100 &&
    minutes > GRACE_MINUTES
  )
    alarms.push({ code: 'too-long', asks: 'stop', minutes, expectedMinutes: expected.minutes });
  return alarms.sort((a, b) => Number(a.asks === 'look') - Number(b.asks === 'look'));
}

/** A current lifts or lowers the cells at once; from a first point that was at rest less of that says which way it flows, millivolts. */
const WRONG_WAY_MV = { fromRest: 30, fromWork: 120 };

/** Whether a job that is to put charge in takes it out, or the other way round. */
function goesTheWrongWay(points: readonly CurvePoint[], last: CurvePoint, puts: boolean): boolean {
  const first = points[0]!;
  if (last.amps < NOTHING_AMPS || first.mv.length !== last.mv.length) return false;
  const mean = ({ mv }: CurvePoint) => mv.reduce((sum, one) => sum + one, 0) / mv.length;
  const cells = last.mv.length === 1 ? 6 : 1;
  const rise = (mean(last) - mean(first)) * (puts ? 1 : -1);
  return rise < -cells * (first.amps < NOTHING_AMPS ? WRONG_WAY_MV.fromRest : WRONG_WAY_MV.fromWork);
}

/** What is too much must be so much of the whole capacity as well. */
const LEAST_OVER = 0.05;
/** An expectation of a few minutes is no measure. */
const GRACE_MINUTES = 5;

/** A charger that says what it is set to, and is set to something else than the job. */
function wrongSetting(said: SaidSetting | null, wanted: ChargerSetting): Alarm[] {
  if (!said) return [];
  const told = Object.fromEntries(Object.entries(said).filter(([, value]) => value !== undefined));
  const shown = { ...wanted, ...told };
  const changes = settingChanges(shown, wanted);
  const dangerous = changes.filter((change) => change.dangerous);
  // A current above the card's is a slip as well; below it the charge only takes longer.
  const tooMuch = said.amps !== undefined && said.amps > wanted.amps * 1.05;
  const fields = [...dangerous.map(({ field }) => field), ...(tooMuch ? (['amps'] as const) : [])];
  if (fields.length > 0) return [{ code: 'setting', asks: 'stop', fields }];
  const others = changes.filter(({ field }) => field !== 'amps').map(({ field }) => field);
  return others.length > 0 ? [{ code: 'setting', asks: 'look', fields: others }] : [];
}

function heat(
  points: readonly CurvePoint[],
  { chemistry }: ChargerSetting,
  { heat: limits }: HouseRules,
): Alarm[] {
  const celsius = points.at(-1)!.celsius;
  if (celsius === null) return [];
  if (chemistry === 'nimh')
    return celsius > limits.nimhChargeC
      ? [{ code: 'hot', asks: 'stop', celsius, limitC: limits.nimhChargeC }]
      : [];
  if (celsius > limits.chargeHoldC)
    return [{ code: 'hot', asks: 'stop', celsius, limitC: limits.chargeHoldC }];
  return celsius > limits.chargeWatchC
    ? [{ code: 'hot', asks: 'look', celsius, limitC: limits.chargeWatchC }]
    : [];
}

/** So far back a cell's fall is looked for. */
const FALL_SECONDS = (5 * MINUTE_MS) / 1000;
/** A cell that falls by more than this at an unchanged current is shorted or torn, millivolts: no display's noise comes near. */
const FALL_MV = 25;
const SAME_SHARE = 0.05;

/** A cell that falls while its siblings rise, or stands apart from them. While it is held at the top the charger's own bleeding moves cells a little. */
function oddCell(
  points: readonly CurvePoint[],
  last: CurvePoint,
  setting: ChargerSetting,
  { spread }: HouseRules,
): Alarm[] {
  if (last.mv.length < 2) return [];
  const alarms: Alarm[] = [];
  const alike = points.filter(
    ({ seconds, amps, mv }) =>
      mv.length === last.mv.length &&
      seconds >= last.seconds - FALL_SECONDS &&
      Math.abs(amps - last.amps) <= Math.max(NOTHING_AMPS, last.amps * SAME_SHARE),
  );
  const falls = last.mv.map((mv, i) => Math.max(...alike.map((point) => point.mv[i]!)) - mv);
  const deepest = Math.max(...falls);
  const fewFall = falls.filter((fall) => fall > FALL_MV).length <= last.mv.length / 2;
  if (last.amps > NOTHING_AMPS && deepest > FALL_MV && fewFall)
    alarms.push({ code: 'cell-falls', asks: 'stop', cell: falls.indexOf(deepest) + 1, byMv: deepest });
  const sorted = [...last.mv].sort((a, b) => a - b);
  const middle = sorted[Math.floor(sorted.length / 2)]!;
  const away = last.mv.map((mv) => Math.abs(mv - middle));
  const farthest = Math.max(...away);
  const loaded = last.amps >= setting.amps * BALANCING_SHARE;
  if (farthest > (loaded ? spread.retireMv : spread.watchMv))
    alarms.push({ code: 'cell-apart', asks: 'look', cell: away.indexOf(farthest) + 1, byMv: farthest });
  return alarms;
}
