import { CHEMISTRIES, CHEMISTRY } from '../chemistry';
import type { Chemistry } from '../chemistry';
import { numberIn } from './numbers';
import type { DecimalMark } from './numbers';
import { textOf } from './sheet';
import type { Cell } from './sheet';

/** What hands write for a chemistry, letters and figures only. */
const CHEMISTRY_WRITTEN: readonly (readonly [RegExp, Chemistry])[] = [
  [/^(lihv|hv|hvlipo|lipohv|lithiumhv|highvoltage|highvoltagelipo)(\d.*)?$/, 'lihv'],
  [/^(lifepo|life|lfp|lithiumironphosphate|ironphosphate)(\d.*)?$/, 'lifepo4'],
  [/^(liion|lion|lithiumion|ion|18650|21700)(\d.*)?$/, 'liion'],
  [/^(lipo|lip|lithiumpolymer|lithiumpolymeer|lithiumpolymère|polymer|lipoly)(\d.*)?$/, 'lipo'],
  [/^(nimh|nickelmetalhydride|nickelmetallhydrid)(\d.*)?$/, 'nimh'],
];

/**
 * A chemistry as hands write it.
 * @example chemistryIn('Li-Po') // => "lipo"
 * @example chemistryIn('LiFe') // => "lifepo4"
 * @example chemistryIn('lead') // => null
 */
export function chemistryIn(text: string): Chemistry | null {
  const word = text.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '');
  if (word === '') return null;
  const own = CHEMISTRIES.find((one) => one === word);
  return own ?? CHEMISTRY_WRITTEN.find(([written]) => written.test(word))?.[1] ?? null;
}

/** Cells in series, and in parallel where the text says so. */
export interface CellCount {
  readonly series: number;
  readonly parallel: number | null;
}

/**
 * `4S`, `4S2P`, `4`, `4 cells`.
 * @example cellCountIn('6s2p') // => { series: 6, parallel: 2 }
 * @example cellCountIn('many') // => null
 */
export function cellCountIn(text: string): CellCount | null {
  const match = /^(\d{1,2})\s*(?:s(?:\s*[x/]?\s*(\d{1,2})\s*p)?|cells?|zellen|cellen)?$/i.exec(text.trim());
  if (!match || Number(match[1]) === 0) return null;
  return { series: Number(match[1]), parallel: match[2] ? Number(match[2]) : null };
}

/** Cells in series by a label's volts, where they come to a whole number of cells: 7.4 V of LiPo are two. */
export function seriesByVolts(volts: number, chemistry: Chemistry): number | null {
  const { nominalMv, fullMv } = CHEMISTRY[chemistry];
  for (const each of [nominalMv, 3600, 3700, 3800, 3850, 3300, fullMv ?? nominalMv]) {
    // A nickel cell has one nominal voltage, and the lithium ones' are none of it.
    if (chemistry === 'nimh' && each !== nominalMv) continue;
    const cells = (volts * 1000) / each;
    if (Math.abs(cells - Math.round(cells)) < 0.035 && Math.round(cells) >= 1) return Math.round(cells);
  }
  return null;
}

/**
 * A capacity in mAh: with its unit, by the unit in the column's name, or a bare figure that can only be one of the two.
 * @returns null where there is no figure; 'which' where 22 may be the one or the other
 * @example capacityIn('2,2 Ah', 'Capacity', 'comma') // => 2200
 * @example capacityIn('5000', 'Capacity', 'point') // => 5000
 * @example capacityIn('22', 'Capacity', 'point') // => "which"
 */
export function capacityIn(cell: Cell, column: string, mark: DecimalMark): number | 'which' | null {
  const value = numberIn(cell, mark);
  if (value === null || value <= 0) return null;
  const unit = /m\s*ah/i.test(textOf(cell))
    ? 'mah'
    : /\d\s*ah/i.test(textOf(cell))
      ? 'ah'
      : unitNamed(column);
  if (unit === 'mah') return inThousands(cell, value);
  if (unit === 'ah' || !Number.isInteger(value)) return Math.round(value * 1_000_000) / 1_000;
  return value >= 100 ? value : 'which';
}

