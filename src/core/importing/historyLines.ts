import type { Instant, PackId, PersonId, RecordId } from '../measure';
import { MINUTE_MS } from '../measure';
import { tagKey } from '../pack';
import type { PackTypeFacts } from '../pack';
import { parseVolts } from '../reading';
import type { ReadingCondition } from '../reading';
import { BLANK_CHARGE, BLANK_FLIGHT } from '../record';
import type { ChargeMode, Correctable, PackRecord, ReadVolts } from '../record';
import { effectiveRecords } from '../record';
import type { EffectiveRecord } from '../record';
import { DEFAULT_METER_ERROR_MV } from '../chemistry';
import { voltsRefusalSentence } from '../wording';
import { timeIn } from './dates';
import { chargeIn } from './facts';
import { HISTORY_FIELDS } from './fields';
import type { HistoryField } from './fields';
import { numberIn } from './numbers';
import type { Line, UnknownWord } from './packLines';
import type { Sheet } from './sheet';
import { dayOf, readerOf } from './table';
import type { FieldReader, Reading, Zone } from './table';

export const HISTORY_KINDS = ['reading', 'charge', 'flight', 'inspection', 'resistance', 'note'] as const;
/** What a line of a history can be. */
export type HistoryKind = (typeof HISTORY_KINDS)[number];

export interface KnownForHistory {
  readonly packs: ReadonlyMap<string, { readonly id: PackId; readonly type: PackTypeFacts }>;
  readonly people: readonly { readonly id: PersonId; readonly name: string }[];
}

/** What happened, as a line tells it: a record without its id. */
export type Happening = Correctable & { readonly at: Instant };

export interface HistoryLine {
  readonly tag: string;
  readonly packId: PackId;
  readonly happened: readonly Happening[];
}

export interface ReadHistory {
  readonly lines: readonly Line<HistoryLine>[];
  readonly unknown: readonly UnknownWord[];
  /** Lines without a time of day; those of one pack and day were put apart in the order they stand. */
  readonly withoutTime: number;
}

/** How a whole file is taken: each line by its own words, or all as one kind. */
export type WholeKind = HistoryKind | 'by-line';

/** Words that say what a line is, in the order they are tried. */
const KIND_WRITTEN: readonly (readonly [RegExp, HistoryKind, ChargeMode | null])[] = [
  [/discharg|entlad|ontlad|décharg/i, 'charge', 'discharge'],
  [/storage|lager|opslag|stockage/i, 'charge', 'storage'],
  [/charg|lad(en|ung)|laad|^lade/i, 'charge', null],
  [/flight|flew|flown|flug|geflogen|vlucht|\bvol\b|mission|use|sortie/i, 'flight', null],
  [/resist|\bir\b|widerstand|weerstand/i, 'resistance', null],
  [/inspect|check ?list|visual|look|prüfung|sicht|inspectie/i, 'inspection', null],
  [/read|meas|volt|mess|meting|check|rest|mesure/i, 'reading', null],
  [/note|remark|comment|notiz|bemerk|opmerk/i, 'note', null],
];

const MODE_WRITTEN: readonly (readonly [RegExp, ChargeMode])[] = [
  [/discharg|entlad|ontlad/i, 'discharge'],
  [/stor|lager|opslag/i, 'storage'],
  [/fast|plain|quick|schnell|snel/i, 'fast'],
  [/bal/i, 'balance'],
];

/** Where no time of day is told, a pack's lines of one day lie this far apart, so that what follows a flight has rested. */
const APART_MINUTES = 120;
const FIRST_OF_DAY = 8 * 60;
const LAST_OF_DAY = 22 * 60;

