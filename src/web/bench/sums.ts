import {
  CHARGER_EFFICIENCY,
  chargeCurrent,
  chargeTime,
  dischargeTime,
  drainPlan,
  equalisingAmps,
} from '../../core/charging';
import type { CurrentLimit } from '../../core/charging';
import { CHEMISTRY, isLithium, socPercent } from '../../core/chemistry';
import type { Chemistry, LithiumChemistry } from '../../core/chemistry';
import {
  effectiveC,
  hoverOffMinutes,
  landingRestMv,
  loadCheck,
  lowestPunchPercent,
  sagMv,
  timerMinutes,
} from '../../core/flying';
import { FIELD_EFFICIENCY, furtherFlights, refills, rotationBySimulation } from '../../core/fleet';
import type { FurtherFlights } from '../../core/fleet';
import type { DrainLoad } from '../../core/lifecycle';
import { parseFigure, parseMah, parseVolts } from '../../core/reading';
import { DEFAULT_PRESET, PRESET_RULES } from '../../core/rules';
import type { HouseRules } from '../../core/rules';
import { nextUse, storageJob, storageState } from '../../core/storage';
import type { StorageState } from '../../core/storage';
import type { PackFacts } from '../../core/pack';
import {
  ampHours,
  amps,
  drainRefusalSentence,
  inTheWay,
  nextUseWords,
  ohms,
  plural,
  volts,
  voltsRefusalSentence,
} from '../../core/wording';
import type { Reader } from '../../core/wording';

/** Everything typed on the bench page. All text: what is no figure leaves its sums open and is named at its field. */
export interface BenchDraft {
  readonly chemistry: Chemistry;
  readonly series: string;
  readonly capacity: string;
  readonly cells: string;
  readonly milliohm: string;
  readonly houseC: string;
  readonly labelC: string;
  readonly channelA: string;
  readonly channelW: string;
  readonly stepA: string;
  readonly topV: string;
  readonly balanceA: string;
  readonly dischargeA: string;
  readonly dischargeW: string;
  readonly flies: string;
  readonly averageA: string;
  readonly deepest: string;
  readonly dropMv: string;
  readonly continuousC: string;
  readonly sustainedA: string;
  readonly punchA: string;
  readonly hoverA: string;
  readonly baseline: string;
  readonly boardPacks: string;
  readonly apartMv: string;
  readonly supplyW: string;
  readonly fieldWh: string;
  readonly lampV: string;
  readonly loadOhm: string;
  readonly loadW: string;
  readonly flightMin: string;
  readonly coolMin: string;
  readonly chargeMin: string;
  readonly benchChannels: string;
  readonly handlingMin: string;
  readonly dayHours: string;
  readonly fieldPackWh: string;
  readonly usablePercent: string;
  readonly refillWh: string;
  readonly fieldPrice: string;
  readonly packPrice: string;
}

export type BenchField = keyof BenchDraft;

/** One sum: what comes out, and the formula with its figures filled in; or which fields it still wants. */
export type Sum =
  | {
      readonly state: 'done';
      readonly result: string;
      readonly formula: string;
      readonly also?: string;
      readonly refused?: boolean;
    }
  | { readonly state: 'open'; readonly wants: string };

/** The fields' figures; null where nothing, or no figure, is typed. */
export interface BenchFigures {
  readonly chemistry: Chemistry;
  readonly series: number | null;
  readonly ah: number | null;
  readonly cellsMv: readonly number[] | null;
  readonly of: (field: BenchField) => number | null;
  readonly errors: Readonly<Partial<Record<BenchField, string>>>;
}

const FIGURES = [
  'series',
  'milliohm',
  'houseC',
  'labelC',
  'channelA',
  'channelW',
  'stepA',
  'topV',
  'balanceA',
  'dischargeA',
  'dischargeW',
  'averageA',
  'deepest',
  'dropMv',
  'continuousC',
  'sustainedA',
  'punchA',
  'hoverA',
  'baseline',
  'boardPacks',
  'apartMv',
  'supplyW',
  'fieldWh',
  'lampV',
  'loadOhm',
  'loadW',
  'flightMin',
  'coolMin',
  'chargeMin',
  'benchChannels',
  'handlingMin',
  'dayHours',
  'fieldPackWh',
  'usablePercent',
  'refillWh',
  'fieldPrice',
  'packPrice',
] as const satisfies readonly BenchField[];

