import type { PersonId } from '../../core/measure';
import type { Entities } from '../platform/database';

interface Holding {
  readonly table: string;
  /** The columns that name a person. */
  readonly by: readonly string[];
  /** Where else one may be named, over `t` and with `?` for the id. */
  readonly or?: readonly string[];
  /** What is left out: secrets, and pictures, which are fetched by their ids. */
  readonly without?: readonly string[];
}

/**
 * Every table whose rows name a person, except those that are of the moment or worked out: what a pack's ledger makes of who has it, and which
 * page a device talks to. A test holds the list against the database.
 */
export const HOLDINGS: readonly Holding[] = [
  { table: 'person', by: ['id'], without: ['password_hash', 'calendar_key'] },
  {
    table: 'record',
    by: ['by'],
    or: ['pilotId', 'holderId', 'fromId'].map((name) => `t.payload ->> '${name}' = ?`),
  },
  { table: 'photo', by: ['by'], without: ['jpeg', 'thumbnail'] },
  { table: 'incident', by: ['by'] },
  { table: 'incident_entry', by: ['by'] },
  { table: 'incident_task', by: ['owner_id'] },
  { table: 'round', by: ['started_by'] },
  { table: 'round_row', by: ['by'] },
  { table: 'attendance', by: ['person_id'] },
  { table: 'flying_day', by: [], or: ['t.people @> to_jsonb(?::text)'] },
  { table: 'charge_plan', by: ['kept_by'] },
  { table: 'charge_job', by: ['started_by', 'attendant_id', 'ended_by'] },
  { table: 'consignment', by: ['opened_by', 'closed_by'] },
  { table: 'consignment_correction', by: ['by'] },
  { table: 'delivery', by: ['by'] },
  { table: 'import', by: ['by', 'taken_back_by'] },
  { table: 'rule_set', by: ['adopted_by'] },
  { table: 'craft_change', by: ['by'] },
  { table: 'api_key', by: ['person_id'], without: ['hash'] },
  { table: 'sign_in_link', by: ['person_id', 'made_by'], without: ['hash'] },
  { table: 'one_time_code', by: ['person_id'], without: ['secret'] },
  { table: 'spare_code', by: ['person_id'], without: ['hash'] },
  { table: 'passkey', by: ['person_id'], without: ['public_key'] },
  { table: 'bench_pass', by: ['person_id'], without: ['pin_hash', 'badge_hash'] },
  { table: 'shared_bench', by: ['made_by'], without: ['hash'] },
  { table: 'device', by: ['made_by'], without: ['hash'] },
  { table: 'register_log', by: ['by'], or: [`(t.subject = 'person' and t.subject_id = ?)`] },
];

/** Everything the register keeps that names this person, as JSON: the rows of each table as they are. */
export async function ownData(em: Entities, id: PersonId): Promise<string> {
  const params: string[] = [];
  const tables = HOLDINGS.map(({ table, by, or = [], without = [] }) => {
    const tests = [...by.map((column) => `t."${column}" = ?::uuid`), ...or];
    params.push(...tests.map(() => id));
    const row = ['to_jsonb(t)', ...without.map((column) => `'${column}'`)].join(' - ');
    return `'${table}', (select coalesce(json_agg(${row}), '[]') from "${table}" t where ${tests.join(' or ')})`;
  });
  const sessions = `'user_session', (select coalesce(json_agg(json_build_object(
      'startedAt', s.sess ->> 'startedAt', 'device', s.sess ->> 'device', 'endsAt', s.expire)), '[]')
    from user_session s where s.sess ->> 'personId' = ?)`;
  const tags = `'packs', (select coalesce(json_object_agg(p.id, p.tag), '{}') from pack p
    where p.id in (select r.pack_id from record r where r.by = ?::uuid))`;
  const [answer]: { json: string }[] = await em.execute(
    `select json_build_object(${[...tables, sessions, tags].join(', ')})::text as json`,
    [...params, id, id],
  );
  return answer!.json;
}
