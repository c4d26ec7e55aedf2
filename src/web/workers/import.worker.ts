import Papa from 'papaparse';
import { v5 as idByText } from 'uuid';
import type { ImportAnswer, PackRow, RegisterAnswer } from '../../contract';
import { assess } from '../../core/assess';
import type { Verdict } from '../../core/assess';
import { CHEMISTRY } from '../../core/chemistry';
import {
  historyLines,
  identified,
  lacksForHistory,
  lacksForPacks,
  openedAs,
  packLines,
} from '../../core/importing';
import type {
  Happening,
  HistoryLine,
  ImportKind,
  Line,
  Opened,
  PackLine,
  Reading,
  UnknownWord,
  WholeKind,
  Zone,
} from '../../core/importing';
import type { Instant, PackId, PackTypeId, PlaceId, RecordId } from '../../core/measure';
import { cellsLabel, tagKey } from '../../core/pack';
import type { PackFacts } from '../../core/pack';
import { fold } from '../../core/record';
import type { PackRecord, RecordDraft } from '../../core/record';
import { KIND_WORDS, recordLine } from '../../core/wording';
import type { Names } from '../../core/wording';
import { ask, FailedRequest } from '../app/api';
import { ledgersOf } from '../app/ledgers';
import { openedRows } from './openFile';
import type { TextForm } from './openFile';

/** What the page asks. */
export type ImportQuestion =
  | {
      readonly kind: 'open';
      readonly file: File;
      readonly of: ImportKind;
      readonly text?: Partial<TextForm>;
      readonly sheet?: string;
      readonly now: Instant;
    }
  | { readonly kind: 'read'; readonly reading: Reading; readonly whole: WholeKind }
  | { readonly kind: 'send' }
  | { readonly kind: 'stop' };

/** A line as the preview shows it. */
export interface ShownLine {
  readonly line: number;
  readonly tag: string;
  readonly outcome: 'good' | 'known' | 'refused';
  /** What it becomes, or why not. */
  readonly says: string;
  /** The verdict the pack would have; of a history, after the whole file. */
  readonly verdict: Verdict | null;
}

export interface OpenedFile {
  readonly fileName: string;
  readonly digest: string;
  readonly columns: readonly string[];
  /** The first cells of each column that hold something. */
  readonly samples: readonly (readonly string[])[];
  readonly lines: number;
  readonly guess: Reading;
  readonly whole: WholeKind;
  readonly datesAreSure: boolean;
  readonly text: TextForm | null;
  readonly sheets: readonly string[];
  readonly sheet: string | null;
  /** Imports of this very file before. */
  readonly before: readonly ImportAnswer[];
  /** Whether the matching is the one chosen for such a file before. */
  readonly remembered: boolean;
}

export interface Preview {
  readonly lacks: readonly string[];
  readonly lines: readonly ShownLine[];
  readonly good: number;
  readonly known: number;
  readonly refused: number;
  readonly unknown: readonly UnknownWord[];
  readonly newTypes: readonly string[];
  readonly newPlaces: readonly string[];
  readonly withoutTime: number;
}

/** What became of it. */
export interface Sent {
  readonly importId: string;
  readonly taken: number;
  readonly known: number;
  readonly refused: number;
  /** The lines that were not taken, with the reason, as a file; empty where there are none. */
  readonly refusedFile: string;
  readonly stopped: boolean;
}

export type ImportMessage =
  | { readonly kind: 'opened'; readonly opened: OpenedFile }
  | { readonly kind: 'read'; readonly preview: Preview }
  | { readonly kind: 'progress'; readonly done: number; readonly of: number }
  | { readonly kind: 'sent'; readonly sent: Sent }
  | { readonly kind: 'failed'; readonly why: string };

/** What all ids made from a file grow from. */
const ROOT = '5b1f7a52-0f52-5f0e-9d0a-6d616c6c6565';
const PACKS_AT_ONCE = 25;
const RECORDS_AT_ONCE = 400;
const SAMPLES = 3;

/** What the register knows that a file may name. */
interface Known {
  readonly register: RegisterAnswer;
  readonly packs: readonly PackRow[];
  readonly imports: readonly ImportAnswer[];
}

interface Work {
  readonly of: ImportKind;
  readonly file: Opened;
  readonly fileName: string;
  readonly digest: string;
  readonly delimiter: string;
  readonly now: Instant;
  known: Known;
  reading: Reading;
  whole: WholeKind;
}

