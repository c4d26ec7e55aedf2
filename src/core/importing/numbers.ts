import { textOf } from './sheet';
import type { Cell } from './sheet';

export type DecimalMark = 'comma' | 'point';

/**
 * A number as a spreadsheet of some country writes it, whatever stands around it: `1.234,5 €`, `7,4V`, `2 200 mAh`.
 * @param mark what parts the decimals where a figure could be read either way
 * @returns null where there is no figure, or more than one
 * @example numberIn('1.234,5', 'comma') // => 1234.5
 * @example numberIn('7,4V', 'point') // => 7.4
 * @example numberIn('1.500', 'comma') // => 1500
 */
export function numberIn(cell: Cell, mark: DecimalMark): number | null {
  if (typeof cell === 'number') return cell;
  const figures = figuresIn(textOf(cell));
  return figures.length === 1 ? plain(figures[0]!, mark) : null;
}

/** Every run of figures, with blanks and apostrophes between thousands taken out. */
function figuresIn(text: string): readonly string[] {
  const joined = text.replace(/(\d)[ '’](?=\d{3}(?!\d))/g, '$1');
  return joined.match(/-?\d[\d.,]*/g) ?? [];
}

function plain(figure: string, mark: DecimalMark): number | null {
  const trimmed = figure.replace(/[.,]$/, '');
  const marks = trimmed.replace(/[^.,]/g, '');
  const last = marks.at(-1);
  if (last === undefined) return Number(trimmed);
  const tail = trimmed.slice(trimmed.lastIndexOf(last) + 1);
  // One kind of mark more than once, or three figures behind one that is not this file's decimal mark: thousands.
  const thousands = marks.length > 1 && marks.split('').every((one) => one === last);
  const own = mark === 'comma' ? ',' : '.';
  if (thousands || (marks.length === 1 && tail.length === 3 && last !== own))
    return Number(trimmed.replace(/[.,]/g, ''));
  const [whole, decimals] = [trimmed.slice(0, trimmed.lastIndexOf(last)), tail];
  const value = Number(`${whole.replace(/[.,]/g, '')}.${decimals}`);
  return Number.isFinite(value) ? value : null;
}

/**
 * Which mark parts the decimals in these cells: the one before one or two last figures most often. Dates do not count.
 * @example decimalMarkOf(['7,4V', '11,1V', '12.03.2024']) // => "comma"
 */
export function decimalMarkOf(cells: readonly Cell[]): DecimalMark {
  let commas = 0;
  let points = 0;
  for (const cell of cells) {
    if (typeof cell === 'number') continue;
    if (/\d[./-]\d{1,2}[./-]\d/.test(cell)) continue;
    commas += cell.match(/\d,\d{1,2}(?!\d)/g)?.length ?? 0;
    points += cell.match(/\d\.\d{1,2}(?!\d)/g)?.length ?? 0;
  }
  return commas > points ? 'comma' : 'point';
}
