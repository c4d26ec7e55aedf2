import { CHEMISTRIES, CHEMISTRY, LITHIUM_CHEMISTRIES } from '../chemistry';
import type { Chemistry, LithiumChemistry } from '../chemistry';
import { DUTY_CLASSES } from '../pack';
import type { HouseRules } from './houseRules';
import { DEFAULT_PRESET, PRESET_RULES } from './presets';

export const RULE_TOPICS = [
  'storage',
  'allowance',
  'floors',
  'over-discharge',
  'full',
  'spread',
  'resistance',
  'capacity',
  'wear',
  'heat',
  'charging',
  'flying',
  'idle',
  'inspection',
  'stowage',
  'incidents',
  'decisions',
  'end-of-life',
] as const;
/** What several rules are about; the reason is told once a topic. */
export type RuleTopic = (typeof RULE_TOPICS)[number];

export type RuleUnit =
  | 'V'
  | 'mV'
  | 'h'
  | 'min'
  | 'days'
  | 'years'
  | '%'
  | '×'
  | 'C'
  | '°C'
  | 'times'
  | 'charges'
  | 'cycles'
  | 'names';

/** One value of the house rules that a custodian may change, and how far. */
export type RuleField = {
  readonly topic: RuleTopic;
  readonly title: string;
  /** Where the value stands in {@link HouseRules}, dots between. */
  readonly path: string;
} & (
  | {
      readonly kind: 'figure';
      readonly unit: RuleUnit;
      /** The least and most the house may choose, in stored units (volts are millivolts). */
      readonly low: number;
      readonly high: number;
      readonly whole: boolean;
    }
  | { readonly kind: 'choice'; readonly options: readonly string[] }
);

const figure = (
  topic: RuleTopic,
  title: string,
  path: string,
  unit: RuleUnit,
  low: number,
  high: number,
  whole = true,
): RuleField => ({ topic, title, path, kind: 'figure', unit, low, high, whole });
const choice = (topic: RuleTopic, title: string, path: string, options: readonly string[]): RuleField => ({
  topic,
  title,
  path,
  kind: 'choice',
  options,
});
const each = <Of extends Chemistry>(
  chemistries: readonly Of[],
  fields: (of: Of, name: string) => RuleField[],
) => chemistries.flatMap((chemistry) => fields(chemistry, CHEMISTRY[chemistry].name));

/** Fields of one topic for every chemistry together, so that a column can be read down. */
const perChemistry = <Of extends Chemistry>(
  chemistries: readonly Of[],
  ...rows: ((of: Of, name: string) => RuleField)[]
): RuleField[] => rows.flatMap((row) => each(chemistries, (of, name) => [row(of, name)]));

/** How far a floor may be moved from the practice's own, millivolts. Up is stricter; down would let a harmed cell fly. */
const FLOOR_UP_MV = 300;
const practice = PRESET_RULES[DEFAULT_PRESET];

