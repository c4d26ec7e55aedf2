import type { ReportAnswer, ReportTable } from '../../contract';
import { endedHolds, openHold, restedReadings } from '../../core/assess';
import type { Hold } from '../../core/assess';
import { CHEMISTRY } from '../../core/chemistry';
import type { Chemistry } from '../../core/chemistry';
import { ageYears, measure } from '../../core/health';
import type { Cause, IncidentKind } from '../../core/incident';
import { DAY_MS } from '../../core/measure';
import type { CraftId, Instant, PackId, PackTypeId, PersonId, PlaceId } from '../../core/measure';
import { fold } from '../../core/record';
import type { PackHistory } from '../../core/record';
import type { HouseRules } from '../../core/rules';
import {
  NO_HOURS,
  addHours,
  carriedForward,
  complianceShare,
  storageEvidence,
  storageHours,
} from '../../core/storage';
import type { StorageHours, Stretch } from '../../core/storage';
import { CAUSE_WORDS, INCIDENT_WORDS, RULE_TEXTS, ruleTitle } from '../../core/wording';
import type { Reader } from '../../core/wording';
import { allFacts, placeTemperatures, recordsOfMany, rulesInForce } from '../ledger';
import { timestamp } from '../platform/columns';
import { openInWorker } from '../platform/database';
import type { Entities } from '../platform/database';
import { heavyTask } from '../platform/heavy';
import type { Told } from '../platform/heavy';
import { isoDay } from '../platform/paper';
import { column, round } from './columns';
import { countCustody, custodyTable, fullTable, lateTable } from './custody';
import type { CustodyCounts } from './custody';
import { countFlights, flightTable, landingTable } from './flights';
import type { FlightCounts } from './flights';

/** What a report is about: a period, and all packs or those of one type. */
export interface ReportAsked {
  readonly from: Instant;
  readonly to: Instant;
  readonly typeId: PackTypeId | null;
  /** In whose hands packs lay, who flew, who reported; each table is narrowed by what it knows. */
  readonly personId: PersonId | null;
  readonly placeId: PlaceId | null;
  /** In small letters. */
  readonly craft: string | null;
}

/** So many packs' ledgers are fetched at once. */
const BATCH = 25;

interface Pack {
  readonly id: PackId;
  readonly tag: string;
  readonly type: string;
  /** Whether it is out of use now and waits for a decision. */
  readonly out: boolean;
}

/** A report and the register it is of. */
interface ReportOf {
  readonly databaseUrl: string;
  readonly asked: ReportAsked;
  readonly reader: Reader;
}

/** A report of thousands of packs takes a while and all of a processor. */
export const REPORT = heavyTask<ReportOf, ReportAnswer>('report');

/** The same, by whoever has no connection to the register yet. */
export async function reportFrom(
  { databaseUrl, asked, reader }: ReportOf,
  told: Told,
): Promise<ReportAnswer> {
  return report((await openInWorker(databaseUrl)).entities(), asked, reader, told);
}

/** Every table of a report. Reads each ledger once. */
export async function report(
  em: Entities,
  asked: ReportAsked,
  reader: Reader,
  told: Told,
): Promise<ReportAnswer> {
  const { rules } = await rulesInForce(em);
  const packs: Pack[] = await em.execute(
    `select p.id, p.tag, t.name as type, s.out_since is not null as out
       from pack_state_at(?) s join pack p on p.id = s.pack_id join pack_type t on t.id = p.type_id
      where ?::uuid is null or p.type_id = ?::uuid order by t.name, p.tag_key`,
    [timestamp(reader.now), asked.typeId, asked.typeId],
  );
  const storage = new Map<string, StorageHours & { packs: number }>();
  const holds: PackHold[] = [];
  const retirements: Retirement[] = [];
  const flights: FlightCounts = { counts: new Map(), told: [] };
  const custody: CustodyCounts = { people: new Map(), late: [], full: [] };
  const temperatures = await placeTemperatures(em);
  const read = async (first: number) => {
    const ids = packs.slice(first, first + BATCH).map(({ id }) => id);
    const facts = new Map((await allFacts(em, ids)).map((one) => [one.id, one]));
    return { facts, records: await recordsOfMany(em, ids) };
  };
  let coming: ReturnType<typeof read> | null = read(0);
  for (let first = 0; first < packs.length; first += BATCH) {
    told(first, packs.length);
    const { facts, records } = await coming!;
    // The database reads the next while these are gone through.
    coming = first + BATCH < packs.length ? read(first + BATCH) : null;
    // Nobody awaits them yet; a failure is told when their turn comes.
    coming?.catch(() => undefined);
    for (const pack of packs.slice(first, first + BATCH)) {
      const own = { ...facts.get(pack.id)!, placeTemperatures: temperatures };
      const ledger = records.get(pack.id) ?? [];
      const history = fold(own, ledger);
      const known = storage.get(pack.type) ?? { ...NO_HOURS, packs: 0 };
      const { rested } = restedReadings(history, rules);
      const stretches = carriedForward(own, storageEvidence(history, rested), rules, asked.to);
      const spent = hoursOf(history, stretches, rules, asked);
      storage.set(pack.type, { ...addHours(known, spent), packs: known.packs + 1 });
      const { tag, type } = pack;
      const open = pack.out ? openHold(history, rules, reader.now) : [];
      for (const hold of [...endedHolds(history, ledger, rules), ...open])
        if (within(hold, asked)) holds.push({ ...hold, tag, type });
      retirements.push(...retirementOf(history, asked));
      const { capacityMah } = measure(history, rested, rules, asked.to);
      countFlights(flights, pack, history, capacityMah, rules, asked);
      countCustody(custody, pack, history, stretches, rules, asked, reader.now);
    }
  }
  const names = await namesOf<PersonId>(em, 'person');
  const craft = await namesOf<CraftId>(em, 'craft');
  return {
    asOf: reader.now,
    from: asked.from,
    to: asked.to,
    tables: [
      storageTable(storage),
      flightTable(flights, names),
      landingTable(flights, names, reader),
      custodyTable(custody, names),
      lateTable(custody, names, craft, reader.now, reader.zone),
      fullTable(custody, names),
      incidentTable(await incidentCounts(em, asked)),
      holdTable(holds, reader),
      retirementTable(retirements),
      await recycledTable(em, asked, reader),
    ],
  };
}

