import { CHEMISTRIES, CHEMISTRY } from '../chemistry';
import { seededRandom } from '../cellsim';
import { OCCASIONS } from '../inspection';
import { DAY_MS, HOUR_MS } from '../measure';
import type { PackFacts } from '../pack';
import { BLANK_CHARGE } from '../record';
import type { PackRecord } from '../record';
import { PRESETS, PRESET_RULES } from '../rules';
import type { HouseRules } from '../rules';
import {
  aPack,
  charge,
  correction,
  decision,
  flight,
  incident,
  inspection,
  moved,
  note,
  reading,
  received,
  release,
  resistance,
  SERIES_OF,
  START,
  total,
  watchEnded,
} from './histories';

/** A pack of any kind with a history of any kind, judged by one of the schools. */
export interface RandomHistory {
  readonly pack: PackFacts;
  readonly records: readonly PackRecord[];
  readonly rules: HouseRules;
}

/** What a history may be asked to be beside random. */
interface Wanted {
  readonly steps?: number;
  /** Records of further kinds, at these hours after the start. */
  readonly also?: (
    hours: number,
    pack: PackFacts,
    random: () => number,
  ) => Readonly<Record<string, () => PackRecord | null>>;
}

/**
 * One history nobody thought of, the same for the same seed: every chemistry, smart packs and field packs, sound and harmed cells, jobs,
 * flights with much or nothing written down, looks, incidents, holds, releases, and corrections of any of them.
 */
export function randomHistory(seed: number, { steps: wanted, also }: Wanted = {}): RandomHistory {
  const random = seededRandom(seed);
  const one = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  const maybe = (share: number) => random() < share;
  const between = (low: number, high: number) => low + random() * (high - low);
  // Moments are whole milliseconds; eighths of an hour stay so.
  const eighths = (value: number) => Math.round(value * 8) / 8;
  const chemistry = one(CHEMISTRIES);
  const pack = aPack({
    chemistry,
    series: SERIES_OF[chemistry],
    fieldPack: maybe(0.15),
    smart: maybe(0.3) ? { autoStorage: maybe(0.8), autoStorageAfterHours: one([24, 48, 96, 240]) } : null,
    inServiceAt: maybe(0.5) ? START - Math.round(between(1, 1500)) * DAY_MS : null,
    dutyClass: one(['hard', 'normal', 'gentle'] as const),
  });
  const fullMv = CHEMISTRY[chemistry].fullMv ?? 1450;
  const cells = () => {
    const level = between(fullMv * 0.72, fullMv * (maybe(0.1) ? 1.03 : 1));
    const apart = maybe(0.2) ? 150 : 12;
    return Array.from({ length: pack.series }, () => Math.round(level - random() * apart));
  };
  const records: PackRecord[] = [received(-eighths(between(1, 2000)))];
  let hours = 0;
  const some = 2 + Math.floor(random() * 20);
  for (let step = 0; step < (wanted ?? some); step++) {
    hours += eighths(one([0.4, 1, 3, 9, 20, 60, 200, 900]) * between(0.6, 1.4));
    const made: Readonly<Record<string, () => PackRecord | null>> = {
      read: () =>
        maybe(0.8)
          ? reading(hours, cells(), { condition: one(['rested', 'rested', 'rested', 'settling', 'loaded']) })
          : total(
              hours,
              cells().reduce((sum, mv) => sum + mv, 0),
            ),
      charge: () =>
        charge(hours, {
          mode: one(['fast', 'balance', 'balance', 'storage', 'discharge'] as const),
          ending: one(['complete', 'complete', 'taper', 'quick', 'timed-out', 'stopped', 'error'] as const),
          movedMah: maybe(0.6) ? Math.round(between(0.1, 1.3) * pack.capacityMah) : null,
          minutes: maybe(0.5) ? Math.round(between(3, 200)) : null,
          balanced: maybe(0.5),
          endCellsMv: maybe(0.3) ? cells() : null,
          temperatureC: maybe(0.2) ? Math.round(between(0, 60)) : null,
          settings: { ...BLANK_CHARGE.settings, currentA: maybe(0.5) ? between(1, 20) : null },
        }),
      fly: () =>
        flight(hours, {
          minutes: maybe(0.8) ? Math.round(between(2, 25)) : null,
          usedMah: maybe(0.6) ? Math.round(between(0.2, 1) * pack.capacityMah) : null,
          craft: one([null, 'quad', 'wing']),
          hottestC: maybe(0.4) ? Math.round(between(25, 72)) : null,
          ambientC: maybe(0.3) ? Math.round(between(-10, 35)) : null,
        }),
      measure: () =>
        resistance(
          hours,
          Array.from({ length: pack.series }, () => between(3.5, maybe(0.1) ? 12 : 4.5)),
          between(5, 35),
        ),
      look: () => inspection(hours, one(OCCASIONS), maybe(0.1) ? { swelling: one(['soft', 'hard']) } : {}),
      fail: () => inspection(hours, one(OCCASIONS), {}, [one(['leads', 'case', 'connector'])]),
      move: () => moved(hours, null, null),
      note: () => note(hours),
      incident: () => incident(hours, one(['crash', 'short', 'swelling', 'lost', 'unattended']), maybe(0.8)),
      watchEnd: () => (records.some(({ kind }) => kind === 'incident') ? watchEnded(hours) : null),
      hold: () => decision(hours, { to: 'hold' }),
      release: () =>
        release(hours, pack, records, one(['none', { until: START + (hours + 900) * HOUR_MS }] as const)),
      correct: () => {
        const original = one(records);
        return original.kind === 'reading' || original.kind === 'flight' || original.kind === 'charge'
          ? correction(hours, original, maybe(0.5) ? null : original)
          : null;
      },
      ...also?.(hours, pack, random),
    };
    const often = ['read', 'read', 'read', 'charge', 'charge', 'fly', 'fly', 'measure', 'look'];
    const record = made[one([...often, ...Object.keys(made)])]!();
    if (record) records.push(record);
  }
  return { pack, records, rules: PRESET_RULES[one(PRESETS)] };
}