/** Every house rule, in the order of the work. What is not here cannot be changed, and what is judged by is here. */
export const RULE_FIELDS: readonly RuleField[] = [
  ...perChemistry<LithiumChemistry>(
    LITHIUM_CHEMISTRIES,
    (of, name) => {
      const range = CHEMISTRY[of].storageRangeMv!;
      return figure(
        'storage',
        `Storage target, ${name}`,
        `storage.${of}.targetMv`,
        'V',
        range.low,
        range.high,
      );
    },
    (of, name) =>
      figure(
        'storage',
        `Band from, ${name}`,
        `storage.${of}.bandLowMv`,
        'V',
        practice.floors[of].rechargeSoonMv,
        CHEMISTRY[of].storageRangeMv!.high,
      ),
    (of, name) =>
      figure(
        'storage',
        `Band to, ${name}`,
        `storage.${of}.bandHighMv`,
        'V',
        CHEMISTRY[of].storageRangeMv!.low,
        CHEMISTRY[of].fullMv! - 100,
      ),
  ),
  figure('allowance', 'Allowance above the band', 'allowance.highHours', 'h', 1, 336),
  figure('allowance', 'Allowance above the band, field packs', 'allowance.fieldHighHours', 'h', 1, 1_440),
  figure('allowance', 'Allowance below the band', 'allowance.lowHours', 'h', 1, 168),
  figure('allowance', 'Counts as rested after', 'restMinutes', 'min', 10, 240),
  ...perChemistry<Chemistry>(
    CHEMISTRIES,
    (of, name) =>
      floor('Recharge-soon floor', `floors.${of}.rechargeSoonMv`, name, practice.floors[of].rechargeSoonMv),
    (of, name) => floor('Damage floor', `floors.${of}.damageMv`, name, practice.floors[of].damageMv),
  ),
  ...perChemistry<LithiumChemistry>(LITHIUM_CHEMISTRIES, (of, name) =>
    floor('Over-discharge line', `floors.${of}.overDischargeMv`, name, practice.floors[of].overDischargeMv!),
  ),
  choice('over-discharge', 'Over-discharged packs', 'overDischarged', ['retire', 'supervised recovery']),
  figure('over-discharge', 'Supervised recovery, at most', 'recovery.minutes', 'min', 5, 30),
  figure('over-discharge', 'Supervised recovery, current up to', 'recovery.currentC', 'C', 0.02, 0.1, false),
  figure('over-discharge', 'Supervised recovery, every cell above', 'recovery.floorMv', 'V', 2_500, 3_000),
  figure('over-discharge', 'Read again after a recovery', 'recovery.restHours', 'h', 24, 168),
  ...perChemistry<LithiumChemistry>(LITHIUM_CHEMISTRIES, (of, name) =>
    figure(
      'full',
      `Top voltage, ${name}`,
      `topMv.${of}`,
      'V',
      CHEMISTRY[of].fullMv! - 200,
      CHEMISTRY[of].fullMv!,
    ),
  ),
  figure('full', 'Held when above full by', 'overfullHoldMv', 'mV', 10, 50),
  figure('full', 'Full-charge days in a year, caution', 'health.fullDaysAYear', 'days', 1, 365),
  figure('full', 'A pack that stores itself takes', 'bleedDays', 'days', 1, 14),
  figure('full', 'Shelf taken to be', 'shelfC', '°C', 0, 45),
  figure('spread', 'Spread in tolerance', 'spread.toleranceMv', 'mV', 5, 50),
  figure('spread', 'Spread for caution, over', 'spread.watchMv', 'mV', 10, 100),
  figure('spread', 'Spread to retire for after balancing, over', 'spread.retireMv', 'mV', 20, 200),
  figure('spread', 'Spread in charge for caution, over', 'spread.watchSocPercent', '%', 1, 20),
  figure('spread', 'Weak cell after use, caution', 'health.weakCellMv.watch', 'mV', 20, 200),
  figure('spread', 'Weak cell after use, retire', 'health.weakCellMv.retire', 'mV', 40, 400),
  figure('spread', 'Same cell weakest, caution after', 'health.recurrence.times', 'times', 1, 10),
  figure('spread', 'Same cell weakest, within', 'health.recurrence.inCharges', 'charges', 2, 20),
  figure('spread', 'Failed balance charges to retire for', 'health.failedBalances', 'times', 1, 10),
  figure('resistance', 'Against its baseline, caution', 'health.irGrowth.watch', '×', 1.1, 3, false),
  figure('resistance', 'Against its baseline, retire', 'health.irGrowth.retire', '×', 1.2, 5, false),
  figure('resistance', 'Against its siblings, caution', 'health.irSiblings.watch', '×', 1.1, 3, false),
  figure('resistance', 'Against its siblings, retire', 'health.irSiblings.retire', '×', 1.2, 5, false),
  figure('resistance', 'A jump to measure again, over', 'health.irJumpPercent', '%', 5, 100),
  figure('capacity', 'Capacity against label, caution', 'health.capacityPercent.watch', '%', 50, 99),
  figure('capacity', 'Capacity against label, retire', 'health.capacityPercent.retire', '%', 40, 95),
  figure('capacity', 'Flight time lost, caution', 'health.runTimeLossPercent.watch', '%', 5, 60),
  figure('capacity', 'Flight time lost, retire', 'health.runTimeLossPercent.retire', '%', 10, 80),
  ...perChemistry<Chemistry>(CHEMISTRIES, (of, name) =>
    figure('wear', `Cycles to review at, ${name}`, `health.cycles.${of}`, 'cycles', 20, 5_000),
  ),
  ...DUTY_CLASSES.map((duty) =>
    figure('wear', `Age to review at, ${duty} duty`, `health.ageYears.${duty}`, 'years', 0.5, 15, false),
  ),
  figure('heat', 'In use, caution over', 'heat.useWatchC', '°C', 40, 60),
  figure('heat', 'In use, hold over', 'heat.useHoldC', '°C', 45, 65),
  figure('heat', 'Charging, caution over', 'heat.chargeWatchC', '°C', 30, 45),
  figure('heat', 'Charging, hold over', 'heat.chargeHoldC', '°C', 35, 50),
  figure('heat', 'NiMH charging, stop over', 'heat.nimhChargeC', '°C', 45, 65),
  figure('heat', 'May take to cool after a use', 'heat.coolMinutes', 'min', 15, 120),
  figure('charging', 'Charge rate at home', 'charge.homeC', 'C', 0.1, 3, false),
  figure('charging', 'Charge rate in the field', 'charge.fieldC', 'C', 0.1, 6, false),
  figure('charging', 'First charge after a long rest, up to', 'charge.afterRestC', 'C', 0.1, 1, false),
  figure('charging', 'Fly or drain after a field charge within', 'charge.fieldHours', 'h', 2, 48),
  figure('charging', 'Balance every so many charges', 'charge.balanceEvery', 'charges', 1, 5),
  figure('charging', 'End cell above full, caution over', 'charge.endOverMv', 'mV', 0, 20),
  figure('charging', 'Put in of the room there was, note over', 'charge.overNotePercent', '%', 101, 115),
  figure('charging', 'Put in of the room there was, hold over', 'charge.overHoldPercent', '%', 110, 150),
  figure('charging', 'Put into a NiMH pack of its label, caution over', 'charge.nimhPercent', '%', 120, 250),
  figure('charging', 'Too fast under, of the expected minutes', 'charge.tooFastPercent', '%', 20, 90),
  figure('charging', 'Too long over, of the expected minutes', 'charge.tooLongPercent', '%', 120, 400),
  figure('charging', 'Too cold to charge below', 'charge.coldC', '°C', 0, 15),
  figure('charging', 'After a warm landing wait', 'charge.warmLandingMinutes', 'min', 0, 120),
  figure('charging', 'Ask “still here?” at a charge every', 'charge.stillHereMinutes', 'min', 5, 60),
  ...perChemistry<Chemistry>(CHEMISTRIES, (of, name) =>
    figure(
      'flying',
      `Land at, loaded, ${name}`,
      `flight.landAtMv.${of}`,
      'V',
      practice.flight.landAtMv[of],
      CHEMISTRY[of].nominalMv + 100,
    ),
  ),
  figure('flying', 'Deepest use', 'flight.maxDodPercent', '%', 20, 90),
  figure('flying', 'Counts as charged from', 'flight.chargedPercent', '%', 50, 98),
  figure('flying', 'Cold below, outside', 'flight.coldC', '°C', 0, 20),
  figure('flying', 'A pack out is wanted back after', 'flight.outHours', 'h', 1, 720),
  figure('idle', 'Idle lithium, every', 'idle.everyDays', 'days', 7, 180),
  figure('idle', 'Nobody knows after, without a measurement', 'health.unknownDays', 'days', 30, 365),
  figure('idle', 'Lost on the shelf in a week, caution over', 'health.leakPercentAWeek', '%', 1, 10, false),
  figure('idle', 'Risen with nothing logged, over', 'unlogged.rosePercent', '%', 5, 50),
  figure('idle', 'Fallen with nothing logged, over', 'unlogged.fellPercent', '%', 5, 60),
  choice('idle', 'Idle lithium, what', 'idle.doing', ['read', 'cycle']),
  figure('idle', 'Top a NiMH pack up every', 'nimhTopUpDays', 'days', 14, 365),
  figure('inspection', 'Inspect every', 'inspectionDays', 'days', 7, 365),
  figure('inspection', 'Season-start inspection after a rest of', 'seasonStartDays', 'days', 14, 365),
  figure('inspection', 'Thicker than its baseline, caution from', 'swelling.watchPercent', '%', 1, 15, false),
  figure('inspection', 'Thicker than its baseline, hold from', 'swelling.holdPercent', '%', 2, 20, false),
  figure('inspection', 'Baseline complete after receipt within', 'baselineDays', 'days', 1, 60),
  figure('inspection', 'New packs outside their band go back from', 'arrivalMv', 'mV', 0, 400),
  figure('inspection', 'A seller takes a pack back within', 'returnDays', 'days', 7, 90),
  figure('stowage', 'Too warm for a charged pack from', 'stowage.warmC', '°C', 20, 40),
  choice('stowage', 'Chemistries in one container', 'stowage.mixing', ['allowed', 'kept apart']),
  figure('incidents', 'Quarantine after a shock', 'incidents.watchMinutes', 'min', 30, 240),
  figure('incidents', 'Outdoors after an abnormal charge', 'incidents.overnightHours', 'h', 12, 72),
  choice('decisions', 'After a crash without deformation', 'afterCrash', ['retire', 'hold, inspect, watch']),
  figure('decisions', 'Names to retire a pack', 'retirementNames', 'names', 1, 2),
  figure('end-of-life', 'Read again after the last discharge', 'endOfLife.reboundHours', 'h', 24, 168),
  figure('end-of-life', 'Ask a recycler again after', 'endOfLife.confirmDays', 'days', 30, 730),
  choice('end-of-life', 'A sound pack is handed over', 'endOfLife.handOver', [
    'drained',
    'drained or at storage charge',
  ]),
];