function hoursOf(
  history: PackHistory,
  stretches: readonly Stretch[],
  rules: HouseRules,
  { from, to, personId, placeId }: ReportAsked,
): StorageHours {
  return storageHours(history, stretches, rules, [from, to])
    .filter((held) => personId === null || held.holderId === personId)
    .filter((held) => placeId === null || held.placeId === placeId)
    .reduce<StorageHours>(addHours, NO_HOURS);
}

function storageTable(storage: ReadonlyMap<string, StorageHours & { packs: number }>): ReportTable {
  const line = (name: string, hours: StorageHours & { packs: number }) => {
    const share = complianceShare(hours);
    const days = (value: number) => round(value / 24, 1);
    return [
      name,
      hours.packs,
      days(hours.inBand),
      days(hours.allowed),
      days(hours.overdue),
      days(hours.unknown),
      share === null ? null : round(share * 100, 1),
    ];
  };
  const all = [...storage.values()].reduce(
    (sum, one) => ({ ...addHours(sum, one), packs: sum.packs + one.packs }),
    { ...NO_HOURS, packs: 0 },
  );
  return {
    key: 'storage',
    about: 'storage',
    title: 'Storage compliance',
    columns: [
      column('Type'),
      column('Packs'),
      column('In band', 'pack-days', 1),
      column('Within allowance', 'pack-days', 1),
      column('Overdue', 'pack-days', 1),
      column('Unknown', 'pack-days', 1),
      column('Compliant', '%', 1),
    ],
    rows: [...[...storage].map(([name, hours]) => line(name, hours)), line('All', all)],
  };
}

interface IncidentCount {
  readonly kind: IncidentKind;
  readonly cause: Cause | null;
  readonly count: number;
  readonly open: number;
  readonly packs: number;
}

function incidentCounts(
  em: Entities,
  { from, to, typeId, personId, craft }: ReportAsked,
): Promise<IncidentCount[]> {
  return em.execute(
    `select i.kind, i.cause, count(*)::int as count, (count(*) filter (where i.closed_at is null))::int as open,
            coalesce(sum((select count(*) from incident_pack n where n.incident_id = i.id)), 0)::int as packs
       from incident i
      where i.at >= ? and i.at < ? and (?::uuid is null or exists (
        select 1 from incident_pack n join pack p on p.id = n.pack_id where n.incident_id = i.id and p.type_id = ?::uuid))
        and (?::uuid is null or i.by = ?::uuid)
        and (?::text is null or exists (select 1 from incident_entry e where e.incident_id = i.id
          and e.kind = 'reported' and lower(e.payload ->> 'craft') = ?::text))
      group by i.kind, i.cause order by count desc, i.kind`,
    [timestamp(from), timestamp(to), typeId, typeId, personId, personId, craft, craft],
  );
}

function incidentTable(counts: readonly IncidentCount[]): ReportTable {
  return {
    key: 'incidents',
    about: 'incidents',
    title: 'Incidents by kind and cause',
    columns: [
      column('Kind'),
      column('Cause'),
      column('Incidents'),
      column('Still open'),
      column('Packs named'),
    ],
    rows: counts.map(({ kind, cause, count, open, packs }) => [
      INCIDENT_WORDS[kind].name,
      cause ? CAUSE_WORDS[cause] : 'not said yet',
      count,
      open,
      packs,
    ]),
  };
}