export function benchFigures(draft: BenchDraft): BenchFigures {
  const errors: Partial<Record<BenchField, string>> = {};
  const figures = new Map<BenchField, number>();
  for (const field of FIGURES) {
    const typed = parseFigure(draft[field]);
    if (typed.outcome === 'refused') errors[field] = `“${typed.text}” is no figure.`;
    else if (typed.outcome === 'figure' && typed.value <= 0) errors[field] = 'This is more than nothing.';
    else if (typed.outcome === 'figure') figures.set(field, typed.value);
  }
  const mah = parseMah(draft.capacity);
  if (mah.outcome === 'refused') errors.capacity = `“${mah.text}” is no capacity. Type mAh, or 3.3 Ah.`;
  const series = wholeCells(figures.get('series'), errors);
  return {
    chemistry: draft.chemistry,
    series,
    ah: mah.outcome === 'figure' && mah.value > 0 ? mah.value / 1000 : null,
    cellsMv: series === null ? null : cellsOf(draft, series, errors),
    of: (field) => figures.get(field) ?? null,
    errors,
  };
}

const MOST_CELLS = 24;

function wholeCells(series: number | undefined, errors: Partial<Record<BenchField, string>>): number | null {
  if (series === undefined) return null;
  if (Number.isInteger(series) && series <= MOST_CELLS) return series;
  errors.series = 'Cells in series are a whole number up to 24.';
  return null;
}

/** One figure stands for every cell: at the bench the rest are often alike. */
function cellsOf(
  { cells, chemistry }: BenchDraft,
  series: number,
  errors: Partial<Record<BenchField, string>>,
): readonly number[] | null {
  const one = parseVolts(cells, { chemistry: isLithium(chemistry) ? chemistry : 'lipo', series: 1 });
  if (one.outcome === 'cells') return Array.from({ length: series }, () => one.cellsMv[0]!);
  const typed = parseVolts(cells, { chemistry, series });
  if (typed.outcome === 'refused') errors.cells = voltsRefusalSentence(typed.why);
  if (typed.outcome === 'pack')
    return Array.from({ length: series }, () => Math.round(typed.packMv / series));
  return typed.outcome === 'cells' ? typed.cellsMv : null;
}

const open = (wants: string): Sum => ({ state: 'open', wants });
const done = (result: string, formula: string, also?: string): Sum => ({
  state: 'done',
  result,
  formula,
  ...(also ? { also } : {}),
});

const refused = (result: string, formula: string): Extract<Sum, { state: 'done' }> => ({
  state: 'done',
  result,
  formula,
  refused: true,
});

const LIMIT_WORDS: Readonly<Record<CurrentLimit, string>> = {
  house: 'the rules’ rate decides',
  label: 'the label decides',
  'channel-amps': 'the channel’s amps decide',
  'channel-watts': 'the channel’s watts decide',
};

/** Charging current, and what decided it. */
export function currentSum(figures: BenchFigures): Sum & { readonly amps?: number } {
  const { ah, series, of } = figures;
  const houseC = of('houseC');
  const topV = of('topV');
  const danger = chargeDanger(figures);
  if (danger) return danger;
  if (ah === null || series === null || houseC === null || topV === null)
    return open('capacity, cells, a rate and a top voltage');
  const [labelC, channelA, channelW] = [of('labelC'), of('channelA'), of('channelW')];
  const packV = topV * series;
  const stepA = of('stepA') ?? 0.1;
  const decided = chargeCurrent({ capacityAh: ah, houseC, labelC, channelA, channelW, packV, stepA });
  const limits = [
    `${houseC}C × ${ampHours(ah)} = ${amps(houseC * ah)}`,
    `label ${labelC ?? 1}C = ${amps((labelC ?? 1) * ah)}`,
    channelA === null ? null : amps(channelA),
    channelW === null ? null : `${channelW} W ÷ ${packV.toFixed(1)} V = ${amps(channelW / packV)}`,
  ].filter(Boolean);
  return {
    ...done(
      `${amps(decided.amps)}: ${LIMIT_WORDS[decided.decidedBy]}`,
      `the least of ${limits.join(', ')}, rounded down to ${stepA} A`,
      `1C is ${amps(ah)}; ½C ${amps(ah / 2)}; 2C ${amps(ah * 2)}.`,
    ),
    amps: decided.amps,
  };
}

