import type { PackTypeAnswer } from '../../../contract';
import { CHEMISTRY } from '../../../core/chemistry';
import type { Instant } from '../../../core/measure';
import { parseFigure, parseVolts } from '../../../core/reading';
import type { TypedFigure } from '../../../core/reading';
import type { ReadVolts } from '../../../core/record';
import { plural, voltsRefusalSentence } from '../../../core/wording';
import { minuteAt } from '../../app/days';

/** What a form's text comes to: the payload, or what is wrong at each field. `at` is null for now. */
export type Understood<Payload, Field extends string> =
  | { readonly payload: Payload; readonly at: Instant | null; readonly errors: null }
  | { readonly payload: null; readonly at: null; readonly errors: Partial<Record<Field, string>> };

/** Collects figures and the sentences of those that are none. */
export class Gate<Field extends string> {
  readonly errors: Partial<Record<Field, string>> = {};

  figure(field: Field, typed: TypedFigure, wanted: string): number | null {
    if (typed.outcome === 'refused') this.errors[field] = `“${typed.text}” is no figure. ${wanted}`;
    return typed.outcome === 'figure' ? typed.value : null;
  }

  /** A figure above zero. */
  above(field: Field, text: string, wanted: string): number | null {
    const value = this.figure(field, parseFigure(text), wanted);
    if (value !== null && value <= 0) this.errors[field] = `“${text}” cannot be. ${wanted}`;
    return value;
  }

  volts(field: Field, text: string, type: PackTypeAnswer): ReadVolts | null {
    const typed = parseVolts(text, type);
    if (typed.outcome === 'cells') return { of: 'cells', cellsMv: typed.cellsMv };
    if (typed.outcome === 'pack') return { of: 'pack', packMv: typed.packMv };
    if (typed.outcome === 'refused') this.errors[field] = voltsRefusalSentence(typed.why);
    return null;
  }

  /** In the air the screen shows the pack's total, or the mean cell; either by itself is enough for a landing. */
  landing(field: Field, text: string, type: PackTypeAnswer): ReadVolts | null {
    const meanMv = meanCellMv(text, type);
    if (meanMv !== null) return { of: 'pack', packMv: meanMv * type.series };
    const typed = parseVolts(text, type);
    if (typed.outcome === 'refused' && typed.why.code === 'pack-total')
      return { of: 'pack', packMv: typed.why.packMv };
    return this.volts(field, text, type);
  }

  cells(field: Field, text: string, type: PackTypeAnswer): readonly number[] | null {
    const volts = this.volts(field, text, type);
    if (volts?.of === 'pack') this.errors[field] = `Type all ${plural(type.series, 'cell')}.`;
    return volts?.of === 'cells' ? volts.cellsMv : null;
  }

  moment(field: Field, text: string): Instant | null {
    const at = minuteAt(text);
    if (Number.isNaN(at)) this.errors[field] = 'Give the day and the time.';
    return Number.isNaN(at) ? null : at;
  }

  answer<Payload>(payload: Payload, at: Instant | null = null): Understood<Payload, Field> {
    return Object.keys(this.errors).length > 0
      ? { payload: null, at: null, errors: this.errors }
      : { payload, at, errors: null };
  }
}

/** A text field’s words; null for none. */
export function blankToNull(text: string | undefined): string | null {
  const trimmed = text?.trim() ?? '';
  return trimmed === '' ? null : trimmed;
}

/** A single figure that no pack of several cells can show as its total: what each cell shows on average, in volts or hundredths. */
function meanCellMv(text: string, { chemistry, series }: PackTypeAnswer): number | null {
  const typed = parseFigure(text);
  if (typed.outcome !== 'figure' || series === 1) return null;
  const { plausibleMaxMv } = CHEMISTRY[chemistry];
  const mv = Math.round(typed.value * (typed.value >= 100 ? 10 : 1000));
  return mv >= LEAST_CELL_MV && mv <= plausibleMaxMv ? mv : null;
}

/** Below this no cell lands: the figure is something else. */
const LEAST_CELL_MV = 900;