/** Reads a sheet of what happened, line by line. */
export function historyLines(
  sheet: Sheet,
  reading: Reading,
  whole: WholeKind,
  known: KnownForHistory,
  zone: Zone,
  now: Instant,
): ReadHistory {
  const read = readerOf(sheet, reading);
  const unknown = new Map<string, UnknownWord>();
  const missing = (field: 'pilot' | 'kind', word: string) => {
    const key = `${field}:${word.toLowerCase()}`;
    unknown.set(key, { field, word, lines: (unknown.get(key)?.lines ?? 0) + 1 });
  };
  const readers = sheet.lines.map(read);
  const ofDay = timesOfDay(readers, reading);
  let withoutTime = 0;
  const lines = readers.map((line, i): Line<HistoryLine> => {
    const tag = line.text('tag');
    const refused = (why: string) => ({ line: line.line, outcome: 'refused' as const, tag, why });
    if (tag === '') return refused('No tag stands in this line.');
    const pack = known.packs.get(tagKey(tag));
    if (!pack) return refused(`No pack of the register has the tag ${tag}. Bring the packs in first.`);
    const day = dayOf(line.cell('date'), reading);
    if (!day)
      return refused(
        line.text('date') === ''
          ? 'No day stands in this line.'
          : `“${line.text('date')}” is no day in this file’s order of dates.`,
      );
    const told = ofDay[i]!;
    if (told.spread) withoutTime += 1;
    const at = zone({ ...day, minutes: told.minutes });
    if (at > now) return refused('This day has not come yet.');
    const kind = kindOf(line, whole, missing);
    if (kind === null)
      return refused(`“${line.text('kind')}” is nothing Malle keeps. Say above what it means.`);
    const happened = happeningsOf(line, kind, pack.type, reading, known, missing);
    if (typeof happened === 'string') return refused(happened);
    return {
      line: line.line,
      outcome: 'good',
      becomes: { tag, packId: pack.id, happened: happened.map((one) => ({ ...one, at })) },
    };
  });
  return { lines, unknown: [...unknown.values()], withoutTime };
}

/** The time of day of each line, and whether it had to be made up. */
function timesOfDay(
  readers: readonly FieldReader[],
  reading: Reading,
): readonly { minutes: number; spread: boolean }[] {
  const ofDay = new Map<string, number>();
  const key = (line: FieldReader) => `${tagKey(line.text('tag'))} ${line.text('date')}`;
  const told = (line: FieldReader) => {
    const own = line.text('time') === '' ? null : timeIn(line.cell('time')!);
    return own ?? dayOf(line.cell('date'), reading)?.minutes ?? null;
  };
  const minutes = readers.map(told);
  for (const [i, line] of readers.entries())
    if (minutes[i] === null) ofDay.set(key(line), (ofDay.get(key(line)) ?? 0) + 1);
  const sofar = new Map<string, number>();
  return readers.map((line, i) => {
    const own = minutes[i];
    if (own !== null && own !== undefined) return { minutes: own, spread: false };
    const ordinal = sofar.get(key(line)) ?? 0;
    sofar.set(key(line), ordinal + 1);
    const step = Math.min(APART_MINUTES, (LAST_OF_DAY - FIRST_OF_DAY) / (ofDay.get(key(line)) ?? 1));
    return { minutes: Math.floor(FIRST_OF_DAY + ordinal * step), spread: true };
  });
}

function kindOf(
  line: FieldReader,
  whole: WholeKind,
  missing: (field: 'kind', word: string) => void,
): HistoryKind | null {
  if (whole !== 'by-line') return whole;
  const written = line.text('kind');
  const meant = line.meaning('kind') as HistoryKind | null;
  if (meant) return meant;
  if (written !== '') {
    const found = KIND_WRITTEN.find(([pattern]) => pattern.test(written));
    if (!found) missing('kind', written);
    return found?.[1] ?? null;
  }
  return kindByFields(line);
}

/** What a line is that does not say so, by what it tells. */
function kindByFields(line: FieldReader): HistoryKind {
  const has = (...fields: HistoryField[]) =>
    fields.some((field) => line.texts(field).some((text) => text !== ''));
  if (has('craft', 'pilot') && has('minutes', 'mah', 'craft')) return 'flight';
  if (has('mode', 'charger', 'current')) return 'charge';
  if (has('result', 'swelling')) return 'inspection';
  if (has('volts', 'cell')) return 'reading';
  if (has('ir', 'irCell')) return 'resistance';
  if (has('mah')) return 'charge';
  if (has('minutes')) return 'flight';
  return 'note';
}