/** Packs joined on a parallel board: the current to set, and what flows between them when they are joined. */
export function boardSum(figures: BenchFigures): Sum {
  const { ah, series, of } = figures;
  const [houseC, packs, apartMv, milliohm] = [of('houseC'), of('boardPacks'), of('apartMv'), of('milliohm')];
  if (ah === null || series === null || houseC === null || packs === null)
    return open('capacity, cells, a rate and the number of packs');
  const each = Math.min(houseC, of('labelC') ?? 1) * ah;
  const set = `${packs} × ${amps(each)} = ${amps(packs * each)}`;
  if (apartMv === null || milliohm === null)
    return done(
      `Set ${amps(packs * each)}`,
      set,
      'With volts apart and resistance, what flows when they are joined.',
    );
  const flows = equalisingAmps({ series, differenceMv: apartMv, cellMilliohm: [milliohm, milliohm] });
  const formula = `${set}; joined: ${apartMv} mV × ${series} ÷ (2 × ${ohms(milliohm)} × ${series}) = ${amps(flows)}`;
  return flows > ah + 1e-9
    ? refused(`Do not join them: ${amps(flows)} would flow, more than 1C (${amps(ah)})`, formula)
    : done(
        `Set ${amps(packs * each)}; ${amps(flows)} flows as they are joined`,
        formula,
        `Up to 1C, ${amps(ah)}, is allowed.`,
      );
}

/** Two packs charged at once on one supply: what each gets of its watts. */
export function supplySum(figures: BenchFigures): Sum & { readonly amps?: number } {
  const { series, of } = figures;
  const [supplyW, topV] = [of('supplyW'), of('topV')];
  const alone = currentSum(figures).amps;
  if (supplyW === null || series === null || topV === null || !alone)
    return open('the charging current above, and the supply’s watts');
  const packV = topV * series;
  const asked = (2 * alone * packV) / CHARGER_EFFICIENCY;
  const formula = `2 × ${amps(alone)} × ${packV.toFixed(1)} V ÷ ${CHARGER_EFFICIENCY} = ${Math.round(asked)} W`;
  if (asked <= supplyW)
    return done(`Two at ${amps(alone)} each: ${Math.round(asked)} of ${supplyW} W`, formula);
  const each = (supplyW * CHARGER_EFFICIENCY) / 2 / packV;
  return done(
    `Two at ${amps(Math.floor(each * 10) / 10)} each, or one after the other at ${amps(alone)}`,
    `${formula}, more than ${supplyW} W; ${supplyW} W × ${CHARGER_EFFICIENCY} ÷ 2 ÷ ${packV.toFixed(1)} V = ${amps(each)}`,
  );
}

/** Charge given back to a field pack in place of a load: what arrives there. */
export function giveBackSum(figures: BenchFigures, rules: HouseRules): Sum {
  const { chemistry, ah, series, cellsMv, of } = figures;
  if (!isLithium(chemistry)) return open('a lithium pack');
  const room = of('fieldWh');
  if (ah === null || series === null || !cellsMv || room === null)
    return open('capacity, cells, and the room in the field pack');
  const job = storageJob(pack(chemistry, series, ah, of('labelC')), cellsMv, rules);
  if (job?.direction !== 'discharge' || job.inTheWay || job.chargeAh === 0)
    return open('a pack above its storage volts');
  const meanV = ((job.targetMv + Math.max(...cellsMv)) / 2000) * series;
  const wh = job.chargeAh * meanV * CHARGER_EFFICIENCY;
  const formula = `${ampHours(job.chargeAh)} × ${meanV.toFixed(1)} V × ${CHARGER_EFFICIENCY} = ${wh.toFixed(0)} Wh`;
  return wh <= room
    ? done(`${wh.toFixed(0)} Wh arrive: ${Math.floor(room / wh)} such packs fit`, formula)
    : refused(`The field pack has no room: ${wh.toFixed(0)} Wh into ${room} Wh`, formula);
}

/** A day of one craft has no more flights, nor a bench more channels. */
const MOST_FLIGHTS = 200;
const MOST_CHANNELS = 100;

