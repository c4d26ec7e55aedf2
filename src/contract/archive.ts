import { z } from 'zod';
import { ROLES } from '../core/lifecycle';
import { jsonSchemaOf } from './jsonSchema';

/** The version of the archive's form; a reader takes this one and older ones. */
export const ARCHIVE_VERSION = 1;

const uuid = z.uuid();
const time = z.iso.datetime({ offset: true });
const json = z.json();
const text = z.string();
const whole = z.int();
const figure = z.number();

/**
 * The tables of an archive, in the order they are written and read: what is named stands before what names it. Each is its rows as the
 * database has them, the key's columns first. What Malle reckons from the records is left out, and so is what lets anybody in:
 * passwords, sessions, keys, calendar addresses.
 */
export const ARCHIVE_TABLES = {
  person: z.strictObject({
    id: uuid,
    name: text,
    login: text.describe('What they sign in as; no password stands in an archive.'),
    role: z.enum(ROLES),
    active: z.boolean(),
    version: whole,
  }),
  place: z.strictObject({
    id: uuid,
    name: text,
    kind: text,
    fire_resistant: z.boolean(),
    metal: text,
    code: text.nullable(),
    code_key: text.nullable(),
    capacity: whole.nullable(),
    slots: whole,
    celsius: figure.nullable(),
    map: json.nullable(),
    set_apart: z.boolean(),
    limit_kg: figure.nullable(),
    limit_wh: figure.nullable(),
    version: whole,
  }),
  place_temperature: z.strictObject({ place_id: uuid, since: time, celsius: figure }),
  instrument: z.strictObject({ id: uuid, name: text, error_mv: whole, version: whole }),
  pack_type: z.strictObject({
    id: uuid,
    name: text,
    chemistry: text,
    series: whole,
    parallel: whole,
    capacity_mah: whole,
    continuous_c: figure.nullable(),
    burst_c: figure.nullable(),
    charge_c: figure.nullable(),
    connector: text.nullable(),
    balance_plug: text.nullable(),
    mass_g: figure.nullable(),
    price: figure.nullable(),
    duty_class: text,
    version: whole,
  }),
  recycler: z.strictObject({
    id: uuid,
    name: text,
    contact: text.nullable(),
    chemistries: json,
    takes_damaged: z.boolean(),
    takes_charged: z.boolean(),
    limit_kg: figure.nullable(),
    confirmed_at: time.nullable(),
    active: z.boolean(),
    version: whole,
  }),
  rule_set: z.strictObject({
    version: whole,
    rules: json,
    adopted_at: time,
    adopted_by: uuid.nullable(),
    reason: text,
  }),
  photo: z.strictObject({
    id: uuid,
    by: uuid,
    at: time,
    sent_hash: text,
    width: whole,
    height: whole,
    jpeg: text
      .regex(/^\\x[0-9a-f]*$/)
      .describe('The picture’s bytes in hexadecimal, behind a backslash and an x.'),
    thumbnail: text.regex(/^\\x[0-9a-f]*$/),
  }),
  delivery: z.strictObject({ id: uuid, type_id: uuid, source: text.nullable(), received_at: time, by: uuid }),
  pack: z.strictObject({
    id: uuid,
    tag: text,
    tag_key: text,
    type_id: uuid,
    owner: text.nullable(),
    home_place_id: uuid.nullable(),
    in_service_at: time.nullable(),
    field_pack: z.boolean(),
    smart: json.nullable(),
    delivery_id: uuid.nullable(),
    version: whole,
  }),
  pack_tag: z.strictObject({ key: text, tag: text, pack_id: uuid, since: time, until: time.nullable() }),
  record: z
    .strictObject({
      pack_id: uuid,
      seq: whole,
      id: uuid,
      kind: text,
      at: time,
      recorded_at: time,
      by: uuid,
      payload: json,
      supersedes: uuid.nullable(),
      rules_version: whole,
      prev_hash: text,
      hash: text,
    })
    .describe(
      'The ledger; what a payload holds is in docs/record.schema.json, and what its hash is in docs/formats.md.',
    ),
  verdict_move: z.strictObject({ rules_version: whole, pack_id: uuid, was: text, became: text }),
  incident: z.strictObject({
    id: uuid,
    kind: text,
    at: time,
    by: uuid,
    place: text.nullable(),
    what: text.nullable(),
    cause: text.nullable(),
    open_tasks: whole,
    closed_at: time.nullable(),
  }),
  incident_entry: z.strictObject({
    incident_id: uuid,
    seq: whole,
    id: uuid,
    kind: text,
    at: time,
    recorded_at: time,
    by: uuid,
    payload: json,
  }),
  incident_pack: z.strictObject({ incident_id: uuid, pack_id: uuid }),
  incident_task: z.strictObject({ id: uuid, incident_id: uuid, text, owner_id: uuid, due_at: time }),
  consignment: z.strictObject({
    id: uuid,
    recycler_id: uuid,
    opened_by: uuid,
    opened_at: time,
    closed_by: uuid.nullable(),
    closed_at: time.nullable(),
    handed_by: text.nullable(),
    received_by: text.nullable(),
    receipt_number: text.nullable(),
    receipt_photo_id: uuid.nullable(),
    manifest: json.nullable(),
  }),
  consignment_correction: z.strictObject({ id: uuid, consignment_id: uuid, at: time, by: uuid, text }),
  round: z.strictObject({
    id: uuid,
    kind: text,
    title: text,
    checklist: z.boolean(),
    place_id: uuid.nullable(),
    flies_at: time.nullable(),
    started_by: uuid,
    started_at: time,
    closed_at: time.nullable(),
  }),
  round_row: z.strictObject({
    round_id: uuid,
    pack_id: uuid,
    ordinal: whole,
    outcome: text.nullable(),
    by: uuid.nullable(),
    at: time.nullable(),
    reason: text.nullable(),
  }),
  craft: z
    .strictObject({ id: uuid, name: text, in_use: z.boolean(), facts: json, version: whole })
    .describe('What packs are flown on.'),
  craft_change: z.strictObject({
    craft_id: uuid,
    seq: whole,
    at: time,
    recorded_at: time,
    by: uuid,
    what: text,
    new_baseline: z.boolean(),
  }),
  equipment: z
    .strictObject({ id: uuid, name: text, in_use: z.boolean(), facts: json, version: whole })
    .describe('Chargers, loads, boards, adapters and supplies of the bench.'),
  device: z
    .strictObject({
      id: uuid,
      name: text,
      kind: text,
      instrument_id: uuid.nullable(),
      equipment_id: uuid.nullable(),
      patterns: json,
      made_by: uuid,
      made_at: time,
      ended_at: time.nullable(),
      version: whole,
    })
    .describe('Instruments that speak for themselves; their keys stand in no archive.'),
  device_reading: z.strictObject({
    id: uuid,
    device_id: uuid,
    contact: text,
    began_at: time,
    at: time,
    lowest: json,
    highest: json,
    is_total: z.boolean(),
    memory: json.nullable().default(null).describe('What a smart pack’s memory said; null for volts.'),
  }),
  flying_day: z.strictObject({
    id: uuid,
    at: time,
    place: text,
    craft: text.nullable(),
    wants: json,
    people: json.default([]).describe('Who flies; an older archive names nobody.'),
    hand_out: json.default([]),
    cancelled: z.boolean(),
    version: whole,
  }),
  attendance: z.strictObject({ id: uuid, person_id: uuid, from_at: time, to_at: time, version: whole }),
  charge_job: z.strictObject({
    id: uuid,
    state: text,
    kind: text,
    equipment_id: uuid,
    channel: text.nullable(),
    board_id: uuid.nullable(),
    adapter_id: uuid.nullable(),
    setting: json,
    start_at: time,
    end_at: time,
    peak_w: figure,
    locked: z.boolean(),
    reason: json,
    flight_at: time.nullable(),
    gate: json.nullable(),
    started_by: uuid.nullable(),
    attendant_id: uuid.nullable(),
    seen_at: time.nullable(),
    ended_by: uuid.nullable(),
  }),
  charge_job_pack: z.strictObject({ job_id: uuid, slot: whole, pack_id: uuid, running: z.boolean() }),
  charge_curve: z
    .strictObject({
      id: uuid,
      job_id: uuid.nullable(),
      device_id: uuid.nullable(),
      pack_id: uuid.nullable(),
      name: text.nullable(),
      began_at: time,
      at: time,
      points: text.regex(/^\\x[0-9a-f]*$/),
      columns_key: text.nullable().default(null),
      reading: json.nullable().default(null),
    })
    .describe('How charges went, packed as docs/formats.md says.'),
  channel_setting: z.strictObject({ equipment_id: uuid, channel: text, setting: json, set_at: time }),
  import: z.strictObject({
    id: uuid,
    kind: text,
    file_name: text,
    digest: text,
    columns_key: text,
    reading: json,
    lines: whole,
    refused: whole,
    by: uuid,
    started_at: time,
    ended_at: time.nullable(),
    taken_back_by: uuid.nullable(),
    taken_back_at: time.nullable(),
  }),
  import_pack: z.strictObject({ import_id: uuid, pack_id: uuid }),
  import_record: z.strictObject({ import_id: uuid, pack_id: uuid, record_id: uuid }),
} as const satisfies Readonly<Record<string, z.ZodObject>>;

