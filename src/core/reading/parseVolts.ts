import { CHEMISTRY } from '../chemistry';
import type { PackTypeFacts } from '../pack';

/** Why typed volts cannot be taken as they stand; the values are those its sentence needs. */
export type VoltsRefusal =
  | { readonly code: 'not-a-number'; readonly token: string }
  | { readonly code: 'too-coarse'; readonly token: string }
  | { readonly code: 'negative'; readonly token: string }
  | { readonly code: 'impossible'; readonly cell: number; readonly mv: number; readonly maxMv: number }
  | { readonly code: 'too-few'; readonly given: number; readonly wanted: number }
  | { readonly code: 'too-many'; readonly given: number; readonly wanted: number }
  | {
      readonly code: 'pack-total';
      readonly packMv: number;
      readonly averageMv: number;
      readonly wanted: number;
    }
  | { readonly code: 'total-disagrees'; readonly sumMv: number; readonly totalMv: number };

/** What a hand typed where volts are wanted, understood. `cellsMv` of a refusal are the cells read so far. */
export type TypedVolts =
  | { readonly outcome: 'empty' }
  | { readonly outcome: 'cells'; readonly cellsMv: readonly number[]; readonly ignored: readonly string[] }
  | { readonly outcome: 'pack'; readonly packMv: number; readonly ignored: readonly string[] }
  | { readonly outcome: 'refused'; readonly why: VoltsRefusal; readonly cellsMv: readonly number[] };

type CellCount = Pick<PackTypeFacts, 'chemistry' | 'series'>;

/**
 * Understands volts the way hands and meters write them: `384 383 385 384`, `3,84 3,83`, `3.84/3.83`, `3840 3835`,
 * or a pasted meter line with cell numbers, units and a total. The order typed is the order of the cells.
 * A pack without cell taps (NiMH) is read by its total. For every other pack the total alone is refused: it hides
 * the weak cell that decides.
 * @returns cells in millivolts, or the first reason the text cannot be taken
 * @example parseVolts('384 383 385 384', { chemistry: 'lipo', series: 4 }) // => { outcome: 'cells', cellsMv: [3840, 3830, 3850, 3840], ignored: [] }
 * @example parseVolts('9.6', { chemistry: 'nimh', series: 8 }) // => { outcome: 'pack', packMv: 9600, ignored: [] }
 */
export function parseVolts(text: string, pack: CellCount): TypedVolts {
  if (text.trim() === '') return { outcome: 'empty' };
  const line = readMeterLine(text);
  const values: number[] = [];
  for (const token of line.tokens) {
    const value = voltsOfToken(token);
    if (typeof value !== 'number') return refused(value, values);
    values.push(value);
  }
  return judge(values, line, pack);
}

interface MeterLine {
  readonly tokens: readonly string[];
  readonly totalMv: number | null;
  readonly ignored: readonly string[];
}

/** Figures a meter prints that are not cell volts; they are named back to the person rather than silently dropped. */
const NOT_CELLS = [
  /(?:Δ|\b(?:diff|delta|spread|min|max|avg|mean)\b)\s*[:=]?\s*\d+(?:[.,]\d+)?\s*m?v?\b/giu,
  /\d+(?:[.,]\d+)?\s*(?:%|°\s*[cf]\b|mah\b|ah\b|wh\b|m?(?:ω|ohm)s?(?![\p{L}])|a\b)/giu,
  /(?<![\d.,])\d{1,2}\s*mv\b/giu,
];
const TOTAL = /\b(?:total|pack|sum|bat(?:t(?:ery)?)?)\b\s*[:=]?\s*(\d{1,3}(?:[.,]\d{1,3})?)\s*v?\b/iu;
const CELL_NUMBER =
  /\b(?:cell|c)\s*#?\s*\d{1,2}\b(?![.,]\d)\s*[:=]?|(?<![\d.,])#?\d{1,2}\s*[:=)](?=\s*\d)/giu;

function readMeterLine(text: string): MeterLine {
  const ignored: string[] = [];
  let rest = text;
  for (const pattern of NOT_CELLS) {
    rest = rest.replace(pattern, (found) => {
      ignored.push(found.trim());
      return ' ';
    });
  }
  let totalMv: number | null = null;
  rest = rest.replace(TOTAL, (_, volts: string) => {
    totalMv = Math.round(Number(volts.replace(',', '.')) * 1000);
    return ' ';
  });
  rest = rest.replace(CELL_NUMBER, ' ').replace(/(\d)\s*m?v(?:olts?)?\b/giu, '$1 ');
  return { tokens: tokensOf(rest), totalMv, ignored };
}