/** How many packs keep a craft flying through a day with the bench beside it. */
export function rotationSum(figures: BenchFigures): Sum {
  const { of } = figures;
  const [flightMin, coolMin, chargeMin] = [of('flightMin'), of('coolMin'), of('chargeMin')];
  const [channels, handlingMin, dayHours] = [of('benchChannels'), of('handlingMin'), of('dayHours')];
  if (!flightMin || !coolMin || !chargeMin || !channels || !handlingMin || !dayHours)
    return open(
      'the minutes of a flight, of cooling, charging and handling, the channels, and the hours of the day',
    );
  const facts = {
    flightMin,
    coolMin,
    chargeMin,
    channels: Math.min(MOST_CHANNELS, Math.max(1, Math.floor(channels))),
    handlingMin,
  };
  if ((dayHours * 60) / flightMin > MOST_FLIGHTS) return open(`a day of at most ${MOST_FLIGHTS} flights`);
  const { packs, flights, keepsUp } = rotationBySimulation(facts, dayHours * 60);
  const formula = `1 + ⌈(${coolMin} + ${chargeMin} + ${handlingMin}) ÷ ${flightMin}⌉ = ${1 + Math.ceil((coolMin + chargeMin + handlingMin) / flightMin)}`;
  const result = `${plural(packs, 'pack')} for ${plural(flights, 'flight')}, and one spare`;
  if (keepsUp) return done(result, formula);
  return done(
    result,
    formula,
    `The channels fill a pack in ${(chargeMin / facts.channels).toFixed(0)} min and a flight lasts ${flightMin}: what cannot be charged again in time must come along charged.`,
  );
}

/** What a field pack fills again, and what a further flight costs by it. */
export function refillSum(figures: BenchFigures): Sum {
  const { ah, series, chemistry, of } = figures;
  const [wattHours, usable, fieldPrice, packPrice] = [
    of('fieldPackWh'),
    of('usablePercent'),
    of('fieldPrice'),
    of('packPrice'),
  ];
  const deepest = of('deepest');
  const worked =
    ah !== null && series !== null && deepest !== null
      ? (ah * series * CHEMISTRY[chemistry].nominalMv * deepest) / 100_000
      : null;
  const refillWh = of('refillWh') ?? worked;
  if (wattHours === null || usable === null || refillWh === null)
    return open('what the field pack holds, what of it may be used, and what a flight takes out');
  const count = refills({ wattHours, usableShare: Math.min(1, usable / 100) }, refillWh);
  const formula = `${wattHours} Wh × ${usable} % × ${FIELD_EFFICIENCY} ÷ ${refillWh.toFixed(0)} Wh = ${((wattHours * Math.min(1, usable / 100) * FIELD_EFFICIENCY) / refillWh).toFixed(1)}`;
  if (count === 0) return refused('It fills not one pack', formula);
  const further =
    fieldPrice !== null && packPrice !== null ? furtherFlights(fieldPrice, count, packPrice) : null;
  return done(
    `${plural(count, 'refill')} a day`,
    formula,
    further ? pricesSentence(further, count) : undefined,
  );
}

function pricesSentence(
  { byFieldPack, byFlightPack, breakEven }: FurtherFlights,
  refillsADay: number,
): string {
  const prices = `A further flight a day costs ${byFieldPack.toFixed(0)} by the field pack and ${byFlightPack.toFixed(0)} by one more pack`;
  return breakEven <= refillsADay
    ? `${prices}: from ${plural(breakEven, 'further flight')} on the field pack is cheaper.`
    : `${prices}: more packs are cheaper.`;
}

/** Why nobody should set a charger so: a top above what the chemistry may ever see, or cells no ordinary charge may start on. */
function chargeDanger({ chemistry, cellsMv, of }: BenchFigures): Extract<Sum, { state: 'done' }> | null {
  const { fullMv, name } = CHEMISTRY[chemistry];
  const topV = of('topV');
  if (fullMv !== null && topV !== null && Math.round(topV * 1000) > fullMv)
    return refused(
      `Not to ${topV.toFixed(2)} V a cell`,
      `${name} is full at ${volts(fullMv)} V. Above it plating begins, and such packs have burnt hours later.`,
    );
  const lowest = cellsMv ? Math.min(...cellsMv) : null;
  const floorMv = PRACTICE_FLOORS[chemistry].damageMv;
  if (lowest !== null && isLithium(chemistry) && lowest < floorMv)
    return refused(
      'Not by an ordinary charge',
      `A cell at ${volts(lowest)} V is below ${volts(floorMv)} V, its damage floor: the pack is out of use, and a custodian decides.`,
    );
  return null;
}

