/** What a place in a pattern can pick out of a line. */
export const SLOTS = [
  'cells',
  'cell',
  'no',
  'pack',
  'channel',
  'phase',
  'amps',
  'charge',
  'seconds',
  'milliohm',
  'celsius',
  'skip',
] as const;
export type Slot = (typeof SLOTS)[number];

/** The units a slot may be written in, each with what it is multiplied by to be the register's own. */
const UNITS: Readonly<Partial<Record<Slot, Readonly<Record<string, number>>>>> = {
  cells: { V: 1000, mV: 1 },
  cell: { V: 1000, mV: 1 },
  pack: { V: 1000, mV: 1 },
  amps: { A: 1, mA: 0.001 },
  charge: { mAh: 1, Ah: 1000 },
  seconds: { s: 1, min: 60, hms: 1 },
};

/** A pattern understood: matched against each line a device prints. */
export interface Pattern {
  readonly expression: RegExp;
  readonly slots: readonly { readonly slot: Slot; readonly unit: string | null }[];
}

export type PatternFault =
  | { readonly code: 'empty' }
  | { readonly code: 'unknown-slot'; readonly slot: string }
  | { readonly code: 'unknown-unit'; readonly slot: Slot; readonly unit: string }
  | { readonly code: 'twice'; readonly slot: Slot }
  | { readonly code: 'no-closing' }
  | { readonly code: 'nothing-picked' }
  | { readonly code: 'slots-touch'; readonly slot: Slot };

const NUMBER = String.raw`([-+]?\d{1,9}(?:[.,]\d{1,9})?)`;
/** Up to 24 numbers with the same kinds of mark between them that a display prints. */
const NUMBERS = String.raw`([-+]?\d{1,9}(?:[.,]\d{1,9})?(?:[ \t]{0,3}[;|/\t ,][ \t]{0,3}[-+]?\d{1,9}(?:[.,]\d{1,9})?){0,23})`;
const WORD = String.raw`([^\s;,|]{1,40})`;
const CLOCK = String.raw`(\d{1,5}(?::\d{2}){0,2})`;

const SHAPES: Readonly<Record<Slot, string>> = {
  cells: NUMBERS,
  cell: NUMBER,
  no: String.raw`(\d{1,2})`,
  pack: NUMBER,
  channel: String.raw`([A-Za-z0-9]{1,12})`,
  phase: WORD,
  amps: NUMBER,
  charge: NUMBER,
  seconds: NUMBER,
  milliohm: NUMBERS,
  celsius: NUMBER,
  // Bounded, so that a line nobody expected costs no more than its length times this.
  skip: String.raw`(.{0,80}?)`,
};

/**
 * Understands a pattern: a line as the device prints it, with `{slot}` or `{slot:unit}` where something is to be picked out. Blanks
 * match any blanks; all else stands for itself.
 * @example patternOf('{volts}') // => { fault: { code: 'unknown-slot', slot: 'volts' } }
 */