/**
 * A charge in mAh, as it went in or out: with its unit, by the unit in the column's name, or a bare figure that is mAh unless its
 * decimals say Ah, as in a field of the register.
 * @example chargeIn('2,1', 'Ah used', 'comma') // => 2100
 * @example chargeIn('85', 'Used', 'point') // => 85
 * @example chargeIn('2.1', 'Used', 'point') // => 2100
 */
export function chargeIn(cell: Cell, column: string, mark: DecimalMark): number | null {
  const value = numberIn(cell, mark);
  if (value === null || value < 0) return null;
  const inCell = /m\s*ah/i.test(textOf(cell)) ? 'mah' : /\d\s*ah/i.test(textOf(cell)) ? 'ah' : null;
  const unit = inCell ?? unitNamed(column) ?? (Number.isInteger(value) || value >= 100 ? 'mah' : 'ah');
  return unit === 'mah' ? inThousands(cell, value) : Math.round(value * 1_000_000) / 1_000;
}

/** `2.200 mAh` are two thousand, whatever mark this file has elsewhere: nobody measures to the thousandth of a mAh. */
function inThousands(cell: Cell, mah: number): number {
  return mah < 1_000 && /^\D*\d{1,3}[.,]\d{3}(?!\d)/.test(textOf(cell)) ? Math.round(mah * 1_000) : mah;
}

function unitNamed(column: string): 'mah' | 'ah' | null {
  return /m\s*ah/i.test(column) ? 'mah' : /\bah\b/i.test(column) ? 'ah' : null;
}

/** Grams; a kg in the cell or in the column's name makes them kilograms. */
export function gramsIn(cell: Cell, column: string, mark: DecimalMark): number | null {
  const value = numberIn(cell, mark);
  if (value === null) return null;
  return /kg/i.test(textOf(cell)) || /\bkg\b/i.test(column) ? value * 1000 : value;
}

/** The label's figures in one line of text, `LiPo 4S 5000mAh 35/70C`; what the text does not say is left out. */
export interface LabelText {
  readonly chemistry: Chemistry | null;
  readonly cells: CellCount | null;
  readonly capacityMah: number | null;
  readonly continuousC: number | null;
  readonly burstC: number | null;
}

/**
 * Reads a type's description.
 * @example labelIn('LiPo 4S 5000mAh 35/70C', 'point').cells // => { series: 4, parallel: null }
 */
export function labelIn(text: string, mark: DecimalMark): LabelText {
  const told = text.split(/[\s,;/_]+/).map(chemistryIn);
  const cells = /(?:^|[^\p{L}\p{N}])(\d{1,2})\s?s(?:\s?(\d{1,2})p)?(?![\p{L}\p{N}])/iu.exec(text);
  const mah = /(\d[\d.,' ]*)\s*m\s?ah/i.exec(text);
  const ah = /(\d+(?:[.,]\d+)?)\s*ah/i.exec(text);
  const c =
    /(\d{1,3})\s*c?\s*[/-]\s*(\d{1,3})\s*c(?!\p{L})/iu.exec(text) ?? /(\d{1,3})\s*c(?!\p{L})/iu.exec(text);
  return {
    // A high-voltage LiPo is often written as both.
    chemistry: told.includes('lihv') ? 'lihv' : (told.find((one) => one !== null) ?? null),
    cells: cells ? { series: Number(cells[1]), parallel: cells[2] ? Number(cells[2]) : null } : null,
    capacityMah: mah ? numberIn(mah[1]!, mark) : ah ? Math.round(numberIn(ah[1]!, mark)! * 1000) : null,
    continuousC: c ? Number(c[1]) : null,
    burstC: c?.[2] ? Number(c[2]) : null,
  };
}