function floor(title: string, path: string, name: string, practiceMv: number): RuleField {
  const topic = title === 'Over-discharge line' ? 'over-discharge' : 'floors';
  return figure(topic, `${title}, ${name}`, path, 'V', practiceMv, practiceMv + FLOOR_UP_MV);
}

export type RuleValue = number | string;

/** The value of a field in a rule set. */
export function ruleValue(rules: HouseRules, { path }: Pick<RuleField, 'path'>): RuleValue {
  return path
    .split('.')
    .reduce<unknown>((at, key) => (at as Record<string, unknown>)[key], rules) as RuleValue;
}

/** The rule set with one field changed; the rest is shared. */
export function withRuleValue(
  rules: HouseRules,
  field: Pick<RuleField, 'path'>,
  value: RuleValue,
): HouseRules {
  const [first, ...rest] = field.path.split('.') as [string, ...string[]];
  return withValue(rules, first, rest, value) as HouseRules;
}

function withValue(at: object, key: string, rest: readonly string[], value: RuleValue): object {
  const [next, ...further] = rest;
  const inner = (at as Record<string, object>)[key]!;
  return { ...at, [key]: next === undefined ? value : withValue(inner, next, further, value) };
}

/** The fields in which two rule sets differ. */
export function changedFields(before: HouseRules, after: HouseRules): readonly RuleField[] {
  return RULE_FIELDS.filter((field) => ruleValue(before, field) !== ruleValue(after, field));
}
