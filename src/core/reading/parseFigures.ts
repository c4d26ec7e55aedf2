/** A figure a hand typed with or without its unit: none, understood, or no figure of this kind. */
export type TypedFigure =
  | { readonly outcome: 'empty' }
  | { readonly outcome: 'figure'; readonly value: number }
  | { readonly outcome: 'refused'; readonly text: string };

/**
 * A temperature in degrees Celsius: bare figures are Celsius, an F makes them Fahrenheit.
 * @example parseCelsius('35') // => { outcome: 'figure', value: 35 }
 * @example parseCelsius('95 °F') // => { outcome: 'figure', value: 35 }
 * @example parseCelsius('warm') // => { outcome: 'refused', text: 'warm' }
 */
export function parseCelsius(text: string): TypedFigure {
  return parsed(text, /^(-?\d+(?:[.,]\d+)?)\s*°?\s*([cf])?$/i, (value, unit) =>
    unit === 'f' ? Math.round(((value - 32) / 1.8) * 10) / 10 : value,
  );
}

/**
 * Charge in milliampere-hours: a bare figure under 100 with a decimal mark is ampere-hours, as is one with Ah after it.
 * @example parseMah('2100') // => { outcome: 'figure', value: 2100 }
 * @example parseMah('2,1 Ah') // => { outcome: 'figure', value: 2100 }
 * @example parseMah('2.1') // => { outcome: 'figure', value: 2100 }
 */
export function parseMah(text: string): TypedFigure {
  const inAh = (value: number) => Math.round(value * 1_000_000) / 1_000;
  return parsed(text, /^(\d+(?:[.,]\d+)?)\s*(mah|ah)?$/i, (value, unit) => {
    if (unit === 'ah') return inAh(value);
    return unit === undefined && /[.,]/.test(text) && value < 100 ? inAh(value) : value;
  });
}

/**
 * A plain figure, comma or point.
 * @example parseFigure('12,5') // => { outcome: 'figure', value: 12.5 }
 * @example parseFigure('0x1F') // => { outcome: 'refused', text: '0x1F' }
 * @example parseFigure('1e3') // => { outcome: 'refused', text: '1e3' }
 */
export function parseFigure(text: string): TypedFigure {
  return parsed(text, /^(-?(?:\d+(?:[.,]\d+)?|[.,]\d+))()$/, (value) => value);
}

/**
 * Minutes: a bare figure, or minutes and seconds, or hours with an h.
 * @example parseMinutes('1:30') // => { outcome: 'figure', value: 1.5 }
 * @example parseMinutes('1.5 h') // => { outcome: 'figure', value: 90 }
 */
export function parseMinutes(text: string): TypedFigure {
  const clock = /^(\d+):([0-5]\d)$/.exec(text.trim());
  if (clock) return { outcome: 'figure', value: Number(clock[1]) + Number(clock[2]) / 60 };
  return parsed(text, /^(\d+(?:[.,]\d+)?)\s*(min|h)?$/i, (value, unit) =>
    unit === 'h' ? value * 60 : value,
  );
}

/**
 * Several figures in one field, between blanks, slashes or semicolons; null when one of them is none.
 * @example parseFigures('4.2 4,1/4.4') // => [4.2, 4.1, 4.4]
 * @example parseFigures('4.2 x') // => null
 */
export function parseFigures(text: string): readonly number[] | null {
  const values = text
    .trim()
    .split(/[\s/;]+/)
    .filter((token) => token !== '')
    .map(parseFigure);
  if (!values.every((value) => value.outcome === 'figure')) return null;
  return values.map(({ value }) => value);
}

function parsed(text: string, form: RegExp, value: (figure: number, unit?: string) => number): TypedFigure {
  const trimmed = text.trim();
  if (trimmed === '') return { outcome: 'empty' };
  const [, figure, unit] = form.exec(trimmed) ?? [];
  if (figure === undefined) return { outcome: 'refused', text: trimmed };
  return {
    outcome: 'figure',
    value: value(
      Number(figure.replace(',', '.')),
      unit === undefined || unit === '' ? undefined : unit.toLowerCase(),
    ),
  };
}
