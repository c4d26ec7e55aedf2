import { isLithium } from '../chemistry';
import type { Chemistry } from '../chemistry';
import type { PackTypeFacts } from '../pack';
import type { HouseRules } from '../rules';
import { riskOf } from './craft';
import type { CraftFacts } from './craft';

/** What a craft looks at in a pack: its label, and how it is by now. */
export interface FitPack extends Pick<PackTypeFacts, 'chemistry' | 'series' | 'capacityMah' | 'continuousC'> {
  readonly connector: string | null;
  readonly massG: number | null;
  /** As last measured; the label's where nobody asks about one pack but about a type. */
  readonly measuredMah: number;
  readonly onWatch: boolean;
}

/** A type's label as registers keep it: what nobody wrote down may be missing. */
type Label = Pick<FitPack, 'chemistry' | 'series' | 'capacityMah'> & {
  readonly continuousC?: number | null | undefined;
  readonly connector?: string | null | undefined;
  readonly massG?: number | null | undefined;
};

/**
 * A pack as a craft sees it: its type's label, and how it is by now. A type by itself is taken for sound and as large as its label says.
 * @param now its measured capacity, and whether it is on caution
 */
export function fitPackOf(
  { chemistry, series, capacityMah, continuousC = null, connector = null, massG = null }: Label,
  now: { readonly measuredMah: number; readonly onWatch: boolean } = {
    measuredMah: capacityMah,
    onWatch: false,
  },
): FitPack {
  return { chemistry, series, capacityMah, continuousC, connector, massG, ...now };
}

/** A lead that joins a craft's connector to a pack's. */
export interface FitAdapter {
  readonly name: string;
  readonly from: string;
  readonly to: string;
}

type Range = 'below' | 'above';

/** One check of a pack against a craft, with the figures its sentence needs. */
export type FitCheck =
  | { readonly check: 'chemistry'; readonly outcome: FitOutcome; readonly chemistry: Chemistry }
  | {
      readonly check: 'cells';
      readonly outcome: FitOutcome;
      readonly cells: number;
      readonly least: number;
      readonly most: number;
    }
  | {
      readonly check: 'cut-off';
      readonly outcome: FitOutcome;
      readonly why: 'holds' | 'ruins' | 'low' | 'early' | 'nickel' | 'none' | 'unknown';
      /** What the setting comes to for each cell that is really fitted, millivolts; null where it comes to nothing. */
      readonly cellMv: number | null;
      readonly setCells: number | null;
      readonly setMv: number | null;
      readonly cells: number;
      /** The line it was held against, millivolts a cell. */
      readonly limitMv: number | null;
    }
  | {
      readonly check: 'load';
      readonly outcome: FitOutcome;
      readonly ratedA: number | null;
      readonly wantedA: number | null;
      readonly sustainedA: number | null;
    }
  | {
      readonly check: 'capacity' | 'mass';
      readonly outcome: FitOutcome;
      readonly value: number | null;
      readonly limit: number | null;
      readonly side: Range | null;
    }
  | {
      readonly check: 'connector';
      readonly outcome: FitOutcome;
      readonly craft: string | null;
      readonly pack: string | null;
      readonly adapter: string | null;
    }
  | { readonly check: 'caution'; readonly outcome: FitOutcome; readonly risk: ReturnType<typeof riskOf> };

export const FIT_OUTCOMES = ['ok', 'caution', 'refused'] as const;
/** `caution` is said and may be flown; nothing that is refused is handed out. */
export type FitOutcome = (typeof FIT_OUTCOMES)[number];

/** Twice its sustained current is what a pack must be rated for: for a long life load stays within half the rating. Source: the practice. */
const RATING_FACTOR = 2;

/** Figures as typed have decimals that binary cannot hold: 3.3 Ah × 30 C is 99, not a hair less. */
const ROUNDING = 1e-6;

/**
 * Whether a pack is right for a craft: every check, in the order of what goes wrong worst. An unknown figure on either side is a caution, since
 * nobody can say that it fits.
 * @param adapters leads that lie ready between a craft's connector (`from`) and a pack's (`to`)
 */
export function fit(
  pack: FitPack,
  craft: CraftFacts,
  rules: Pick<HouseRules, 'floors' | 'flight'>,
  adapters: readonly FitAdapter[] = [],
): readonly FitCheck[] {
  return [
    chemistryCheck(pack, craft),
    cellsCheck(pack, craft),
    cutOffCheck(pack, craft, rules),
    loadCheck(pack, craft),
    rangeCheck('capacity', pack.capacityMah, craft.capacityMah),
    rangeCheck('mass', pack.massG, craft.massG),
    connectorCheck(pack, craft, adapters),
    cautionCheck(pack, craft),
  ];
}

/**
 * The gravest of some outcomes; `ok` for none.
 * @example worstOutcome([{ outcome: 'ok' }, { outcome: 'caution' }]) // => "caution"
 */
export function worstOutcome(checks: readonly { readonly outcome: FitOutcome }[]): FitOutcome {
  const grade = Math.max(0, ...checks.map(({ outcome }) => FIT_OUTCOMES.indexOf(outcome)));
  return FIT_OUTCOMES[grade]!;
}

function chemistryCheck({ chemistry }: FitPack, { chemistries }: CraftFacts): FitCheck {
  return { check: 'chemistry', outcome: chemistries.includes(chemistry) ? 'ok' : 'refused', chemistry };
}

/** More cells can burn the craft; with fewer it is weak, and its cut-off stands for another count. */
function cellsCheck({ series }: FitPack, { cells: { least, most } }: CraftFacts): FitCheck {
  const outcome = series > most ? 'refused' : series < least ? 'caution' : 'ok';
  return { check: 'cells', outcome, cells: series, least, most };
}