let work: Work | null = null;
let stopped = false;

self.onmessage = ({ data }: MessageEvent<ImportQuestion>) => {
  if (data.kind === 'stop') {
    stopped = true;
    return;
  }
  void answer(data).catch((error: unknown) => {
    const why = error instanceof FailedRequest ? error.says : error instanceof Error ? error.message : '';
    tell({ kind: 'failed', why: why || 'This file cannot be read.' });
  });
};

function tell(message: ImportMessage): void {
  self.postMessage(message);
}

async function answer(question: Exclude<ImportQuestion, { kind: 'stop' }>): Promise<void> {
  if (question.kind === 'open') return open(question);
  if (!work) return;
  if (question.kind === 'read') {
    work.reading = question.reading;
    work.whole = question.whole;
    tell({ kind: 'read', preview: await preview(work) });
  } else tell({ kind: 'sent', sent: await send(work) });
}

async function fetched(): Promise<Known> {
  const [register, packs, imports] = await Promise.all([
    ask('GET /register'),
    ask('GET /packs'),
    ask('GET /imports'),
  ]);
  return { register, packs, imports };
}

async function open({
  file,
  of,
  text,
  sheet,
  now,
}: Extract<ImportQuestion, { kind: 'open' }>): Promise<void> {
  const bytes = await file.arrayBuffer();
  const {
    rows,
    text: form,
    sheets,
    sheet: own,
  } = await openedRows(bytes, { ...(text ? { text } : {}), ...(sheet ? { sheet } : {}) });
  const opened = openedAs(of, rows);
  const digest = await sha256(bytes);
  const known = await fetched();
  const { columns } = opened.sheet;
  const earlier = known.imports.find((one) => one.kind === of && one.columnsKey === keyOf(columns));
  const remembered = earlier?.reading as (Reading & { whole: WholeKind | null }) | undefined;
  const guess = remembered
    ? {
        matching: remembered.matching,
        decimals: remembered.decimals,
        dates: remembered.dates,
        words: remembered.words,
      }
    : opened.guess;
  const whole = remembered?.whole ?? 'by-line';
  work = {
    of,
    file: opened,
    fileName: file.name,
    digest,
    delimiter: form?.delimiter ?? ';',
    now,
    known,
    reading: guess,
    whole,
  };
  tell({
    kind: 'opened',
    opened: {
      fileName: file.name,
      digest,
      columns,
      samples: columns.map((_name, i) => samplesOf(opened, i)),
      lines: opened.sheet.lines.length,
      guess,
      whole,
      datesAreSure: opened.datesAreSure || Boolean(remembered),
      text: form,
      sheets,
      sheet: own,
      before: known.imports.filter((one) => one.digest === digest && one.kind === of),
      remembered: Boolean(remembered),
    },
  });
}

function samplesOf({ sheet }: Opened, column: number): string[] {
  const found: string[] = [];
  for (const { cells } of sheet.lines) {
    const cell = String(cells[column] ?? '').trim();
    if (cell !== '' && !found.includes(cell)) found.push(cell);
    if (found.length === SAMPLES) break;
  }
  return found;
}

function keyOf(columns: readonly string[]): string {
  return columns.join('|').toLowerCase().slice(0, 4_000);
}

