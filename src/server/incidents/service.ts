import { isDeepStrictEqual } from 'node:util';
import type { z } from 'zod';
import type {
  FieldProblem,
  IncidentAnswer,
  IncidentRow,
  TaskItem,
  WatchItem,
  incidentRequest,
} from '../../contract';
import { CLOCK_SLACK_MS } from '../../core/admission';
import { entryRefusals, foldIncident } from '../../core/incident';
import type { Entry, EntryDraft, Incident } from '../../core/incident';
import { mayDo } from '../../core/lifecycle';
import type { Actor } from '../../core/lifecycle';
import type { EntryId, IncidentId, Instant, PackId, PersonId, RecordId } from '../../core/measure';
import type { RecordDraft } from '../../core/record';
import { entryRefusalSentence } from '../../core/wording';
import { append, reference, unknownAmong } from '../ledger';
import { asInstant, timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import { announce } from '../platform/live';
import { Refused } from '../platform/problems';

type Request = z.output<typeof incidentRequest>;

/**
 * Adds entries to an incident, its report the first of them, and writes what they mean into the ledgers of the packs they
 * name: all of it or nothing. What has arrived before is taken as arrived, so a report sent twice lands once.
 */
export async function addEntries(
  em: Entities,
  { id, entries: drafts, packRecords }: Request,
  actor: Actor,
  now: Instant,
): Promise<IncidentAnswer> {
  return em.transactional(async (tx) => {
    // Two people may add to one incident at the same moment, or one report may come twice, before there is a row to lock.
    await tx.execute('select pg_advisory_xact_lock(hashtextextended(?, 0))', [id]);
    const stored = await entriesOf(tx, id);
    const log: Entry[] = [...stored];
    const problems: FieldProblem[] = await unknownIn(tx, drafts);
    for (const [i, draft] of drafts.entries()) {
      const arrived = log.find((entry) => entry.id === draft.id);
      if (arrived) {
        if (!says(arrived, draft)) throw new Refused('id-taken');
        continue;
      }
      refuseUnlessAllowed(draft, actor);
      for (const why of entryRefusals(foldIncident(id, log), draft))
        problems.push({ field: `entries.${i}.${why.field}`, message: entryRefusalSentence(why) });
      if (draft.at > now + CLOCK_SLACK_MS)
        problems.push({ field: `entries.${i}.at`, message: 'This time has not come yet.' });
      log.push({ ...draft, seq: log.length + 1, recordedAt: now, by: actor.id });
    }
    if (problems.length > 0) throw new Refused('invalid-input', { errors: problems });
    const incident = foldIncident(id, log);
    if (!incident) throw new Refused('not-found', { detail: 'There is no such incident.' });
    const fresh = log.slice(stored.length);
    if (fresh.length === 0) return incident;
    await keep(tx, incident, fresh);
    await holdPacks(tx, incident, fresh, packRecords, actor, now);
    await announce(tx, { about: 'incident', incidentId: id });
    return incident;
  });
}

/** A pilot reports and tells; following an incident up and closing it is for whoever looks after the packs, and the safety officer. */
function refuseUnlessAllowed({ kind }: EntryDraft, { role }: Actor): void {
  // Naming a pack writes into its ledger; words are for whoever reports and whoever follows up.
  const may =
    kind === 'reported' || kind === 'named'
      ? mayDo(role, 'incident.report')
      : kind === 'told' || kind === 'harm'
        ? mayDo(role, 'incident.report') || mayDo(role, 'incident.follow')
        : mayDo(role, 'incident.follow');
  if (!may) throw new Refused('not-allowed');
}

function says(arrived: Entry, draft: EntryDraft): boolean {
  const { id, at, kind, payload } = arrived;
  return isDeepStrictEqual({ id, at, kind, payload }, { ...draft });
}

/** What lists are made of: the columns of its row, in order. */
function rowOf({ id, report, at, by, cause, tasks, closed }: Incident): unknown[] {
  const open = tasks.filter(({ done }) => !done).length;
  const { kind, place, what } = report;
  return [
    id,
    kind,
    timestamp(at),
    by,
    place,
    what,
    cause?.cause ?? null,
    open,
    timestamp(closed?.at ?? null),
  ];
}

/** The log's new lines, and the columns that lists are made of. */
async function keep(em: Entities, incident: Incident, fresh: readonly Entry[]): Promise<void> {
  const { id, tasks, closed } = incident;
  const open = tasks.filter(({ done }) => !done);
  await em.execute(
    `insert into incident (id, kind, at, by, place, what, cause, open_tasks, closed_at)
     values (?, ?, ?, ?, ?, ?, ?, ?, ?)
     on conflict (id) do update set cause = excluded.cause, open_tasks = excluded.open_tasks,
       closed_at = excluded.closed_at`,
    rowOf(incident),
  );
  for (const entry of fresh)
    await em.execute(
      `insert into incident_entry (incident_id, seq, id, kind, at, recorded_at, by, payload)
       values (?, ?, ?, ?, ?, ?, ?, ?::jsonb)`,
      [
        id,
        entry.seq,
        entry.id,
        entry.kind,
        timestamp(entry.at),
        timestamp(entry.recordedAt),
        entry.by,
        JSON.stringify(entry.payload),
      ],
    );
  await em.execute('delete from incident_task where incident_id = ?', [id]);
  for (const task of closed ? [] : open)
    await em.execute(
      'insert into incident_task (id, incident_id, text, owner_id, due_at) values (?, ?, ?, ?, ?)',
      [task.id, id, task.text, task.ownerId, timestamp(task.dueAt)],
    );
}

/** Writes the incident into the ledger of every pack newly named, in the order of their ids, so that no two wait for each other. */
async function holdPacks(
  em: Entities,
  incident: Incident,
  fresh: readonly Entry[],
  packRecords: Request['packRecords'],
  actor: Actor,
  now: Instant,
): Promise<void> {
  const named = fresh
    .flatMap((entry) =>
      entry.kind === 'reported' || entry.kind === 'named'
        ? entry.payload.packIds.map((packId) => ({ packId, holds: entry.payload.holds, at: entry.at }))
        : [],
    )
    .sort((a, b) => (a.packId < b.packId ? -1 : 1));
  for (const { packId, holds } of named) {
    const recordId = packRecords.find((one) => one.packId === packId)?.recordId;
    if (!recordId)
      throw new Refused('invalid-input', {
        errors: [{ field: 'packRecords', message: 'The record of a named pack is missing.' }],
      });
    const fresh: unknown[] = await em.execute(
      `insert into incident_pack (incident_id, pack_id) values (?, ?) on conflict do nothing returning pack_id`,
      [incident.id, packId],
    );
    if (fresh.length === 0) continue;
    const draft = incidentRecord(incident, recordId, holds);
    await append(em, packId, [draft], () => ({ actor, recordedAt: now }), 'incident');
  }
}

/** It happened to every pack at the same moment, whenever it was named. */
function incidentRecord({ id, report, at }: Incident, recordId: RecordId, holds: boolean): RecordDraft {
  const payload = { incidentId: id, kind: report.kind, holds };
  return { kind: 'incident', id: recordId, at, payload, supersedes: null };
}

/** Packs, people and pictures these entries name and the register does not know. */
function unknownIn(em: Entities, drafts: readonly EntryDraft[]): Promise<FieldProblem[]> {
  const named = drafts.flatMap(({ kind, payload }, i) => {
    const field = `entries.${i}.payload`;
    const packs = kind === 'reported' || kind === 'named' ? payload.packIds : [];
    const photos = kind === 'reported' || kind === 'told' ? payload.photoIds : [];
    const people = kind === 'reported' ? payload.personIds : kind === 'task' ? [payload.ownerId] : [];
    const personField = kind === 'task' ? 'ownerId' : 'personIds';
    return [
      ...packs.flatMap((id) => reference('pack', id, `${field}.packIds`)),
      ...photos.flatMap((id) => reference('photo', id, `${field}.photoIds`)),
      ...people.flatMap((id) => reference('person', id, `${field}.${personField}`)),
    ];
  });
  return unknownAmong(em, named);
}

interface EntryRow {
  readonly id: EntryId;
  readonly seq: number;
  readonly kind: string;
  readonly at: number;
  readonly recordedAt: number;
  readonly by: PersonId;
  readonly payload: unknown;
}

async function entriesOf(em: Entities, id: IncidentId): Promise<readonly Entry[]> {
  const rows: EntryRow[] = await em.execute(
    `select id, seq, kind, ${asInstant('at')} as at, ${asInstant('recorded_at')} as "recordedAt", by, payload
       from incident_entry where incident_id = ? order by seq`,
    [id],
  );
  // What went in was parsed by the contract.
  return rows as unknown as readonly Entry[];
}

export async function incidentDetails(em: Entities, id: IncidentId): Promise<IncidentAnswer> {
  const incident = foldIncident(id, await entriesOf(em, id));
  if (!incident) throw new Refused('not-found', { detail: 'There is no such incident.' });
  return incident;
}

/** More than these are found by their packs, or in a report. */
const MOST_LISTED = 300;

/** Open incidents first, then the newest. */
export async function incidents(em: Entities, ofPack: PackId | null): Promise<IncidentRow[]> {
  return em.execute(
    `select i.id, i.kind, ${asInstant('i.at')} as at, i.by, i.what, i.place, i.cause, i.open_tasks as "openTasks",
            ${asInstant('i.closed_at')} as "closedAt",
            coalesce((select json_agg(json_build_object('id', p.id, 'tag', p.tag) order by p.tag_key)
               from incident_pack n join pack p on p.id = n.pack_id where n.incident_id = i.id), '[]') as packs
       from incident i
      where ?::uuid is null or exists (select 1 from incident_pack n where n.incident_id = i.id and n.pack_id = ?::uuid)
      order by (i.closed_at is null) desc, i.at desc limit ${MOST_LISTED}`,
    [ofPack, ofPack],
  );
}

/** Incidents of which lists say what their entries do not, or whose entries are gone, or have a gap; and how that shows. */
export async function verifyIncidents(
  em: Entities,
): Promise<readonly { readonly id: IncidentId; readonly why: string }[]> {
  const ids: { id: IncidentId }[] = await em.execute(
    'select id from incident union select incident_id from incident_entry union select incident_id from incident_pack order by 1',
  );
  const found: { id: IncidentId; why: string }[] = [];
  for (const { id } of ids) {
    const entries = await entriesOf(em, id);
    const incident = foldIncident(id, entries);
    const [row]: { same: boolean; packs: string[] | null }[] = await em.execute(
      `select (i.id, i.kind, i.at, i.by, i.place, i.what, i.cause, i.open_tasks, i.closed_at)
                is not distinct from (?::uuid, ?, ?::timestamptz, ?::uuid, ?, ?, ?, ?::int, ?::timestamptz) as same,
              (select array_agg(pack_id::text) from incident_pack where incident_id = i.id) as packs
         from incident i where i.id = ?`,
      [...(incident ? rowOf(incident) : Array<null>(9).fill(null)), id],
    );
    const why = (what: string) => found.push({ id, why: what });
    if (!incident || entries.some(({ seq }, i) => seq !== i + 1)) why('entries of it are gone');
    else if (!row) why('its entries are there, and it is in no list');
    else if (!row.same) why('the lists say of it what its entries do not');
    else if ([...(row.packs ?? [])].sort().join() !== [...incident.packIds].sort().join())
      why('the packs it is told of are not those its entries name');
  }
  return found;
}

/** Follow-ups that are not done, the soonest due first. */
export async function openTasks(em: Entities): Promise<TaskItem[]> {
  return em.execute(
    `select t.incident_id as "incidentId", i.kind as "incidentKind", t.id, t.text, t.owner_id as "ownerId",
            ${asInstant('t.due_at')} as "dueAt"
       from incident_task t join incident i on i.id = t.incident_id order by t.due_at limit 60`,
  );
}

/** Packs nobody goes near until their watch is over and they were inspected, the soonest over first. */
export async function watches(em: Entities, now: Instant): Promise<WatchItem[]> {
  return em.execute(
    `select p.id as "packId", p.tag, s.watch_incident as "incidentId", i.kind, ${asInstant('s.watch_from')} as "from",
            ${asInstant('s.watch_until')} as until
       from pack_state s join pack p on p.id = s.pack_id join incident i on i.id = s.watch_incident
      where s.watch_until is not null and (s.life in ('in-service', 'retiring') or s.watch_until > ?)
      order by s.watch_until, p.tag_key limit 60`,
    [timestamp(now)],
  );
}