/** The records of one line, or why there are none. */
function happeningsOf(
  line: FieldReader,
  kind: HistoryKind,
  type: PackTypeFacts,
  reading: Reading,
  known: KnownForHistory,
  missing: (field: 'pilot', word: string) => void,
): readonly Correctable[] | string {
  const { decimals } = reading;
  const figure = (field: HistoryField) =>
    line.text(field) === '' ? null : numberIn(line.cell(field)!, decimals);
  for (const field of ['temperature', 'ambient', 'current', 'minutes'] as const)
    if (line.text(field) !== '' && minutesOrFigure(line, field, decimals) === null)
      return `“${line.text(field)}” is no figure for ${HISTORY_FIELDS[field].name.toLowerCase()}.`;
  const volts = voltsOf(line, type);
  if (typeof volts === 'string') return volts;
  const mah = line.text('mah') === '' ? null : chargeIn(line.cell('mah')!, line.column('mah'), decimals);
  if (line.text('mah') !== '' && mah === null) return `“${line.text('mah')}” is no charge in mAh.`;
  const remarks = line.text('remarks').slice(0, 2_000) || null;
  const minutes = minutesOrFigure(line, 'minutes', decimals);
  if (minutes !== null && (minutes < 0 || minutes > 2_880))
    return `${line.text('minutes')} minutes is no time a job or flight takes.`;
  const temperatureC = figure('temperature');
  const instrument = line.text('instrument').slice(0, 60) || null;
  switch (kind) {
    case 'reading': {
      if (volts === null) return 'No volts stand in this line.';
      if (volts.of === 'pack' && type.series > 1 && type.chemistry !== 'nimh')
        return voltsRefusalSentence({
          code: 'pack-total',
          packMv: volts.packMv,
          averageMv: Math.round(volts.packMv / type.series),
          wanted: type.series,
        });
      const condition = conditionOf(line.text('condition'));
      const read: Correctable = {
        kind: 'reading',
        payload: {
          volts,
          condition,
          instrument,
          meterErrorMv: DEFAULT_METER_ERROR_MV,
          temperatureC,
          remarks,
        },
      };
      const ir = resistanceOf(line, type, decimals, temperatureC, instrument);
      return typeof ir === 'string' ? ir : ir ? [read, ir] : [read];
    }
    case 'charge': {
      const cells = volts?.of === 'cells' ? volts.cellsMv : null;
      return [
        {
          kind: 'charge',
          payload: {
            ...BLANK_CHARGE,
            mode: modeOf(line),
            charger: line.text('charger').slice(0, 60) || null,
            settings: { ...BLANK_CHARGE.settings, currentA: positive(figure('current')) },
            endCellsMv: cells,
            movedMah: mah,
            minutes,
            temperatureC,
            remarks,
          },
        },
      ];
    }
    case 'flight': {
      const pilot = pilotOf(line, known, missing);
      return [
        {
          kind: 'flight',
          payload: {
            ...BLANK_FLIGHT,
            ...pilot,
            craft: line.text('craft').slice(0, 60) || null,
            minutes,
            landing: volts && {
              volts,
              condition: /load|last/i.test(line.text('condition')) ? 'loaded' : 'settling',
            },
            usedMah: mah,
            hottestC: temperatureC,
            ambientC: figure('ambient'),
            remarks,
          },
        },
      ];
    }
    case 'inspection':
      return [{ kind: 'inspection', payload: inspectionOf(line, remarks) }];
    case 'resistance': {
      const ir = resistanceOf(line, type, decimals, temperatureC, instrument);
      return typeof ir === 'string' ? ir : ir ? [ir] : 'No resistance stands in this line.';
    }
    case 'note':
      return remarks
        ? [{ kind: 'note', payload: { text: remarks } }]
        : 'Nothing stands in this line besides tag and day.';
    default:
      return kind satisfies never;
  }
}

function positive(value: number | null): number | null {
  return value !== null && value > 0 && value <= 500 ? value : null;
}