/** A hold with the pack it was of. */
interface PackHold extends Hold {
  readonly tag: string;
  readonly type: string;
}

function within({ from, to }: Hold, asked: ReportAsked): boolean {
  return from < asked.to && (to ?? Infinity) >= asked.from;
}

function holdTable(holds: readonly PackHold[], reader: Reader): ReportTable {
  return {
    key: 'holds',
    about: 'incidents',
    title: 'Holds and their length',
    columns: [
      column('Pack'),
      column('Type'),
      column('Cause'),
      column('From'),
      column('To'),
      column('Ended'),
      column('Length', 'days', 1),
    ],
    rows: [...holds]
      .sort((a, b) => a.from - b.from)
      .map(({ tag, type, causes, from, to, ended }) => [
        tag,
        type,
        causes.map((rule) => RULE_TEXTS[rule].title).join(', '),
        isoDay(from, reader.zone),
        to === null ? null : isoDay(to, reader.zone),
        ended ?? 'not yet',
        round(((to ?? reader.now) - from) / DAY_MS, 1),
      ]),
  };
}

interface Retirement {
  readonly reasons: readonly string[];
  readonly years: number | null;
}

function retirementOf(history: PackHistory, { from, to }: ReportAsked): readonly Retirement[] {
  const { retiredAt, decisionId } = history.life;
  if (retiredAt === null || retiredAt < from || retiredAt >= to) return [];
  const decision = history.decisions.find(({ records }) => records.some((id) => id === decisionId));
  const because = decision?.what.to === 'retire' ? decision.what.because : [];
  const titles = because.map(ruleTitle);
  return [
    { reasons: titles.length > 0 ? titles : ['No finding named'], years: ageYears(history, retiredAt) },
  ];
}

/** A pack retired for two reasons counts under both. */
function retirementTable(retirements: readonly Retirement[]): ReportTable {
  const byReason = new Map<string, (number | null)[]>();
  for (const { reasons, years } of retirements)
    for (const reason of reasons) byReason.set(reason, [...(byReason.get(reason) ?? []), years]);
  return {
    key: 'retirements',
    about: 'end-of-life',
    title: 'Retirements by reason and age',
    columns: [
      column('Reason'),
      column('Packs'),
      column('Youngest', 'years', 1),
      column('Mean age', 'years', 1),
      column('Oldest', 'years', 1),
    ],
    rows: [...byReason]
      .sort(([, a], [, b]) => b.length - a.length)
      .map(([reason, ages]) => {
        const known = ages.filter((age): age is number => age !== null);
        const mean = known.reduce((sum, age) => sum + age, 0) / known.length;
        return known.length === 0
          ? [reason, ages.length, null, null, null]
          : [reason, ages.length, round(Math.min(...known), 1), round(mean, 1), round(Math.max(...known), 1)];
      }),
  };
}

async function recycledTable(em: Entities, asked: ReportAsked, reader: Reader): Promise<ReportTable> {
  const rows: { month: string; chemistry: Chemistry; packs: number; massG: number; wh: number }[] =
    await em.execute(
      `select to_char(min(c.closed_at at time zone ?), 'Mon YYYY') as month, line ->> 'chemistry' as chemistry,
              count(*)::int as packs, sum((line ->> 'massG')::float8) as "massG", sum((line ->> 'wh')::float8) as wh
         from consignment c cross join jsonb_array_elements(c.manifest) line
         join pack p on p.id = (line ->> 'packId')::uuid
        where c.closed_at >= ? and c.closed_at < ? and (?::uuid is null or p.type_id = ?::uuid)
        group by date_trunc('month', c.closed_at at time zone ?), 2
        order by date_trunc('month', min(c.closed_at)), 2`,
      [reader.zone, timestamp(asked.from), timestamp(asked.to), asked.typeId, asked.typeId, reader.zone],
    );
  return {
    key: 'recycled',
    about: 'end-of-life',
    title: 'Recycled by chemistry and month',
    columns: [
      column('Month'),
      column('Chemistry'),
      column('Packs'),
      column('Mass', 'kg', 2),
      column('Energy', 'Wh', 1),
    ],
    rows: rows.map(({ month, chemistry, packs, massG, wh }) => [
      month,
      CHEMISTRY[chemistry].name,
      packs,
      round(massG / 1000, 2),
      round(wh, 1),
    ]),
  };
}

/** What people are called, by their ids. */
async function namesOf<Id extends string>(
  em: Entities,
  table: 'person' | 'craft',
): Promise<ReadonlyMap<Id, string>> {
  const rows: { id: Id; name: string }[] = await em.execute(`select id, name from ${table}`);
  return new Map(rows.map(({ id, name }) => [id, name]));
}
