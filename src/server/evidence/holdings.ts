import type { LogSubject } from '../../contract';
import type { Entities } from '../platform/database';

/**
 * What a checkpoint speaks for, one row a leaf:
 * - `written-once`: nothing may ever change it;
 * - `told`: it may be changed, and then the register's log tells of it.
 * Beside these stand every pack's ledger and the log itself, each by its last link. What can be worked out from them (states, lists, counts) is worked out
 * anew instead; what is a plan or a setting of a device is no evidence.
 */
export interface Holding {
  readonly table: string;
  /** What a person calls one of them. */
  readonly words: string;
  /** Where the log tells of it, the first of these is what the log knows it by. */
  readonly key: readonly string[];
  readonly columns: readonly string[];
  readonly kept: 'written-once' | 'told';
  /** What the log calls it, where it tells of it. */
  readonly subject?: LogSubject;
  /** How a person finds it: SQL over the row `t`. */
  readonly name?: string;
  /** Only these: SQL over the row `t`. */
  readonly where?: string;
}

const TOLD: readonly Holding[] = [
  told('person', 'person', 'person', ['name', 'login', 'role', 'active'], 't.name'),
  told(
    'pack_type',
    'pack type',
    'pack-type',
    [
      ...['name', 'chemistry', 'series', 'parallel', 'capacity_mah', 'continuous_c', 'burst_c', 'charge_c'],
      ...['connector', 'balance_plug', 'mass_g', 'price', 'duty_class'],
    ],
    't.name',
  ),
  told(
    'place',
    'place',
    'place',
    [
      ...['name', 'kind', 'fire_resistant', 'code', 'capacity', 'slots', 'celsius', 'set_apart'],
      ...['limit_kg', 'limit_wh', 'metal'],
    ],
    't.name',
  ),
  told('instrument', 'meter', 'meter', ['name', 'error_mv'], 't.name'),
  told('equipment', 'bench equipment', 'bench', ['name', 'in_use', 'facts'], 't.name'),
  told('craft', 'craft', 'craft', ['name', 'in_use', 'facts'], 't.name'),
  told(
    'recycler',
    'recycler',
    'recycler',
    [
      'name',
      'contact',
      'chemistries',
      'takes_damaged',
      'limit_kg',
      'confirmed_at',
      'active',
      'takes_charged',
    ],
    't.name',
  ),
  told('device', 'device', 'device', ['name', 'kind', 'instrument_id', 'equipment_id', 'ended_at'], 't.name'),
  told(
    'api_key',
    'key for a script',
    'key',
    ['name', 'role', 'person_id', 'made_at', 'ends_at', 'ended_at'],
    't.name',
  ),
  told('shared_bench', 'shared bench', 'shared-bench', ['name', 'made_by', 'made_at', 'ended_at'], 't.name'),
  told(
    'pack',
    'pack',
    'pack',
    ['tag', 'type_id', 'owner', 'home_place_id', 'in_service_at', 'field_pack', 'smart', 'delivery_id'],
    't.tag',
  ),
  {
    ...told('pack_tag', 'tag', 'pack', ['tag', 'since', 'until'], 't.tag'),
    key: ['pack_id', 'key'],
  },
  {
    ...told('place_temperature', 'temperature of a place', 'place', ['celsius'], 'null'),
    key: ['place_id', 'since'],
  },
];

const WRITTEN_ONCE: readonly Holding[] = [
  once(
    'incident_entry',
    'entry of an incident',
    ['incident_id', 'seq'],
    ['id', 'kind', 'at', 'recorded_at', 'by', 'payload'],
  ),
  once('incident_pack', 'naming of a pack in an incident', ['incident_id', 'pack_id'], []),
  once(
    'rule_set',
    'version of the house rules',
    ['version'],
    ['rules', 'adopted_at', 'adopted_by', 'reason'],
  ),
  {
    ...once(
      'consignment',
      'closed consignment',
      ['id'],
      [
        ...['recycler_id', 'opened_by', 'opened_at', 'closed_by', 'closed_at', 'handed_by', 'received_by'],
        ...['receipt_number', 'receipt_photo_id', 'manifest'],
      ],
    ),
    where: 't.closed_at is not null',
  },
  once(
    'consignment_correction',
    'correction of a consignment',
    ['id'],
    ['consignment_id', 'at', 'by', 'text'],
  ),
  once('photo', 'photo', ['id'], ['by', 'at', 'sent_hash', 'width', 'height', 'sha256(jpeg) as jpeg']),
  once(
    'craft_change',
    'change of a craft',
    ['craft_id', 'seq'],
    ['at', 'recorded_at', 'by', 'what', 'new_baseline'],
  ),
  once('delivery', 'delivery', ['id'], ['type_id', 'source', 'received_at', 'by']),
  once('verdict_move', 'verdict that new rules changed', ['rules_version', 'pack_id'], ['was', 'became']),
];

export const HOLDINGS: readonly Holding[] = [...TOLD, ...WRITTEN_ONCE];

function told(
  table: string,
  words: string,
  subject: LogSubject,
  columns: readonly string[],
  name: string,
): Holding {
  return { table, words, key: ['id'], columns, kept: 'told', subject, name };
}

function once(table: string, words: string, key: readonly string[], columns: readonly string[]): Holding {
  return { table, words, key, columns, kept: 'written-once' };
}

/** Something the register holds: its name among all, the digest of what it is, and how a person finds it. */
export interface Found {
  readonly name: string;
  readonly digest: string;
  readonly called: string | null;
}

/**
 * Everything a checkpoint speaks for, as it is now. Run in one reading of the database.
 * @param held what is known of pictures, which take long to read: those are looked for by name alone
 */
export async function holdingsNow(
  tx: Entities,
  held: ReadonlyMap<string, string> = new Map(),
): Promise<readonly Found[]> {
  // Digests are of what PostgreSQL writes, which depends on this.
  await tx.execute(`set local timezone to 'UTC'`);
  const all: Found[] = [];
  for (const holding of HOLDINGS) all.push(...(await rowsOf(tx, holding, held)));
  const ledgers: Found[] = await tx.execute(
    `select 'ledger/' || pack_id as name, seq || ' ' || head_hash as digest, null as called
       from pack_state where seq > 0`,
  );
  const log: Found[] = await tx.execute(
    `select 'log' as name, seq || ' ' || hash as digest, null as called
       from register_log order by register_log.seq desc limit 1`,
  );
  return [...all, ...ledgers, ...log];
}

async function rowsOf(
  tx: Entities,
  { table, key, columns, where, name }: Holding,
  held: ReadonlyMap<string, string>,
): Promise<readonly Found[]> {
  const named = `'${table}/' || ${key.map((column) => `t.${column}::text`).join(` || '/' || `)}`;
  const known = table === 'photo' ? new Map([...held].filter(([one]) => one.startsWith('photo/'))) : null;
  const digest = `encode(sha256(convert_to(
    (select row_to_json(own)::text from (select ${[...key, ...columns].join(', ')}) own), 'UTF8')), 'hex')`;
  const rows: (Found & { digest: string | null })[] = await tx.execute(
    `select ${named} as name, ${name ?? 'null'} as called,
            ${known ? `case when ${named} = any(?::text[]) then null else ${digest} end` : digest} as digest
       from "${table}" t where ${where ?? 'true'}`,
    known ? [`{${[...known.keys()].join(',')}}`] : [],
  );
  return rows.map((row) => ({ ...row, digest: row.digest ?? known!.get(row.name)! }));
}