export function patternOf(text: string): Pattern | { readonly fault: PatternFault } {
  const trimmed = text.trim();
  if (trimmed === '') return { fault: { code: 'empty' } };
  const slots: { slot: Slot; unit: string | null }[] = [];
  let source = '';
  let rest = trimmed;
  while (rest !== '') {
    const open = rest.indexOf('{');
    const literal = open === -1 ? rest : rest.slice(0, open);
    source += literal
      .split(/\s+/)
      .map((part) => part.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'))
      .join(String.raw`\s+`);
    if (open === -1) break;
    const close = rest.indexOf('}', open);
    if (close === -1) return { fault: { code: 'no-closing' } };
    const [name = '', unit = null] = rest
      .slice(open + 1, close)
      .split(':')
      .map((part) => part.trim());
    const slot = SLOTS.find((one) => one === name);
    if (!slot) return { fault: { code: 'unknown-slot', slot: name } };
    if (unit !== null && UNITS[slot]?.[unit] === undefined)
      return { fault: { code: 'unknown-unit', slot, unit } };
    if (slot !== 'skip' && slots.some((one) => one.slot === slot)) return { fault: { code: 'twice', slot } };
    const before = slots.at(-1);
    if (literal === '' && before && (before.slot === 'skip') === (slot === 'skip'))
      return { fault: { code: 'slots-touch', slot } };
    slots.push({ slot, unit });
    source += unit === 'hms' ? CLOCK : SHAPES[slot];
    rest = rest.slice(close + 1);
  }
  if (!slots.some(({ slot }) => slot !== 'skip' && slot !== 'no' && slot !== 'channel'))
    return { fault: { code: 'nothing-picked' } };
  return { expression: new RegExp(`^\\s*${source}\\s*$`), slots };
}

/** What a pattern picked out of one line, in the register's own units; what it has no slot for is missing. */
export interface Picked {
  readonly cellsMv?: readonly number[];
  /** One cell of a device that prints a line a cell, counted from 1. */
  readonly cell?: { readonly no: number; readonly mv: number };
  readonly packMv?: number;
  readonly channel?: string;
  readonly phase?: string;
  readonly amps?: number;
  readonly movedMah?: number;
  readonly seconds?: number;
  readonly milliohm?: readonly number[];
  readonly celsius?: number;
}

/** Longer lines are no line of a display. */
export const LONGEST_LINE = 400;

/**
 * What this line says by this pattern; null where the pattern does not fit.
 */
export function pick({ expression, slots }: Pattern, line: string): Picked | null {
  if (line.length > LONGEST_LINE) return null;
  const found = expression.exec(line);
  if (!found) return null;
  const picked: { -readonly [Key in keyof Picked]: Picked[Key] } = {};
  let no: number | null = null;
  let cellMv: number | null = null;
  for (const [i, { slot, unit }] of slots.entries()) {
    const text = found[i + 1]!;
    const factor = unit === null ? Object.values(UNITS[slot] ?? { '': 1 })[0]! : UNITS[slot]![unit]!;
    const scaled = () => numberOf(text) * factor;
    if (slot === 'cells') picked.cellsMv = numbersOf(text).map((value) => Math.round(value * factor));
    else if (slot === 'cell') cellMv = Math.round(scaled());
    else if (slot === 'no') no = Number(text);
    else if (slot === 'pack') picked.packMv = Math.round(scaled());
    else if (slot === 'channel') picked.channel = text;
    else if (slot === 'phase') picked.phase = text;
    else if (slot === 'amps') picked.amps = scaled();
    else if (slot === 'charge') picked.movedMah = scaled();
    else if (slot === 'seconds') picked.seconds = unit === 'hms' ? clockSeconds(text) : scaled();
    else if (slot === 'milliohm') picked.milliohm = numbersOf(text);
    else if (slot === 'celsius') picked.celsius = scaled();
  }
  if (cellMv !== null) {
    if (no === null) picked.cellsMv ??= [cellMv];
    else picked.cell = { no, mv: cellMv };
  }
  return picked;
}

/** The first pattern that fits decides. */
export function pickFirst(patterns: readonly Pattern[], line: string): Picked | null {
  for (const pattern of patterns) {
    const picked = pick(pattern, line);
    if (picked) return picked;
  }
  return null;
}

function numberOf(text: string): number {
  return Number(text.replace(',', '.'));
}

/** A comma is a decimal mark where blanks or other marks part the numbers, and a mark between them where each has its own point. */
function numbersOf(text: string): number[] {
  // A single comma after one or two figures, as in 3,84: volts have no more before it, and millivolts have.
  if (/^[-+]?\d{1,2},\d+$/.test(text)) return [numberOf(text)];
  const partedOtherwise = /[;|/]|\d\s+[-+\d]/.test(text);
  const parts = partedOtherwise && !/\d\.\d/.test(text) ? text.split(/[;|/\s]+/) : text.split(/[;|/,\s]+/);
  return parts.filter((part) => part !== '').map(numberOf);
}

function clockSeconds(text: string): number {
  return text.split(':').reduce((sum, part) => sum * 60 + Number(part), 0);
}
