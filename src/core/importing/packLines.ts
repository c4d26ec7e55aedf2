import { CHEMISTRY } from '../chemistry';
import type { Chemistry } from '../chemistry';
import type { Instant, PackId, PackTypeId, PlaceId } from '../measure';
import { TAG_PATTERN, cellsLabel, tagKey } from '../pack';
import type { PackTypeFacts } from '../pack';
import type { LifeBefore } from '../record';
import { capacityIn, cellCountIn, chemistryIn, gramsIn, labelIn, seriesByVolts } from './facts';
import { PACK_FIELDS } from './fields';
import { numberIn } from './numbers';
import type { Sheet } from './sheet';
import { dayOf, readerOf } from './table';
import type { FieldReader, Reading, Zone } from './table';

/** What the register knows already that a line may name. */
export interface KnownForPacks {
  readonly types: readonly (PackTypeFacts & {
    readonly id: PackTypeId;
    readonly name: string;
    readonly price: number | null;
  })[];
  readonly places: readonly { readonly id: PlaceId; readonly name: string }[];
  /** Every tag any pack has or once had, by its key. */
  readonly tags: ReadonlyMap<string, PackId>;
}

/** A type that the file's packs are of: one of the register's, or a new one. */
export interface TypeProposal extends PackTypeFacts {
  readonly name: string;
  /** Null for one that is yet to be added. */
  readonly id: PackTypeId | null;
  readonly connector: string | null;
  readonly balancePlug: string | null;
  readonly massG: number | null;
  readonly price: number | null;
}

/** A pack as its line tells it. */
export interface PackLine {
  readonly tag: string;
  readonly type: TypeProposal;
  readonly owner: string | null;
  /** A place of the register, or the name of one to be added. */
  readonly place: { readonly id: PlaceId } | { readonly name: string } | null;
  readonly inServiceAt: Instant | null;
  readonly source: string | null;
  readonly before: LifeBefore;
  readonly remarks: string | null;
}

/** What becomes of a line. */
export type Line<Becomes> =
  | { readonly line: number; readonly outcome: 'good'; readonly becomes: Becomes }
  /** It is in the register already, or was blank but for a total. */
  | { readonly line: number; readonly outcome: 'known'; readonly tag: string; readonly why: string }
  | { readonly line: number; readonly outcome: 'refused'; readonly tag: string; readonly why: string };

/** A word of the file that nobody has said the meaning of yet. */
export interface UnknownWord {
  readonly field: 'chemistry' | 'place' | 'pilot' | 'kind';
  readonly word: string;
  readonly lines: number;
}

export interface ReadPacks {
  readonly lines: readonly Line<PackLine>[];
  /** Words to be matched by hand; lines with an unknown chemistry wait for it, unknown places would be added. */
  readonly unknown: readonly UnknownWord[];
}

/** Longest texts the register takes. */
const LONGEST = { owner: 80, place: 60, source: 120, remarks: 4_000, type: 60, plug: 40 };

/**
 * Reads a sheet of packs, line by line.
 * @param zone turns a day of the file into a moment
 * @param now later days are refused
 */
export function packLines(
  sheet: Sheet,
  reading: Reading,
  known: KnownForPacks,
  zone: Zone,
  now: Instant,
): ReadPacks {
  const read = readerOf(sheet, reading);
  const seen = new Map<string, number>();
  const proposals = new Map<string, TypeProposal>();
  const unknown = new Map<string, UnknownWord>();
  const missing = (field: 'chemistry' | 'place', word: string) => {
    const key = `${field}:${word.toLowerCase()}`;
    unknown.set(key, { field, word, lines: (unknown.get(key)?.lines ?? 0) + 1 });
  };
  const lines = sheet.lines.map((sheetLine): Line<PackLine> => {
    const line = read(sheetLine);
    const tag = line.text('tag');
    const refused = (why: string) => ({ line: line.line, outcome: 'refused' as const, tag, why });
    if (tag === '') return refused('No tag stands in this line.');
    if (!TAG_PATTERN.test(tag))
      return refused(`“${tag}” is no tag: letters and figures, with dashes or spaces between, 24 at most.`);
    const key = tagKey(tag);
    const twin = seen.get(key);
    if (twin !== undefined) return refused(`Line ${twin} has this tag already.`);
    seen.set(key, line.line);
    if (known.tags.has(key))
      return { line: line.line, outcome: 'known', tag, why: 'The register has a pack with this tag.' };
    const type = typeOf(line, reading, known, proposals, missing);
    if (typeof type === 'string') return refused(type);
    const place = placeOf(line, known, missing);
    const day = dayOf(line.cell('inService'), reading);
    if (line.text('inService') !== '' && !day)
      return refused(`“${line.text('inService')}” is no day in this file’s order of dates.`);
    const inServiceAt = day ? zone({ ...day, minutes: day.minutes ?? 12 * 60 }) : null;
    if (inServiceAt !== null && inServiceAt > now)
      return refused('It came into service on a day that has not come yet.');
    const before = { cycles: countOf(line, 'cycles', reading), flights: countOf(line, 'flights', reading) };
    const odd = (['cycles', 'flights'] as const).find((field) => before[field] === 'odd');
    if (odd) return refused(`“${line.text(odd)}” is no number of ${odd}.`);
    const becomes: PackLine = {
      tag,
      type,
      owner: short(line.text('owner'), LONGEST.owner),
      place,
      inServiceAt,
      source: short(line.text('source'), LONGEST.source),
      before: before as LifeBefore,
      remarks: remarksOf(line, type, reading),
    };
    return { line: line.line, outcome: 'good', becomes };
  });
  return { lines, unknown: [...unknown.values()] };
}