const PRACTICE_FLOORS = PRESET_RULES[DEFAULT_PRESET].floors;

/** How long the charge takes, phase by phase. */
export function chargeTimeSum(figures: BenchFigures): Sum {
  const { chemistry, ah, cellsMv, of } = figures;
  if (!isLithium(chemistry)) return open('a lithium pack: a nickel charge ends on a peak, not by this sum');
  const danger = chargeDanger(figures);
  if (danger) return danger;
  const current = currentSum(figures).amps;
  const milliohm = of('milliohm');
  const topV = of('topV');
  if (ah === null || !cellsMv || milliohm === null || topV === null || !current)
    return open('the charging current above, cells and resistance');
  const estimate = chargeTime({
    chemistry,
    capacityAh: ah,
    cellsMv,
    cellMilliohm: milliohm,
    amps: current,
    watts: of('channelW'),
    topMv: topV * 1000,
    cutOffC: 0.05,
    balanceA: cellsMv.length > 1 ? (of('balanceA') ?? 0.3) : null,
  });
  const { constantCurrentMinutes, constantVoltageMinutes, balanceMinutes } = estimate;
  return done(
    minutesWords(estimate.minutes),
    `${amps(current)} until OCV + I·R reaches ${topV.toFixed(2)} V: ${minutesWords(constantCurrentMinutes)}; then (${topV.toFixed(2)} V − OCV) ÷ ${ohms(milliohm)} down to C/20: ${minutesWords(constantVoltageMinutes)}; then balancing: ${minutesWords(balanceMinutes)}`,
    `Puts in ${ampHours(estimate.chargeAh)}.`,
  );
}

/** What brings the pack to storage, how long the charger's load takes, and what the next flying day makes of it. */
export function storageSum(
  figures: BenchFigures,
  rules: HouseRules,
  fliesAt: number | null,
  reader: Reader,
): Sum {
  const { chemistry, ah, series, cellsMv, of } = figures;
  if (!isLithium(chemistry)) return open('a lithium pack: nickel has no storage voltage');
  if (ah === null || series === null || !cellsMv) return open('capacity and cells');
  const facts = pack(chemistry, series, ah, of('labelC'));
  const job = storageJob(facts, cellsMv, rules);
  if (!job) return open('capacity and cells');
  if (job.inTheWay)
    return refused(
      'Not through the main lead',
      `${inTheWay(job.inTheWay)}. Every cell moves by the same charge.`,
    );
  if (job.direction === 'charge') {
    const danger = chargeDanger({ ...figures, of: (field) => (field === 'topV' ? null : of(field)) });
    if (danger) return danger;
  }
  const decidingMv = job.direction === 'charge' ? Math.min(...cellsMv) : Math.max(...cellsMv);
  const now = socPercent(chemistry, decidingMv);
  // The other cells may let the deciding one go less far than to the target.
  const end = now + ((job.direction === 'charge' ? 1 : -1) * job.chargeAh * 100) / ah;
  const sum = `${ampHours(ah)} × |${now.toFixed(0)} % − ${end.toFixed(0)} %| = ${ampHours(job.chargeAh)}`;
  const to = `to ${volts(job.targetMv)} V a cell, ${volts(job.packTargetMv)} V the pack`;
  const also = nextUseWords(nextUse(justRead(facts, cellsMv, rules, reader.now), fliesAt), reader);
  if (job.direction === 'charge') {
    const minutes = (job.chargeAh / job.chargeAmps) * 60;
    return done(
      `Put in ${ampHours(job.chargeAh)} at ${amps(job.chargeAmps)}: ${minutesWords(minutes)}, ${to}`,
      `${sum}; ÷ ${amps(job.chargeAmps)} × 60 = ${minutesWords(minutes)}`,
      also,
    );
  }
  const dischargeA = of('dischargeA');
  if (dischargeA === null) return done(`Take out ${ampHours(job.chargeAh)}, ${to}`, sum, also);
  const watts = of('dischargeW');
  const job2 = {
    chemistry,
    capacityAh: ah,
    series,
    fromPercent: now,
    toPercent: Math.min(now, end),
    amps: dischargeA,
    watts,
  };
  const { minutes, decidedBy } = dischargeTime(job2);
  const limit = decidedBy === 'watts' ? `${watts} W ÷ the falling pack volts` : amps(dischargeA);
  return done(
    `Take out ${ampHours(job.chargeAh)}: ${minutesWords(minutes)}, ${to}`,
    `${sum}; at ${limit} along the curve = ${minutesWords(minutes)}`,
    minutes > LONG_MINUTES
      ? `Long: an external load, a field pack, or hovering it off is quicker. ${also}`
      : also,
  );
}

