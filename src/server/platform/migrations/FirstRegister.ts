import { Migration } from '@mikro-orm/migrations';

/** People, packs, places, the ledger and its projection. */
export class FirstRegister extends Migration {
  override up(): void {
    for (const statement of STATEMENTS) this.addSql(statement);
  }
}

const STATEMENTS = [
  `create table setting (key text primary key, value jsonb not null)`,

  `create table person (
     id uuid primary key,
     name text not null,
     login text not null unique,
     role text not null check (role in ('custodian', 'deputy', 'pilot', 'reader')),
     password_hash text,
     active boolean not null default true,
     version int not null default 1
   )`,

  `create table user_session (sid varchar primary key, sess json not null, expire timestamp(6) not null)`,
  `create index user_session_expire on user_session (expire)`,
  `create table sign_in_throttle (key varchar(255) primary key, points integer not null default 0, expire bigint)`,

  `create table place (
     id uuid primary key, name text not null unique, kind text not null,
     fire_resistant boolean not null, version int not null default 1
   )`,
  `create table instrument (
     id uuid primary key, name text not null unique, error_mv int not null, version int not null default 1
   )`,
  `create table pack_type (
     id uuid primary key, name text not null unique, chemistry text not null,
     series int not null check (series > 0), parallel int not null check (parallel > 0), capacity_mah int not null,
     continuous_c double precision, burst_c double precision, charge_c double precision,
     connector text, balance_plug text, mass_g double precision, price double precision,
     duty_class text not null, version int not null default 1
   )`,

  `create table pack (
     id uuid primary key,
     tag text not null,
     tag_key text not null unique,
     type_id uuid not null references pack_type,
     owner text,
     home_place_id uuid references place,
     in_service_at timestamptz,
     field_pack boolean not null default false,
     smart jsonb,
     version int not null default 1
   )`,
  `create index pack_type_id on pack (type_id)`,
  // Every tag a pack ever had: a scan of an old label still finds it, and no other pack may take that tag.
  `create table pack_tag (
     key text primary key, tag text not null, pack_id uuid not null references pack,
     since timestamptz not null, until timestamptz
   )`,
  `create index pack_tag_pack on pack_tag (pack_id)`,

  `create table rule_set (
     version int primary key, rules jsonb not null, adopted_at timestamptz not null,
     adopted_by uuid references person, reason text not null
   )`,

  // The ledger. Keys start with the pack, so that a distributed PostgreSQL can shard on it.
  `create table record (
     pack_id uuid not null references pack,
     seq int not null check (seq > 0),
     id uuid not null,
     kind text not null,
     at timestamptz not null,
     recorded_at timestamptz not null,
     by uuid not null references person,
     payload jsonb not null,
     supersedes uuid,
     rules_version int not null references rule_set,
     prev_hash text not null,
     hash text not null,
     primary key (pack_id, seq),
     unique (pack_id, id)
   )`,
  `create function refuse_ledger_change() returns trigger language plpgsql as $$
   begin
     raise exception 'The ledger is append-only: % of a record is refused. Write a correction instead.', tg_op
       using errcode = 'restrict_violation';
   end $$`,
  `create trigger record_is_append_only before update or delete on record
     for each row execute function refuse_ledger_change()`,
  `create trigger record_is_never_emptied before truncate on record
     for each statement execute function refuse_ledger_change()`,

  // What the ledger says of each pack now; always rebuildable from it.
  `create table pack_state (
     pack_id uuid primary key references pack,
     seq int not null,
     head_hash text not null,
     rules_version int not null,
     last_record_at timestamptz not null,
     verdict text not null,
     may_fly text not null,
     findings jsonb not null,
     cells_mv jsonb,
     by_cell boolean not null,
     read_at timestamptz,
     soc_percent double precision,
     storage text not null,
     since timestamptz,
     due_at timestamptz,
     allowance_hours double precision,
     next_do text,
     next_due_at timestamptz,
     read_do text,
     read_due_at timestamptz,
     place_id uuid references place,
     holder_id uuid references person
   )`,
  `create index pack_state_due on pack_state (due_at) where due_at is not null`,
  `create index pack_state_read_due on pack_state (read_due_at)`,
  `create index pack_state_verdict on pack_state (verdict) where verdict <> 'fit'`,
];