export type ArchiveTable = keyof typeof ARCHIVE_TABLES;
export const ARCHIVE_ORDER = Object.keys(ARCHIVE_TABLES) as readonly ArchiveTable[];

/** So many columns of a table, the first ones, are its key. */
export const ARCHIVE_KEYS: Readonly<Record<ArchiveTable, number>> = {
  person: 1,
  place: 1,
  place_temperature: 2,
  instrument: 1,
  pack_type: 1,
  recycler: 1,
  rule_set: 1,
  photo: 1,
  delivery: 1,
  pack: 1,
  pack_tag: 1,
  record: 2,
  verdict_move: 2,
  incident: 1,
  incident_entry: 2,
  incident_pack: 2,
  incident_task: 1,
  consignment: 1,
  consignment_correction: 1,
  round: 1,
  round_row: 2,
  craft: 1,
  craft_change: 2,
  equipment: 1,
  device: 1,
  device_reading: 1,
  flying_day: 1,
  attendance: 1,
  charge_job: 1,
  charge_job_pack: 2,
  charge_curve: 1,
  channel_setting: 2,
  import: 1,
  import_pack: 2,
  import_record: 3,
};

/** The first line of an archive: what it is, of which version, and how the rows of each table look. */
export const archiveHead = z.strictObject({
  archive: z.literal('malle'),
  version: z.int().min(1),
  of: z.enum(['register', 'pack']),
  schemas: z.record(z.string(), z.looseObject({})),
});

/** One digest for so many lines in a row, so that what was changed is found. */
export const ARCHIVE_BLOCK = 500;

/** The last line: how many rows of each table there are, and a digest of each block of lines, newlines included. */
export const archiveManifest = z.strictObject({
  manifest: z.strictObject({
    rows: z.record(z.string(), z.int()),
    blocks: z.array(z.strictObject({ from: z.int(), to: z.int(), sha256: z.string() })),
  }),
});

/** The first line of an archive of this kind. */
export function archiveHeadOf(of: 'register' | 'pack'): z.output<typeof archiveHead> {
  const schemas = Object.fromEntries(
    ARCHIVE_ORDER.map((table) => [table, jsonSchemaOf(ARCHIVE_TABLES[table])]),
  );
  return { archive: 'malle', version: ARCHIVE_VERSION, of, schemas };
}