const LONG_MINUTES = 180;

/** How long to fly, and what to land at. */
export function timerSum(figures: BenchFigures): Sum {
  const { chemistry, ah, series, of } = figures;
  const [averageA, deepest] = [of('averageA'), of('deepest')];
  if (ah === null || series === null || averageA === null || deepest === null)
    return open('capacity, cells, average amps and how deep');
  const share = Math.min(100, deepest) / 100;
  const minutes = timerMinutes(ah, share, averageA);
  const formula = `${share} × ${ampHours(ah)} × 60 ÷ ${amps(averageA)} = ${minutesWords(minutes)}`;
  if (!isLithium(chemistry)) return done(minutesWords(minutes), formula);
  const restMv = Math.round(landingRestMv(chemistry, share));
  const drop = of('dropMv');
  const rested = `${volts(restMv)} V a cell rested, ${volts(restMv * series)} V the pack`;
  const loaded =
    drop === null
      ? ''
      : `; ${volts(restMv - drop)} V a cell in the hover, ${volts((restMv - drop) * series)} V the pack`;
  return done(`${minutesWords(minutes)}, landing at ${rested}${loaded}`, formula);
}

/** How the sustained load stands against the rating. */
export function loadSum({ ah, of }: BenchFigures): Sum {
  const [continuousC, sustainedA] = [of('continuousC'), of('sustainedA')];
  if (ah === null || continuousC === null || sustainedA === null)
    return open('capacity, the continuous rating and sustained amps');
  const { ratedA, share, effort } = loadCheck(ah, continuousC, sustainedA);
  const words = {
    gentle: 'within half its rating: good for a long life',
    hard: 'within its rating, over half of it: shortens life',
    over: 'over its rating',
  };
  return done(
    `${Math.round(share * 100)} %: ${words[effort]}`,
    `${amps(sustainedA)} ÷ (${continuousC}C × ${ampHours(ah)} = ${amps(ratedA)})`,
  );
}

/** What a punch does to the volts, and from what charge on a cell would dip too low. */
export function sagSum({ chemistry, series, of }: BenchFigures, rules: HouseRules): Sum {
  const [punchA, milliohm] = [of('punchA'), of('milliohm')];
  if (punchA === null || milliohm === null || series === null)
    return open('amps of the punch and resistance');
  const sag = sagMv(punchA, milliohm);
  const formula = `${amps(punchA)} × ${ohms(milliohm)} = ${Math.round(sag)} mV a cell`;
  if (!isLithium(chemistry)) return done(`Sags ${Math.round(sag)} mV a cell`, formula);
  const floorMv = rules.floors[chemistry].overDischargeMv!;
  const percent = lowestPunchPercent(chemistry, punchA, milliohm, floorMv);
  return done(
    percent >= 100
      ? `Sags ${Math.round(sag)} mV a cell: even full it would dip below ${volts(floorMv)} V`
      : `Sags ${Math.round(sag)} mV a cell; keep ${Math.ceil(percent)} % in it for such a punch`,
    `${formula}; every cell stays above ${volts(floorMv)} V while OCV is above ${volts(Math.round(floorMv + sag))} V`,
  );
}

