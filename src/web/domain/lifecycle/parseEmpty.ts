import { parseFigure } from '../../../core/reading';

/**
 * Volts of empty cells as typed, millivolts a cell; the whole pack's where it has no cell taps. They are written out, 0.04
 * or 0,04: the short writing of full cells would be read as hundredths.
 */
export function parseEmpty(
  typed: string,
  series: number,
  cellTaps = true,
): { readonly cellsMv: readonly number[] | null; readonly problem: string | undefined } {
  const words = typed
    .trim()
    .split(/[\s/;]+/)
    .filter(Boolean);
  const wanted = cellTaps ? series : 1;
  if (words.length !== wanted)
    return { cellsMv: null, problem: `${words.length} of ${wanted} typed. Write each as 0.04.` };
  const readMv = words.map((word) => {
    const typed = parseFigure(word);
    return typed.outcome === 'figure' ? Math.round(typed.value * 1000) : Number.NaN;
  });
  const mostMv = cellTaps ? 5_000 : 5_000 * series;
  const wrong = readMv.findIndex((mv) => !Number.isFinite(mv) || mv < 0 || mv > mostMv);
  return wrong === -1
    ? { cellsMv: cellTaps ? readMv : shared(readMv[0]!, series), problem: undefined }
    : { cellsMv: null, problem: `“${words[wrong]}” is not a voltage. Write it as 0.04.` };
}

/** A pack whose cells cannot be read one by one is told by its average. */
function shared(packMv: number, series: number): readonly number[] {
  return Array.from({ length: series }, () => Math.ceil(packMv / series));
}