function short(text: string, longest: number): string | null {
  return text === '' ? null : text.slice(0, longest).trim();
}

function countOf(
  line: FieldReader,
  field: 'cycles' | 'flights',
  { decimals }: Reading,
): number | null | 'odd' {
  if (line.text(field) === '' || /^[-–—?]$/.test(line.text(field))) return null;
  const value = numberIn(line.cell(field)!, decimals);
  return value !== null && value >= 0 && value < 100_000 ? value : 'odd';
}

function placeOf(
  line: FieldReader,
  { places }: KnownForPacks,
  missing: (field: 'chemistry' | 'place', word: string) => void,
): PackLine['place'] {
  const name = line.text('place').slice(0, LONGEST.place);
  if (name === '') return null;
  const meant = line.meaning('place');
  const same = places.find((place) => place.id === meant || place.name.toLowerCase() === name.toLowerCase());
  if (same) return { id: same.id };
  missing('place', name);
  return { name };
}

/** What a price, and whatever else has no place of its own, is kept as. */
function remarksOf(line: FieldReader, type: TypeProposal, { decimals }: Reading): string | null {
  const price = line.text('price') === '' ? null : numberIn(line.cell('price')!, decimals);
  const said = [
    line.text('remarks'),
    price !== null && price !== type.price ? `Paid: ${line.text('price')}.` : '',
  ];
  return short(said.filter(Boolean).join('\n'), LONGEST.remarks);
}

/** The type of a line's pack: one sentence where it cannot be told. */
function typeOf(
  line: FieldReader,
  reading: Reading,
  known: KnownForPacks,
  proposals: Map<string, TypeProposal>,
  missing: (field: 'chemistry' | 'place', word: string) => void,
): TypeProposal | string {
  const name = line.text('type').slice(0, LONGEST.type);
  const named = known.types.find((one) => name !== '' && one.name.toLowerCase() === name.toLowerCase());
  const label = labelIn(name, reading.decimals);
  const facts = factsOf(line, reading, label, named ?? null, missing);
  if (typeof facts === 'string') return facts;
  if (named) {
    const other = differs(named, facts);
    return other
      ? `The register’s type ${named.name} is ${described(named)}; this line says ${described(facts)}.`
      : { ...named, connector: null, balancePlug: null, massG: null };
  }
  const same = name === '' ? known.types.find((one) => !differs(one, facts)) : undefined;
  if (same) return { ...same, connector: null, balancePlug: null, massG: null };
  const called = name === '' ? described(facts) : name;
  const key = called.toLowerCase();
  const earlier = proposals.get(key);
  if (earlier && differs(earlier, facts))
    return `An earlier line has the type ${called} as ${described(earlier)}; this line says ${described(facts)}.`;
  const proposal: TypeProposal = {
    ...facts,
    name: called,
    id: null,
    connector: earlier?.connector ?? short(line.text('connector'), LONGEST.plug),
    balancePlug: earlier?.balancePlug ?? short(line.text('balancePlug'), LONGEST.plug),
    massG: earlier?.massG ?? within(gramsOf(line, reading), 0.1, 50_000),
    price: earlier?.price ?? within(priceOf(line, reading), 0, 1_000_000),
  };
  // What a later line adds to its type is told of all its packs.
  if (earlier) Object.assign(earlier, proposal);
  const shared = earlier ?? proposal;
  proposals.set(key, shared);
  return shared;
}