/** `12`, `12:30`, `1:05 h`. */
function minutesOrFigure(
  line: FieldReader,
  field: 'temperature' | 'ambient' | 'current' | 'minutes',
  decimals: Reading['decimals'],
): number | null {
  const text = line.text(field);
  if (text === '') return null;
  const clock = field === 'minutes' ? /^(\d+):([0-5]\d)(?::[0-5]\d)?\s*(h?)/i.exec(text) : null;
  if (clock) {
    const [, first, second, hours] = clock;
    return hours || text.split(':').length === 3
      ? Number(first) * 60 + Number(second)
      : Number(first) + Number(second) / 60;
  }
  return numberIn(line.cell(field)!, decimals);
}

/** Cells in columns of their own, or all in one. */
function voltsOf(line: FieldReader, type: PackTypeFacts): ReadVolts | null | string {
  const cells = line.texts('cell').filter((text) => text !== '');
  const text =
    cells.length > 0 ? cells.map((cell) => cell.replace(/\s*v$/i, '')).join(' ') : line.text('volts');
  const typed = parseVolts(text, type);
  switch (typed.outcome) {
    case 'empty':
      return null;
    case 'cells':
      return { of: 'cells', cellsMv: typed.cellsMv };
    case 'pack':
      return { of: 'pack', packMv: typed.packMv };
    case 'refused':
      return typed.why.code === 'pack-total'
        ? { of: 'pack', packMv: typed.why.packMv }
        : voltsRefusalSentence(typed.why);
    default:
      return typed satisfies never;
  }
}

function conditionOf(text: string): ReadingCondition {
  if (/load|last|belast/i.test(text)) return 'loaded';
  return /settl|after|fresh|warm|just/i.test(text) ? 'settling' : 'rested';
}

function modeOf(line: FieldReader): ChargeMode {
  const mode = MODE_WRITTEN.find(([pattern]) => pattern.test(line.text('mode')))?.[1];
  const byKind = KIND_WRITTEN.find(([pattern]) => pattern.test(line.text('kind')))?.[2];
  return mode ?? byKind ?? 'balance';
}

/** Who flew: a person of the register, or a name that is nobody's here. A flight without a name is nobody's, and not the importer's. */
function pilotOf(
  line: FieldReader,
  { people }: KnownForHistory,
  missing: (field: 'pilot', word: string) => void,
): { pilotId: PersonId | null; flownBy: string | null } {
  const name = line.text('pilot').slice(0, 80);
  if (name === '') return { pilotId: null, flownBy: 'nobody named' };
  const meant = line.meaning('pilot');
  const same = people.find(({ id, name: own }) => id === meant || own.toLowerCase() === name.toLowerCase());
  if (same) return { pilotId: same.id, flownBy: null };
  if (meant === null) missing('pilot', name);
  return { pilotId: null, flownBy: name };
}

const FAILED = /^(?:fail|failed|no|nok|bad|n|0|nein|nee|defect|x|swollen|puffed|soft|hard)/i;
const UNSOUND = /^(?!(?:no|none|n|0|-|ok|nein|geen|non)$).+/i;

/** An old book's inspection has one item: that it was looked at, and what was found. */
function inspectionOf(line: FieldReader, remarks: string | null) {
  const swollen = line.text('swelling') !== '' && UNSOUND.test(line.text('swelling'));
  const failed = FAILED.test(line.text('result')) || swollen;
  const note = [line.text('result'), swollen ? `swelling: ${line.text('swelling')}` : '']
    .filter(Boolean)
    .join(', ');
  return {
    occasion: 'scheduled' as const,
    items: [
      {
        key: 'as-noted',
        asks: 'Found sound, by the earlier book',
        failMeans: 'hold' as const,
        answer: failed ? ('fail' as const) : ('ok' as const),
        note: failed ? note || null : null,
        photoIds: [],
      },
    ],
    swelling:
      line.text('swelling') === ''
        ? null
        : swollen
          ? /hard/i.test(line.text('swelling'))
            ? ('hard' as const)
            : ('soft' as const)
          : ('none' as const),
    thicknessMm: null,
    massG: null,
    remarks,
  };
}

