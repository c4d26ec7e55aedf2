import { DEFAULT_CHECKLISTS } from '../inspection';
import type { HouseRules, PresetName } from './houseRules';

/** What starts a register: the middle road most houses can live with. */
const EVEN_KEEL: HouseRules = {
  preset: 'even-keel',
  storage: {
    lipo: { targetMv: 3800, bandLowMv: 3700, bandHighMv: 3850 },
    lihv: { targetMv: 3850, bandLowMv: 3750, bandHighMv: 3900 },
    liion: { targetMv: 3680, bandLowMv: 3550, bandHighMv: 3800 },
    lifepo4: { targetMv: 3280, bandLowMv: 3220, bandHighMv: 3310 },
  },
  allowance: { highHours: 48, lowHours: 24, fieldHighHours: 336 },
  floors: {
    lipo: { rechargeSoonMv: 3500, overDischargeMv: 3200, damageMv: 3000 },
    lihv: { rechargeSoonMv: 3500, overDischargeMv: 3200, damageMv: 3000 },
    liion: { rechargeSoonMv: 3200, overDischargeMv: 2800, damageMv: 2500 },
    lifepo4: { rechargeSoonMv: 3000, overDischargeMv: 2600, damageMv: 2000 },
    nimh: { rechargeSoonMv: 1000, overDischargeMv: null, damageMv: 900 },
  },
  topMv: { lipo: 4200, lihv: 4350, liion: 4200, lifepo4: 3600 },
  overfullHoldMv: 50,
  spread: { toleranceMv: 20, watchMv: 50, retireMv: 100, watchSocPercent: 5 },
  charge: {
    homeC: 1,
    fieldC: 2,
    afterRestC: 1,
    fieldHours: 12,
    balanceEvery: 1,
    endOverMv: 10,
    overNotePercent: 105,
    overHoldPercent: 120,
    nimhPercent: 160,
    tooFastPercent: 50,
    tooLongPercent: 200,
    coldC: 5,
    warmLandingMinutes: 30,
    stillHereMinutes: 20,
  },
  flight: {
    landAtMv: { lipo: 3500, lihv: 3500, liion: 3100, lifepo4: 2900, nimh: 1000 },
    maxDodPercent: 80,
    chargedPercent: 80,
    coldC: 10,
    outHours: 48,
  },
  health: {
    weakCellMv: { watch: 100, retire: 200 },
    recurrence: { times: 3, inCharges: 5 },
    irGrowth: { watch: 1.5, retire: 2 },
    irSiblings: { watch: 1.3, retire: 2 },
    irJumpPercent: 30,
    capacityPercent: { watch: 80, retire: 70 },
    runTimeLossPercent: { watch: 20, retire: 40 },
    failedBalances: 3,
    fullDaysAYear: 30,
    leakPercentAWeek: 3,
    unknownDays: 90,
    cycles: { lipo: 300, lihv: 300, liion: 500, lifepo4: 1500, nimh: 500 },
    ageYears: { hard: 2, normal: 3, gentle: 5 },
  },
  heat: {
    useWatchC: 55,
    useHoldC: 60,
    chargeWatchC: 40,
    chargeHoldC: 45,
    nimhChargeC: 60,
    coolMinutes: 60,
  },
  bleedDays: 6,
  unlogged: { rosePercent: 15, fellPercent: 25 },
  returnDays: 30,
  nimhTopUpDays: 90,
  shelfC: 20,
  afterCrash: 'hold, inspect, watch',
  overDischarged: 'retire',
  incidents: { watchMinutes: 60, overnightHours: 12 },
  recovery: { minutes: 30, currentC: 0.1, floorMv: 2500, restHours: 24 },
  endOfLife: { reboundHours: 24, confirmDays: 180, handOver: 'drained' },
  idle: { everyDays: 30, doing: 'read' },
  retirementNames: 1,
  inspectionDays: 60,
  seasonStartDays: 60,
  baselineDays: 14,
  arrivalMv: 100,
  swelling: { watchPercent: 5, holdPercent: 10 },
  stowage: { warmC: 30, mixing: 'allowed' },
  checklists: DEFAULT_CHECKLISTS,
  restMinutes: 30,
};

/** For packs that should grow old: kept lower, moved sooner, retired on less. */
const LONG_SERVICE: HouseRules = {
  ...EVEN_KEEL,
  preset: 'long-service',
  storage: { ...EVEN_KEEL.storage, lipo: { targetMv: 3800, bandLowMv: 3750, bandHighMv: 3850 } },
  allowance: { highHours: 24, lowHours: 12, fieldHighHours: 168 },
  topMv: { ...EVEN_KEEL.topMv, lipo: 4150 },
  charge: { ...EVEN_KEEL.charge, homeC: 0.5, fieldC: 1 },
  flight: { ...EVEN_KEEL.flight, landAtMv: { ...EVEN_KEEL.flight.landAtMv, lipo: 3700 }, maxDodPercent: 60 },
  afterCrash: 'retire',
  idle: { everyDays: 30, doing: 'cycle' },
  retirementNames: 2,
  inspectionDays: 30,
  seasonStartDays: 45,
  stowage: { warmC: 25, mixing: 'kept apart' },
};

/** For packs that must be ready at a call: kept higher and longer, and paid for in shorter lives. */
const READY_STATE: HouseRules = {
  ...EVEN_KEEL,
  preset: 'ready-state',
  storage: { ...EVEN_KEEL.storage, lipo: { targetMv: 3850, bandLowMv: 3700, bandHighMv: 3900 } },
  allowance: { highHours: 168, lowHours: 48, fieldHighHours: 720 },
  charge: { ...EVEN_KEEL.charge, homeC: 1, fieldC: 3, balanceEvery: 5 },
  spread: { ...EVEN_KEEL.spread, toleranceMv: 30 },
  overDischarged: 'supervised recovery',
  idle: { everyDays: 60, doing: 'read' },
  inspectionDays: 90,
  seasonStartDays: 90,
};

/** The three rule sets a register starts from. Source: the practice's house-rule table. */
export const PRESET_RULES: Readonly<Record<PresetName, HouseRules>> = {
  'long-service': LONG_SERVICE,
  'even-keel': EVEN_KEEL,
  'ready-state': READY_STATE,
};

export const PRESET_TITLES: Readonly<Record<PresetName, string>> = {
  'long-service': 'Long life',
  'even-keel': 'Standard',
  'ready-state': 'Ready',
};

export const DEFAULT_PRESET: PresetName = 'even-keel';