async function sha256(bytes: ArrayBuffer): Promise<string> {
  const hash = await crypto.subtle.digest('SHA-256', bytes);
  return [...new Uint8Array(hash)].map((byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** A day and a time of day where this device is. */
const here: Zone = ({ year, month, day, minutes }) =>
  new Date(year, month - 1, day, 0, minutes ?? 720).getTime();

function readPacks({ file, reading, known, now }: Work) {
  const { register, packs } = known;
  const tags = new Map(packs.map(({ tag, id }) => [tagKey(tag), id]));
  return packLines(file.sheet, reading, { types: register.types, places: register.places, tags }, here, now);
}

function readHistory({ file, reading, whole, known, now }: Work) {
  const { register, packs } = known;
  const types = new Map(register.types.map((type) => [type.id, type]));
  const byTag = new Map(
    packs.flatMap(({ tag, id, typeId }) => {
      const type = types.get(typeId);
      return type ? [[tagKey(tag), { id, type }] as const] : [];
    }),
  );
  return historyLines(file.sheet, reading, whole, { packs: byTag, people: register.people }, here, now);
}

async function preview(of: Work): Promise<Preview> {
  const lacks = of.of === 'packs' ? lacksForPacks(of.reading) : lacksForHistory(of.reading);
  const nothing = {
    lines: [],
    good: 0,
    known: 0,
    refused: 0,
    unknown: [],
    newTypes: [],
    newPlaces: [],
    withoutTime: 0,
  };
  if (lacks.length > 0) return { ...nothing, lacks };
  return of.of === 'packs' ? packPreview(of) : historyPreview(of);
}

function packPreview(of: Work): Preview {
  const { lines, unknown } = readPacks(of);
  const { rules } = of.known.register.rules;
  const good = lines.flatMap((line) => (line.outcome === 'good' ? [line.becomes] : []));
  const shown = lines.map((line): ShownLine => {
    if (line.outcome !== 'good') return { ...line, says: line.why, verdict: null };
    const { verdict } = assess(fold(factsOf(line.becomes), [receiptOf(line.becomes, of)]), rules, of.now);
    return {
      line: line.line,
      tag: line.becomes.tag,
      outcome: 'good',
      says: packWords(line.becomes),
      verdict,
    };
  });
  const newTypes = new Set(good.filter(({ type }) => type.id === null).map(({ type }) => type.name));
  const newPlaces = new Set(good.flatMap(({ place }) => (place && 'name' in place ? [place.name] : [])));
  return {
    ...counted(shown),
    lacks: [],
    lines: shown,
    unknown,
    newTypes: [...newTypes],
    newPlaces: [...newPlaces],
    withoutTime: 0,
  };
}

function counted(lines: readonly ShownLine[]) {
  const of = (outcome: ShownLine['outcome']) => lines.filter((line) => line.outcome === outcome).length;
  return { good: of('good'), known: of('known'), refused: of('refused') };
}

function packWords({ type, place, inServiceAt, before, owner }: PackLine): string {
  return [
    `${type.name}${type.id === null ? ' (new type)' : ''}: ${CHEMISTRY[type.chemistry].name} ${cellsLabel(type)} ${type.capacityMah} mAh`,
    place && ('name' in place ? `in ${place.name} (new place)` : 'in its place'),
    inServiceAt !== null &&
      `since ${new Date(inServiceAt).toLocaleDateString('en-GB', { dateStyle: 'medium' })}`,
    before.cycles !== null && `${before.cycles} cycles`,
    before.flights !== null && `${before.flights} flights`,
    owner,
  ]
    .filter(Boolean)
    .join(' · ');
}

function factsOf({ type, inServiceAt }: PackLine): PackFacts {
  const {
    name: _name,
    id: _id,
    connector: _connector,
    balancePlug: _plug,
    massG: _mass,
    price: _price,
    ...facts
  } = type;
  return { ...facts, id: 'new' as PackId, fieldPack: false, smart: null, inServiceAt, placeTemperatures: [] };
}

function receiptOf({ before, source }: PackLine, { now }: Work): PackRecord {
  const payload = { source, placeId: null, before };
  const stamp = {
    id: 'new',
    packId: 'new',
    seq: 1,
    at: now,
    recordedAt: now,
    by: 'me',
    supersedes: null,
    rulesVersion: 1,
  };
  return { ...stamp, kind: 'received', payload } as unknown as PackRecord;
}

/** What would happen to each pack that a history names. */
interface PackChange {
  readonly fresh: readonly RecordDraft[];
  readonly known: number;
  readonly verdict: Verdict;
  /** Line by line the ids of its records; a line of which all are there already is known. */
  readonly of: ReadonlyMap<number, readonly RecordId[]>;
}

const LEDGERS_AT_ONCE = 40;

/** Reads the ledgers of the packs a history names, and works out what is new for each. */
async function changesOf(
  of: Work,
  lines: readonly Line<HistoryLine>[],
): Promise<ReadonlyMap<PackId, PackChange>> {
  const byPack = new Map<PackId, { line: number; happened: readonly Happening[] }[]>();
  for (const line of lines) {
    if (line.outcome !== 'good') continue;
    const known = byPack.get(line.becomes.packId);
    const told = { line: line.line, happened: line.becomes.happened };
    if (known) known.push(told);
    else byPack.set(line.becomes.packId, [told]);
  }
  const ids = [...byPack.keys()];
  const changes = new Map<PackId, PackChange>();
  for (let first = 0; first < ids.length; first += LEDGERS_AT_ONCE) {
    const batch = ids.slice(first, first + LEDGERS_AT_ONCE);
    const { packs, placeTemperatures } = await ledgersOf(batch);
    for (const { facts, records } of packs) {
      const told = byPack.get(facts.id) ?? [];
      const happenings = told.flatMap(({ happened }) => happened);
      const { fresh, known } = identified(
        happenings,
        records,
        (text) => idByText(text, facts.id) as RecordId,
      );
      const drafts = fresh.map(
        ({ id, happening: { at, kind, payload } }) =>
          ({ id, at, kind, payload, supersedes: null }) as RecordDraft,
      );
      const added = drafts.map(
        (draft, i) =>
          ({
            ...draft,
            packId: facts.id,
            seq: records.length + i + 1,
            recordedAt: of.now,
            by: 'me',
            rulesVersion: 1,
          }) as unknown as PackRecord,
      );
      const history = fold({ ...facts, placeTemperatures }, [...records, ...added]);
      const ofHappening = new Map(fresh.map(({ id, happening }) => [happening, id]));
      changes.set(facts.id, {
        fresh: drafts,
        known,
        verdict: assess(history, of.known.register.rules.rules, of.now).verdict,
        of: new Map(
          told.map(({ line, happened }) => [line, happened.flatMap((one) => ofHappening.get(one) ?? [])]),
        ),
      });
    }
  }
  return changes;
}

async function historyPreview(of: Work): Promise<Preview> {
  const { lines, unknown, withoutTime } = readHistory(of);
  const changes = await changesOf(of, lines);
  const names = namesOf(of.known.register);
  const shown = lines.map((line): ShownLine => {
    if (line.outcome !== 'good') return { ...line, says: line.why, verdict: null };
    const { tag, packId, happened } = line.becomes;
    const change = changes.get(packId);
    if (change?.of.get(line.line)?.length === 0)
      return {
        line: line.line,
        tag,
        outcome: 'known',
        says: 'The register has this already.',
        verdict: change.verdict,
      };
    return {
      line: line.line,
      tag,
      outcome: 'good',
      says: happened.map((one) => happeningWords(one, names)).join(' + '),
      verdict: change?.verdict ?? null,
    };
  });
  return { ...counted(shown), lacks: [], lines: shown, unknown, newTypes: [], newPlaces: [], withoutTime };
}

function namesOf({ people, places, craft }: RegisterAnswer): Names {
  return {
    person: (id) => people.find((one) => one.id === id)?.name ?? '',
    place: (id) => places.find((one) => one.id === id)?.name ?? '',
    craft: (id) => craft.find((one) => one.id === id)?.name ?? '',
    day: (at) => new Date(at).toLocaleDateString('en-GB', { dateStyle: 'medium' }),
  };
}

function happeningWords(happening: Happening, names: Names): string {
  const { figures, words } = recordLine(happening, names);
  const at = new Date(happening.at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
  return [`${KIND_WORDS[happening.kind]}, ${at}`, figures, words].filter(Boolean).join(' · ');
}

async function send(of: Work): Promise<Sent> {
  stopped = false;
  // What came in since the preview, or in a try that broke off, is known by now.
  of.known = await fetched();
  const { file, fileName, digest, reading, whole, known } = of;
  const takenBack = known.imports.filter(
    (one) => one.digest === digest && one.kind === of.of && one.takenBackAt !== null,
  ).length;
  const importId = idByText(`${digest} ${of.of} ${takenBack}`, ROOT);
  await ask('POST /imports', {
    body: {
      id: importId,
      kind: of.of,
      fileName: fileName.slice(0, 200),
      digest,
      columnsKey: keyOf(file.sheet.columns),
      reading: { ...reading, whole: of.of === 'history' ? whole : null },
      lines: file.sheet.lines.length,
    },
  });
  const why = new Map<number, string>();
  const counts =
    of.of === 'packs' ? await sendPacks(of, importId, why) : await sendHistory(of, importId, why);
  if (!stopped) await ask('POST /imports/:id/end', { params: { id: importId }, body: { refused: why.size } });
  return { importId, ...counts, refused: why.size, refusedFile: refusedFile(of, why), stopped };
}

async function sendPacks(of: Work, importId: string, why: Map<number, string>) {
  const { lines } = readPacks(of);
  for (const line of lines) if (line.outcome === 'refused') why.set(line.line, line.why);
  const good = lines.flatMap((line) =>
    line.outcome === 'good' ? [{ line: line.line, pack: line.becomes }] : [],
  );
  const types = new Map<string, PackTypeId>();
  const places = new Map<string, PlaceId>();
  let taken = 0;
  for (let first = 0; first < good.length && !stopped; first += PACKS_AT_ONCE) {
    const batch = good.slice(first, first + PACKS_AT_ONCE);
    const packs = [];
    for (const { pack } of batch) {
      const typeId = await typeIdOf(pack, types);
      const placeId = await placeIdOf(pack, places);
      const id = (what: string) => idByText(`${importId} ${what} ${tagKey(pack.tag)}`, ROOT);
      packs.push({
        id: id('pack'),
        recordId: id('receipt'),
        tag: pack.tag,
        typeId,
        owner: pack.owner,
        homePlaceId: placeId,
        inServiceAt: pack.inServiceAt,
        fieldPack: false,
        smart: null,
        receivedAt: of.now,
        source: pack.source ?? `From the list ${of.fileName}`.slice(0, 120),
        before: pack.before,
        note: pack.remarks === null ? null : { recordId: id('remark'), text: pack.remarks },
      });
    }
    const answer = await ask('POST /imports/:id/packs', { params: { id: importId }, body: { packs } });
    for (const { index, why: reason } of answer.refused) why.set(batch[index]!.line, reason);
    taken += answer.taken;
    tell({ kind: 'progress', done: Math.min(first + PACKS_AT_ONCE, good.length), of: good.length });
  }
  return { taken, known: lines.filter(({ outcome }) => outcome === 'known').length };
}

async function typeIdOf({ type }: PackLine, made: Map<string, PackTypeId>): Promise<PackTypeId> {
  const known = type.id ?? made.get(type.name.toLowerCase());
  if (known) return known;
  const { id: _id, ...body } = type;
  const { id } = await ask('POST /pack-types', { body });
  made.set(type.name.toLowerCase(), id);
  return id;
}

async function placeIdOf({ place }: PackLine, made: Map<string, PlaceId>): Promise<PlaceId | null> {
  if (place === null) return null;
  if ('id' in place) return place.id;
  const known = made.get(place.name.toLowerCase());
  if (known) return known;
  const { id } = await ask('POST /places', {
    body: { name: place.name, kind: 'shelf', fireResistant: false, code: null },
  });
  made.set(place.name.toLowerCase(), id);
  return id;
}

async function sendHistory(of: Work, importId: string, why: Map<number, string>) {
  const { lines } = readHistory(of);
  for (const line of lines) if (line.outcome === 'refused') why.set(line.line, line.why);
  const changes = await changesOf(of, lines);
  const all = [...changes.values()].reduce((sum, { fresh }) => sum + fresh.length, 0);
  let done = 0;
  let taken = 0;
  let known = 0;
  for (const [packId, change] of changes) {
    known += change.known;
    const lineOf = new Map([...change.of].flatMap(([line, ids]) => ids.map((id) => [id, line] as const)));
    for (let first = 0; first < change.fresh.length && !stopped; first += RECORDS_AT_ONCE) {
      const records = change.fresh.slice(first, first + RECORDS_AT_ONCE);
      const answer = await ask('POST /imports/:id/records', {
        params: { id: importId },
        body: { packId, records: records },
      });
      for (const { index, why: reason } of answer.refused) why.set(lineOf.get(records[index]!.id)!, reason);
      taken += answer.taken;
      done += records.length;
      tell({ kind: 'progress', done, of: all });
    }
    if (stopped) break;
  }
  return { taken, known };
}

/** The lines that were not taken, as they stood, with the reason in front. A spreadsheet runs nothing that stands in them. */
function refusedFile({ file, delimiter }: Work, why: ReadonlyMap<number, string>): string {
  if (why.size === 0) return '';
  const { columns, lines } = file.sheet;
  const rows = lines
    .filter(({ line }) => why.has(line))
    .map(({ line, cells }) => [why.get(line), line, ...cells]);
  return `\uFEFF${Papa.unparse([['Why not', 'Line', ...columns], ...rows], { delimiter, escapeFormulae: true })}\r\n`;
}