function resistanceOf(
  line: FieldReader,
  type: PackTypeFacts,
  decimals: Reading['decimals'],
  temperatureC: number | null,
  instrument: string | null,
): (Correctable & { kind: 'resistance' }) | null | string {
  const cells = line.texts('irCell').filter((text) => text !== '');
  const texts =
    cells.length > 0
      ? cells
      : line
          .text('ir')
          .split(/[\s/;]+/)
          .filter(Boolean);
  if (texts.length === 0) return null;
  const values = texts.map((text) => numberIn(text, decimals));
  if (values.some((value) => value === null || value <= 0 || value > 5_000))
    return `“${texts.join(' ')}” is no resistance of cells.`;
  if (values.length !== type.series)
    return `${values.length} resistances for a pack of ${type.series} cells.`;
  if (temperatureC === null)
    return 'Resistance without a temperature tells nothing: match the column that has it, or leave the resistance out.';
  return {
    kind: 'resistance',
    payload: { irMilliohm: values as number[], temperatureC, instrument, remarks: null },
  };
}

/** The fields without which no history can be told, that no column is. */
export function lacksForHistory({ matching }: Reading): readonly string[] {
  return (['tag', 'date'] as const)
    .filter((field) => !matching.includes(field))
    .map((field) => HISTORY_FIELDS[field].name);
}

/** A happening with the id its record would have. */
export interface Identified {
  readonly id: RecordId;
  readonly happening: Happening;
}

/**
 * The ids the happenings of one pack have: by what they say, so that the same line never becomes two records, whichever file it comes
 * in. A line that stands twice in a file is two happenings. What was taken back may come again under another id.
 * @param idOf answers the same id for the same text
 */
export function identified(
  happenings: readonly Happening[],
  records: readonly PackRecord[],
  idOf: (text: string) => RecordId,
): { readonly fresh: readonly Identified[]; readonly known: number } {
  const there = new Set(records.map(({ id }) => id));
  const counting = effectiveRecords(records);
  const standing = new Set(counting.map(({ id }) => id));
  const typed = new Set(counting.map(sameness));
  const times = new Map<string, number>();
  const fresh: Identified[] = [];
  let known = 0;
  for (const happening of happenings) {
    const text = JSON.stringify([happening.kind, happening.at, happening.payload]);
    const nth = (times.get(text) ?? 0) + 1;
    times.set(text, nth);
    let again = 0;
    let id = idOf(`${text} ${nth} ${again}`);
    while (there.has(id) && !standing.has(id)) id = idOf(`${text} ${nth} ${++again}`);
    if (standing.has(id) || typed.has(sameness(happening))) known += 1;
    else fresh.push({ id, happening });
  }
  return { fresh, known };
}

/** What two records of one thing have in common, whoever wrote them: kind, minute, and what was measured. */
function sameness(record: Correctable & { readonly at: Instant }): string;
function sameness(record: EffectiveRecord): string;
function sameness({ kind, at, payload }: EffectiveRecord | Happening): string {
  return `${kind} ${Math.floor(at / MINUTE_MS)} ${measuredBy({ kind, payload } as Correctable)}`;
}

/** The figures and words that make a record this one; what only one of two writers noted plays no part. */
function measuredBy(record: Correctable): string {
  switch (record.kind) {
    case 'reading': {
      const { volts } = record.payload;
      return String(volts.of === 'cells' ? volts.cellsMv : volts.packMv);
    }
    case 'resistance':
      return String(record.payload.irMilliohm);
    case 'charge':
      return `${record.payload.mode} ${record.payload.movedMah}`;
    case 'flight':
      return `${record.payload.usedMah} ${record.payload.minutes}`;
    case 'memory':
      return JSON.stringify(record.payload.memory);
    case 'note':
      return record.payload.text;
    case 'inspection':
    case 'moved':
    case 'taken-out':
    case 'returned':
    case 'received':
      return '';
    default:
      return record satisfies never;
  }
}