/** A comma is a decimal mark when no point is, and one or two figures stand before it; otherwise it separates. */
function tokensOf(text: string): string[] {
  const pointDecimals = /\d\.\d/.test(text);
  const decimals = pointDecimals ? text : text.replace(/(?<![\d.])(\d{1,2}),(\d{1,3})(?!\d)/g, '$1.$2');
  return decimals.split(/[\s,;/|:]+/).filter((token) => token !== '' && token !== 'V' && token !== 'v');
}

function voltsOfToken(token: string): number | VoltsRefusal {
  if (/^[-−–]\d/.test(token)) return { code: 'negative', token };
  if (/^\d{1,3}\.\d{1,3}$/.test(token)) return Math.round(Number(token) * 1000);
  if (/^\d{3}$/.test(token)) return Number(token) * 10;
  if (/^\d{4,5}$/.test(token)) return Number(token);
  if (token === '0') return 0;
  if (/^\d{1,2}\.?$/.test(token)) return { code: 'too-coarse', token };
  return { code: 'not-a-number', token };
}

function judge(values: readonly number[], line: MeterLine, pack: CellCount): TypedVolts {
  if (values.length === 0) return total(line, pack) ?? { outcome: 'empty' };
  if (values.length === 1 && pack.series > 1)
    return total({ ...line, totalMv: asTotal(values[0]!, pack) }, pack) ?? few(values, pack);
  const { cellsMv, totalMv } = splitTotal(values, line.totalMv, pack.series);
  const tooHigh = cellsMv.findIndex((mv) => mv > CHEMISTRY[pack.chemistry].plausibleMaxMv);
  if (tooHigh !== -1) {
    const maxMv = CHEMISTRY[pack.chemistry].plausibleMaxMv;
    return refused(
      { code: 'impossible', cell: tooHigh + 1, mv: cellsMv[tooHigh]!, maxMv },
      cellsMv.slice(0, tooHigh),
    );
  }
  if (cellsMv.length < pack.series) return few(cellsMv, pack);
  if (cellsMv.length > pack.series) {
    return refused(
      { code: 'too-many', given: cellsMv.length, wanted: pack.series },
      cellsMv.slice(0, pack.series),
    );
  }
  const sumMv = cellsMv.reduce((sum, mv) => sum + mv, 0);
  if (totalMv !== null && !sameTotal(sumMv, totalMv))
    return refused({ code: 'total-disagrees', sumMv, totalMv }, cellsMv);
  return { outcome: 'cells', cellsMv, ignored: line.ignored };
}

/** A meter often prints the pack's volts after (or before) its cells: one value too many that the others add up to. */
function splitTotal(values: readonly number[], totalMv: number | null, series: number) {
  if (totalMv !== null || values.length !== series + 1 || series < 2) return { cellsMv: values, totalMv };
  const sum = values.reduce((all, mv) => all + mv, 0);
  const last = values.at(-1)!;
  const first = values[0]!;
  if (sameTotal(sum - last, last)) return { cellsMv: values.slice(0, -1), totalMv: last };
  if (sameTotal(sum - first, first)) return { cellsMv: values.slice(1), totalMv: first };
  return { cellsMv: values, totalMv };
}

/** Meters round each cell: half a hundredth a cell and one percent of their own error is agreement. */
function sameTotal(sumMv: number, totalMv: number): boolean {
  return Math.abs(sumMv - totalMv) <= 50 + sumMv / 100;
}

/** A lone figure as pack volts in the scale that gives a possible average: 1536 is 15.36 V for four cells. */
function asTotal(mv: number, pack: CellCount): number | null {
  const { plausibleMaxMv, nominalMv } = CHEMISTRY[pack.chemistry];
  const possible = (packMv: number) =>
    packMv / pack.series >= nominalMv / 2 && packMv / pack.series <= plausibleMaxMv;
  return [mv, mv * 10].find(possible) ?? null;
}

function total(line: MeterLine, pack: CellCount): TypedVolts | null {
  if (line.totalMv === null) return null;
  if (!CHEMISTRY[pack.chemistry].cellTaps)
    return { outcome: 'pack', packMv: line.totalMv, ignored: line.ignored };
  if (pack.series === 1) return { outcome: 'cells', cellsMv: [line.totalMv], ignored: line.ignored };
  const averageMv = Math.round(line.totalMv / pack.series);
  return refused({ code: 'pack-total', packMv: line.totalMv, averageMv, wanted: pack.series }, []);
}

function few(cellsMv: readonly number[], pack: CellCount): TypedVolts {
  return refused({ code: 'too-few', given: cellsMv.length, wanted: pack.series }, cellsMv);
}

function refused(why: VoltsRefusal, cellsMv: readonly number[]): TypedVolts {
  return { outcome: 'refused', why, cellsMv };
}
