import { DAY_MS } from '../../core/measure';
import type { Instant, PackId, PersonId } from '../../core/measure';
import type { Names, RecordLine } from '../../core/wording';
import {
  CAUSE_WORDS,
  INCIDENT_WORDS,
  KIND_WORDS,
  OCCASION_WORDS,
  VERDICT_WORDS,
  recordLine,
  sentence,
} from '../../core/wording';
import { CHEMISTRY } from '../../core/chemistry';
import { cellsLabel } from '../../core/pack';
import type { PackTypeFacts } from '../../core/pack';
import { effectiveRecords, latestCorrections } from '../../core/record';
import type { CorrectionRecord, EffectiveRecord, PackRecord } from '../../core/record';
import type { Finding, Verdict } from '../../core/assess';
import type { Cause, IncidentKind } from '../../core/incident';
import { recordsOfMany } from '../ledger';
import { asInstant, timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import { isoDay, isoTime } from '../platform/paper';

export interface ListAsked {
  readonly from: Instant;
  readonly to: Instant;
  readonly zone: string;
  readonly now: Instant;
}

type Cell = string | number | null;
export interface List {
  readonly titles: readonly string[];
  readonly rows: readonly (readonly Cell[])[];
}

export const LISTS = [
  'packs',
  'holds',
  'readings',
  'charges',
  'flights',
  'inspections',
  'incidents',
] as const;
export type ListName = (typeof LISTS)[number];

/** One list of the register for a spreadsheet. Packs are all there are; what happened is of a period. */
export async function listOf(em: Entities, name: ListName, asked: ListAsked): Promise<List> {
  if (name === 'packs') return packList(em, asked);
  if (name === 'holds') return holdList(em, asked);
  if (name === 'incidents') return incidentList(em, asked);
  const kind = (
    { readings: 'reading', charges: 'charge', flights: 'flight', inspections: 'inspection' } as const
  )[name];
  const rows: Cell[][] = [];
  const { person } = await namesIn(em, asked.zone);
  const packs: { id: PackId; tag: string }[] = await em.execute(
    'select p.id, p.tag from pack p join pack_state s on s.pack_id = p.id where not s.empty order by p.tag_key',
  );
  for (let first = 0; first < packs.length; first += 25) {
    const batch = packs.slice(first, first + 25);
    const ledgers = await recordsOfMany(
      em,
      batch.map(({ id }) => id),
    );
    for (const { id, tag } of batch) {
      const ledger = ledgers.get(id) ?? [];
      for (const record of effectiveRecords(ledger)) {
        if (!isTold(record) || record.kind !== kind || record.at < asked.from || record.at >= asked.to)
          continue;
        rows.push([tag, isoTime(record.at, asked.zone), person(record.by), ...figures(record, person)]);
      }
    }
  }
  return { titles: ['Tag', 'Time', 'Written by', ...TITLES[kind]], rows };
}

const TITLES = {
  reading: [
    'Condition',
    'Cells (V)',
    'Lowest (V)',
    'Highest (V)',
    'Pack (V)',
    'Temperature (°C)',
    'Meter',
    'Remarks',
  ],
  charge: [
    'Job',
    'Charger',
    'Charge moved (mAh)',
    'Minutes',
    'Current set (A)',
    'Top set (V)',
    'Cells at the end (V)',
    'Hottest (°C)',
    'Ended',
    'Remarks',
  ],
  flight: [
    'Pilot',
    'Craft',
    'Minutes',
    'Charge used (mAh)',
    'Landing (V)',
    'Condition',
    'Hottest (°C)',
    'Outside (°C)',
    'Remarks',
  ],
  inspection: ['Occasion', 'Found', 'Swelling', 'Thickness (mm)', 'Mass (g)', 'Remarks'],
} as const;

const inVolts = (mv: number) => mv / 1000;
const joined = (cellsMv: readonly number[] | null) =>
  cellsMv ? cellsMv.map((mv) => (mv / 1000).toFixed(3)).join(' ') : null;

type Told = Extract<EffectiveRecord, { kind: 'reading' | 'charge' | 'flight' | 'inspection' }>;

function isTold(record: EffectiveRecord): record is Told {
  return record.kind in TITLES;
}

function figures(record: Told, person: Names['person']): readonly Cell[] {
  switch (record.kind) {
    case 'reading': {
      const { volts, condition, temperatureC, instrument, remarks } = record.payload;
      const cells = volts.of === 'cells' ? volts.cellsMv : null;
      const sum = volts.of === 'cells' ? volts.cellsMv.reduce((total, mv) => total + mv, 0) : volts.packMv;
      return [
        condition,
        joined(cells),
        cells && inVolts(Math.min(...cells)),
        cells && inVolts(Math.max(...cells)),
        inVolts(sum),
        temperatureC,
        instrument,
        remarks,
      ];
    }
    case 'charge': {
      const { mode, charger, movedMah, minutes, settings, endCellsMv, temperatureC, ending, remarks } =
        record.payload;
      const top = settings.topMv === null ? null : inVolts(settings.topMv);
      return [
        mode,
        charger,
        movedMah,
        minutes,
        settings.currentA,
        top,
        joined(endCellsMv),
        temperatureC,
        ending,
        remarks,
      ];
    }
    case 'flight': {
      const { pilotId, flownBy, craft, minutes, usedMah, landing, hottestC, ambientC, remarks } =
        record.payload;
      const pilot = flownBy ?? person(pilotId ?? record.by);
      const landed =
        landing &&
        (landing.volts.of === 'cells' ? joined(landing.volts.cellsMv) : inVolts(landing.volts.packMv));
      return [
        pilot,
        craft,
        minutes,
        usedMah,
        landed,
        landing?.condition ?? null,
        hottestC,
        ambientC,
        remarks,
      ];
    }
    case 'inspection': {
      const { occasion, items, swelling, thicknessMm, massG, remarks } = record.payload;
      const told = items
        .filter(({ answer }) => answer !== 'ok')
        .map(({ asks, answer, note }) => `${answer}: ${asks}${note ? `, ${note}` : ''}`);
      return [
        OCCASION_WORDS[occasion],
        told.join('; ') || 'all in order',
        swelling,
        thicknessMm,
        massG,
        remarks,
      ];
    }
    default:
      return record satisfies never;
  }
}

/** Every pack out of use, the oldest first. */
async function holdList(em: Entities, { now, zone }: ListAsked): Promise<List> {
  const rows: {
    tag: string;
    type: string;
    verdict: Verdict;
    findings: readonly Finding[];
    outSince: number;
    place: string | null;
  }[] = await em.execute(
    `select p.tag, t.name as type, s.verdict, s.findings, ${asInstant('s.out_since')} as "outSince", l.name as place
         from pack_state_at(?) s join pack p on p.id = s.pack_id join pack_type t on t.id = p.type_id
         left join place l on l.id = s.place_id
        where s.out_since is not null and s.verdict in ('hold', 'retire-advised') order by s.out_since, p.tag_key`,
    [timestamp(now)],
  );
  return {
    titles: ['Tag', 'Type', 'Verdict', 'Because', 'Out of use since', 'Days', 'Place'],
    rows: rows.map(({ tag, type, verdict, findings, outSince, place }) => [
      tag,
      type,
      VERDICT_WORDS[verdict],
      findings[0] ? sentence(findings[0], { now, zone }) : null,
      isoTime(outSince, zone),
      Math.round((now - outSince) / (DAY_MS / 10)) / 10,
      place,
    ]),
  };
}

/** The incidents of a period, the latest first. */
async function incidentList(em: Entities, { from, to, zone }: ListAsked): Promise<List> {
  const { person } = await namesIn(em, zone);
  const rows: {
    kind: IncidentKind;
    at: number;
    by: PersonId;
    place: string | null;
    what: string | null;
    cause: Cause | null;
    openTasks: number;
    closedAt: number | null;
    packs: string;
  }[] = await em.execute(
    `select i.kind, ${asInstant('i.at')} as at, i.by, i.place, i.what, i.cause, i.open_tasks as "openTasks",
            ${asInstant('i.closed_at')} as "closedAt",
            coalesce((select string_agg(p.tag, ' ' order by p.tag_key) from incident_pack n join pack p on p.id = n.pack_id
               where n.incident_id = i.id), '') as packs
       from incident i where i.at >= ? and i.at < ? order by i.at desc`,
    [timestamp(from), timestamp(to)],
  );
  return {
    titles: [
      'Time',
      'Kind',
      'Packs',
      'Place',
      'What happened',
      'Cause',
      'Reported by',
      'Follow-ups open',
      'Closed',
    ],
    rows: rows.map(({ kind, at, by, place, what, cause, openTasks, closedAt, packs }) => [
      isoTime(at, zone),
      INCIDENT_WORDS[kind].name,
      packs,
      place,
      what,
      cause && CAUSE_WORDS[cause],
      person(by),
      openTasks,
      closedAt === null ? null : isoTime(closedAt, zone),
    ]),
  };
}

async function packList(em: Entities, { now, zone }: ListAsked): Promise<List> {
  const rows: PackListRow[] = await em.execute(
    `select p.tag, t.name as type, t.chemistry, t.series, t.parallel, t.capacity_mah as "capacityMah", t.continuous_c as "continuousC",
            t.connector, t.mass_g as "massG", t.price, p.owner, coalesce(l.name, '') as place, coalesce(h.name, '') as holder,
            (extract(epoch from p.in_service_at) * 1000)::float8 as "inServiceAt",
            (extract(epoch from s.received_at) * 1000)::float8 as "receivedAt", s.verdict, s.storage,
            s.soc_percent as "socPercent", s.cells_mv as "cellsMv", (extract(epoch from s.read_at) * 1000)::float8 as "readAt",
            (extract(epoch from s.due_at) * 1000)::float8 as "dueAt"
       from pack_state_at(?) s join pack p on p.id = s.pack_id join pack_type t on t.id = p.type_id
       left join place l on l.id = s.place_id left join person h on h.id = s.holder_id order by p.tag_key`,
    [timestamp(now)],
  );
  const time = (at: number | null) => (at === null ? null : isoTime(at, zone));
  return {
    titles: [
      'Tag',
      'Type',
      'Chemistry',
      'Cells',
      'Capacity (mAh)',
      'C rating',
      'Connector',
      'Mass (g)',
      'Price',
      'Owner',
      'Place',
      'With',
      'In service since',
      'Received',
      'Verdict',
      'Storage',
      'Charge (%)',
      'Cells (V)',
      'Read',
      'Due in storage by',
    ],
    rows: rows.map((row) => [
      row.tag,
      row.type,
      CHEMISTRY[row.chemistry].name,
      cellsLabel(row),
      row.capacityMah,
      row.continuousC,
      row.connector,
      row.massG,
      row.price,
      row.owner,
      row.place,
      row.holder,
      time(row.inServiceAt),
      time(row.receivedAt),
      VERDICT_WORDS[row.verdict],
      row.storage,
      row.socPercent === null ? null : Math.round(row.socPercent),
      joined(row.cellsMv),
      time(row.readAt),
      time(row.dueAt),
    ]),
  };
}

interface PackListRow extends PackTypeFacts {
  readonly tag: string;
  readonly type: string;
  readonly connector: string | null;
  readonly massG: number | null;
  readonly price: number | null;
  readonly owner: string | null;
  readonly place: string;
  readonly holder: string;
  readonly inServiceAt: number | null;
  readonly receivedAt: number | null;
  readonly verdict: Verdict;
  readonly storage: string;
  readonly socPercent: number | null;
  readonly cellsMv: readonly number[] | null;
  readonly readAt: number | null;
  readonly dueAt: number | null;
}

/** Names of the people and places of the register, for putting records into words. */
export async function namesIn(em: Entities, zone: string): Promise<Names> {
  const of = async (table: 'person' | 'place' | 'craft') => {
    const rows: { id: string; name: string }[] = await em.execute(`select id, name from ${table}`);
    return new Map(rows.map(({ id, name }) => [id, name]));
  };
  const [people, places, crafts] = [await of('person'), await of('place'), await of('craft')];
  return {
    person: (id) => people.get(id) ?? 'somebody',
    place: (id) => places.get(id) ?? 'a place',
    craft: (id) => crafts.get(id) ?? 'a craft',
    day: (at) => isoDay(at, zone),
  };
}

/** A pack's whole life, one line a record, as it was written: what was corrected since says so. */
export function lifeOf(records: readonly PackRecord[], names: Names, zone: string): List {
  const corrections = latestCorrections(records);
  const numbers = new Map(records.map(({ id, seq }) => [id, seq]));
  return {
    titles: ['No.', 'Time', 'What', 'Figures', 'Words', 'By', 'Written down', 'Corrected by no.'],
    rows: records.map((record) => {
      const line =
        record.kind === 'correction' ? correctionLine(record, numbers, names) : recordLine(record, names);
      return [
        record.seq,
        isoTime(record.at, zone),
        KIND_WORDS[record.kind],
        line.figures || null,
        line.words || null,
        names.person(record.by),
        isoTime(record.recordedAt, zone),
        corrections.get(record.id)?.seq ?? null,
      ];
    }),
  };
}

function correctionLine(
  { supersedes, payload }: CorrectionRecord,
  numbers: ReadonlyMap<string, number>,
  names: Names,
): RecordLine {
  const of = `of no. ${numbers.get(supersedes) ?? '?'}: ${payload.reason}`;
  if (payload.replacement === null) return { figures: '', words: `${of} · withdrawn` };
  const now = recordLine(payload.replacement, names);
  return { figures: now.figures, words: `${of} · now ${now.words}` };
}