function gramsOf(line: FieldReader, { decimals }: Reading): number | null {
  return line.text('massG') === '' ? null : gramsIn(line.cell('massG')!, line.column('massG'), decimals);
}

function priceOf(line: FieldReader, { decimals }: Reading): number | null {
  return line.text('price') === '' ? null : numberIn(line.cell('price')!, decimals);
}

function within(value: number | null, low: number, high: number): number | null {
  return value !== null && value >= low && value <= high ? value : null;
}

function factsOf(
  line: FieldReader,
  { decimals }: Reading,
  label: ReturnType<typeof labelIn>,
  named: PackTypeFacts | null,
  missing: (field: 'chemistry' | 'place', word: string) => void,
): PackTypeFacts | string {
  const written = line.text('chemistry');
  const meant = line.meaning('chemistry') as Chemistry | null;
  const chemistry =
    meant ?? (written === '' ? (label.chemistry ?? named?.chemistry ?? null) : chemistryIn(written));
  if (chemistry === null && written !== '') {
    missing('chemistry', written);
    return `“${written}” is no chemistry Malle knows. Say above what it means.`;
  }
  if (chemistry === null) return 'Its chemistry is not told.';
  const count = line.text('series') === '' ? label.cells : cellCountIn(line.text('series'));
  if (line.text('series') !== '' && count === null) return `“${line.text('series')}” is no number of cells.`;
  const volts = line.text('volts') === '' ? null : numberIn(line.cell('volts')!, decimals);
  const byVolts = volts === null ? null : seriesByVolts(volts, chemistry);
  const series = count?.series ?? byVolts ?? named?.series ?? null;
  if (series === null)
    return volts === null
      ? 'Its number of cells is not told.'
      : `${line.text('volts')} is no whole number of ${CHEMISTRY[chemistry].name} cells.`;
  if (count && byVolts !== null && byVolts !== count.series)
    return `${line.text('volts')} is a pack of ${byVolts} cells, but the line says ${count.series}.`;
  if (series > 24) return `A pack of ${series} cells in series is more than Malle takes.`;
  const capacityMah =
    line.text('capacity') === ''
      ? (label.capacityMah ?? named?.capacityMah ?? null)
      : capacityIn(line.cell('capacity')!, line.column('capacity'), decimals);
  if (capacityMah === 'which')
    return `A capacity of ${line.text('capacity')}: mAh or Ah? Write the unit with it.`;
  if (capacityMah === null || capacityMah < 10 || capacityMah > 200_000)
    return line.text('capacity') === ''
      ? 'Its capacity is not told.'
      : `“${line.text('capacity')}” is no capacity.`;
  const parallel = line.text('parallel') === '' ? null : numberIn(line.cell('parallel')!, decimals);
  const rate = (field: 'continuousC' | 'burstC' | 'chargeC') =>
    line.text(field) === '' ? null : within(numberIn(line.cell(field)!, decimals), 0.05, 1_000);
  const pair = /(\d{1,3})\s*c?\s*\/\s*(\d{1,3})/i.exec(line.text('continuousC'));
  const continuousC = pair
    ? Number(pair[1])
    : (rate('continuousC') ?? label.continuousC ?? named?.continuousC ?? null);
  const burstC = pair ? Number(pair[2]) : (rate('burstC') ?? label.burstC ?? named?.burstC ?? null);
  return {
    chemistry,
    series,
    parallel: within(parallel, 1, 20) ?? count?.parallel ?? named?.parallel ?? 1,
    capacityMah: Math.round(capacityMah),
    continuousC,
    burstC: burstC !== null && continuousC !== null && burstC < continuousC ? null : burstC,
    chargeC: within(rate('chargeC'), 0.05, 20) ?? named?.chargeC ?? null,
    dutyClass: named?.dutyClass ?? 'normal',
  };
}

/** Whether two are different packs by their label: another rating alone makes no other type. */
function differs(a: PackTypeFacts, b: PackTypeFacts): boolean {
  return (['chemistry', 'series', 'parallel', 'capacityMah'] as const).some((fact) => a[fact] !== b[fact]);
}

/** `LiPo 4S 5000 mAh`: also what a type is called that has no name of its own. */
function described(type: PackTypeFacts): string {
  return `${CHEMISTRY[type.chemistry].name} ${cellsLabel(type)} ${type.capacityMah} mAh`;
}

/** The fields without which no pack can be told, that no column is. */
export function lacksForPacks({ matching }: Reading): readonly string[] {
  return matching.includes('tag') ? [] : [PACK_FIELDS.tag.name];
}