/**
 * What a cut-off comes to for each cell that is really fitted: the volts set, spread over the pack's cells. Millivolts.
 * @example cutOffPerCell({ cells: 4, cellMv: 3300 }, 5) // => 2640
 * @example cutOffPerCell({ cells: 3, cellMv: 3200 }, 4) // => 2400
 */
export function cutOffPerCell(
  set: { readonly cells: number; readonly cellMv: number },
  series: number,
): number {
  return Math.round((set.cells * set.cellMv) / series);
}

/**
 * A cut-off is judged by the real cells. Set for fewer than are fitted it drains the pack to ruin; set for more, or for another chemistry, it
 * trips before the pack is due to land; the nickel mode has none for a lithium pack.
 */
function cutOffCheck(
  { chemistry, series }: FitPack,
  { cutOff }: CraftFacts,
  { floors, flight }: Pick<HouseRules, 'floors' | 'flight'>,
): FitCheck {
  const nothing = {
    check: 'cut-off',
    cellMv: null,
    setCells: null,
    setMv: null,
    cells: series,
    limitMv: null,
  } as const;
  if (cutOff.mode === 'nickel')
    return isLithium(chemistry)
      ? { ...nothing, outcome: 'refused', why: 'nickel' }
      : { ...nothing, outcome: 'ok', why: 'holds' };
  if (cutOff.mode !== 'lithium') return { ...nothing, outcome: 'caution', why: cutOff.mode };
  const cellMv = cutOffPerCell(cutOff, series);
  const told = {
    check: 'cut-off',
    cellMv,
    setCells: cutOff.cells,
    setMv: cutOff.cellMv,
    cells: series,
  } as const;
  const damageMv = floors[chemistry].damageMv;
  if (cellMv < damageMv) return { ...told, outcome: 'refused', why: 'ruins', limitMv: damageMv };
  // Right for another count only by chance: it stands above what ruins a cell, and below what was meant.
  if (cutOff.cells < series) return { ...told, outcome: 'caution', why: 'low', limitMv: damageMv };
  const landAtMv = flight.landAtMv[chemistry];
  if (cellMv > landAtMv) return { ...told, outcome: 'caution', why: 'early', limitMv: landAtMv };
  return { ...told, outcome: 'ok', why: 'holds', limitMv: damageMv };
}

/** By the label's rate on what the pack still holds: the safer of label and measure. */
function loadCheck({ continuousC, capacityMah, measuredMah }: FitPack, { sustainedA }: CraftFacts): FitCheck {
  const ratedA = continuousC === null ? null : (continuousC * Math.min(capacityMah, measuredMah)) / 1000;
  const wantedA = sustainedA === null ? null : sustainedA * RATING_FACTOR;
  const outcome =
    ratedA === null || wantedA === null ? 'caution' : ratedA >= wantedA - ROUNDING ? 'ok' : 'refused';
  return { check: 'load', outcome, ratedA, wantedA, sustainedA };
}

function rangeCheck(
  check: 'capacity' | 'mass',
  value: number | null,
  { least, most }: CraftFacts['massG'],
): FitCheck {
  if (least === null && most === null) return { check, outcome: 'ok', value, limit: null, side: null };
  if (value === null) return { check, outcome: 'caution', value, limit: most ?? least, side: null };
  if (least !== null && value < least)
    return { check, outcome: 'refused', value, limit: least, side: 'below' };
  if (most !== null && value > most) return { check, outcome: 'refused', value, limit: most, side: 'above' };
  return { check, outcome: 'ok', value, limit: null, side: null };
}

function connectorCheck(
  { connector: pack }: FitPack,
  { connector: craft }: CraftFacts,
  adapters: readonly FitAdapter[],
): FitCheck {
  const told = { check: 'connector', craft, pack, adapter: null } as const;
  if (craft === null || pack === null) return { ...told, outcome: 'caution' };
  if (same(craft, pack)) return { ...told, outcome: 'ok' };
  const adapter = adapters.find(({ from, to }) => same(from, craft) && same(to, pack));
  return { ...told, adapter: adapter?.name ?? null, outcome: adapter ? 'ok' : 'refused' };
}

function same(one: string, other: string): boolean {
  return one.trim().toLowerCase() === other.trim().toLowerCase();
}

function cautionCheck({ onWatch }: FitPack, craft: CraftFacts): FitCheck {
  const risk = riskOf(craft);
  return { check: 'caution', outcome: onWatch && risk ? 'refused' : 'ok', risk };
}

/** A cut-off is set on so many millivolts. */
const CUT_OFF_STEP_MV = 50;

/**
 * What must be set on the craft so that packs of this chemistry and count fly on it: a cut-off for them, midway between what ruins a cell and
 * what it is to land at. Null where the cut-off is not all that stands in the way.
 */
export function cutOffTask(
  checks: readonly FitCheck[],
  chemistry: Chemistry,
  { floors, flight }: Pick<HouseRules, 'floors' | 'flight'>,
): { readonly cells: number; readonly cellMv: number } | null {
  const cutOff = checks.find(
    (one): one is Extract<FitCheck, { check: 'cut-off' }> => one.check === 'cut-off',
  );
  if (cutOff?.outcome !== 'refused') return null;
  if (worstOutcome(checks.filter((one) => one !== cutOff)) === 'refused') return null;
  const midwayMv = (floors[chemistry].damageMv + flight.landAtMv[chemistry]) / 2;
  return { cells: cutOff.cells, cellMv: Math.ceil(midwayMv / CUT_OFF_STEP_MV) * CUT_OFF_STEP_MV };
}