/** Hovering it down to storage. */
export function hoverOffSum({ chemistry, ah, cellsMv, of }: BenchFigures, rules: HouseRules): Sum {
  const hoverA = of('hoverA');
  if (!isLithium(chemistry)) return open('a lithium pack');
  if (ah === null || !cellsMv || hoverA === null) return open('capacity, cells and hover amps');
  const { targetMv } = rules.storage[chemistry];
  const job = storageJob(pack(chemistry, cellsMv.length, ah, null), cellsMv, rules);
  if (job?.inTheWay)
    return refused('Not in the hover', `${inTheWay(job.inTheWay)}. In the air nothing watches single cells.`);
  const now = socPercent(chemistry, Math.max(...cellsMv));
  const target = Math.min(now, job?.direction === 'discharge' ? now - (job.chargeAh * 100) / ah : now);
  const minutes = hoverOffMinutes(now, target, ah, hoverA);
  if (minutes === 0)
    return done(
      'Nothing to hover off',
      `${now.toFixed(0)} % is not above ${socPercent(chemistry, targetMv).toFixed(0)} %`,
    );
  const drop = of('dropMv') ?? 0;
  return done(
    `${minutesWords(minutes)} of hover${drop > 0 ? `, landing at ${volts(targetMv - drop)} V a cell in the hover` : ''}`,
    `(${now.toFixed(0)} % − ${target.toFixed(0)} %) × ${ampHours(ah)} × 60 ÷ ${amps(hoverA)} = ${minutesWords(minutes)}`,
  );
}

/** What is left of the label's rating. */
export function effectiveSum({ of }: BenchFigures): Sum {
  const [labelC, baseline, milliohm] = [of('continuousC'), of('baseline'), of('milliohm')];
  if (labelC === null || baseline === null || milliohm === null)
    return open('the continuous rating, its resistance when new and now');
  const left = effectiveC(labelC, baseline, milliohm);
  return done(`${left.toFixed(1)}C left of ${labelC}C`, `${labelC}C × ${ohms(baseline)} ÷ ${ohms(milliohm)}`);
}

/** Emptying a retired pack through a lamp or a resistor, watched and outdoors. */
export function lastDischargeSum({ chemistry, series, ah, cellsMv, of }: BenchFigures): Sum {
  const [lampV, ohmic, ratedW] = [of('lampV'), of('loadOhm'), of('loadW')];
  if (series === null || ah === null || ratedW === null || (lampV === null && ohmic === null))
    return open('cells in series, capacity, and a lamp’s volts or a resistor’s ohms with its watts');
  const load: DrainLoad =
    lampV === null ? { by: 'resistor', ohms: ohmic ?? 0, ratedW } : { by: 'lamp', ratedV: lampV, ratedW };
  const fromMv = cellsMv ? Math.max(...cellsMv) : null;
  const answer = drainPlan({ chemistry, series, capacityMah: ah * 1000 }, fromMv, load);
  if (answer.outcome === 'refused') return done('Not with this load', drainRefusalSentence(answer.why));
  if (answer.outcome === 'by-charger') return open('a lamp or a resistor');
  const { startA, peakW, hours, wattHours, tailHours } = answer.plan;
  return done(
    `${minutesWords(hours * 60)} to empty, ${amps(startA)} and ${Math.round(peakW)} W at first`,
    lampV === null
      ? `I = U ÷ ${ohmic} Ω along the falling curve, ${Math.round(wattHours)} Wh in all`
      : `I = ${ratedW} W ÷ ${lampV} V × (U ÷ ${lampV} V)^0.55 along the falling curve, ${Math.round(wattHours)} Wh in all`,
    `${minutesWords(tailHours * 60)} more until it reads nothing. Outdoors and watched; read it again after a day.`,
  );
}

function pack(chemistry: LithiumChemistry, series: number, ah: number, chargeC: number | null): PackFacts {
  return {
    id: '' as PackFacts['id'],
    chemistry,
    series,
    parallel: 1,
    capacityMah: ah * 1000,
    continuousC: null,
    burstC: null,
    chargeC,
    dutyClass: 'normal',
    fieldPack: false,
    smart: null,
    inServiceAt: null,
    placeTemperatures: [],
  };
}

/** The bench knows no history: the cells count as read now. */
function justRead(
  facts: PackFacts,
  cellsMv: readonly number[],
  rules: HouseRules,
  now: number,
): StorageState {
  return storageState(facts, [{ kind: 'read', at: now, cellsMv, records: [] }], rules, now);
}

/**
 * Minutes as a timer or a person would say them.
 */
export function minutesWords(minutes: number): string {
  if (minutes < 10) return `${minutes.toFixed(1)} min`;
  if (minutes < 120) return `${Math.round(minutes)} min`;
  return `${Math.floor(minutes / 60)} h ${String(Math.round(minutes % 60)).padStart(2, '0')} min`;
}
