import { Migration } from '@mikro-orm/migrations';

/**
 * The bench: its equipment, flying days, who attends, the plan that is kept and its jobs. What the bench asks of a pack lies beside its
 * state; judging anew fills it in.
 */
export class Charging extends Migration {
  override up(): void {
    for (const statement of STATEMENTS) this.addSql(statement);
  }
}

const STATEMENTS = [
  `create table equipment (
     id uuid primary key, name text not null unique, in_use boolean not null, facts jsonb not null,
     version int not null default 1
   )`,

  `create table flying_day (
     id uuid primary key, at timestamptz not null, place text not null, craft text, wants jsonb not null,
     cancelled boolean not null default false, version int not null default 1
   )`,
  `create index flying_day_at on flying_day (at)`,

  `create table attendance (
     id uuid primary key, person_id uuid not null references person, from_at timestamptz not null, to_at timestamptz not null,
     version int not null default 1, check (to_at > from_at)
   )`,
  `create index attendance_to on attendance (to_at)`,

  // One row: whoever keeps a plan names the version it was made from.
  `create table charge_plan (
     id int primary key check (id = 1), version int not null, kept_at timestamptz, kept_by uuid references person,
     left_out jsonb not null default '[]'
   )`,
  `insert into charge_plan (id, version) values (1, 0)`,

  `create table charge_job (
     id uuid primary key, state text not null check (state in ('planned', 'running', 'ended')), kind text not null,
     equipment_id uuid not null references equipment, channel text, board_id uuid references equipment,
     adapter_id uuid references equipment, setting jsonb not null, start_at timestamptz not null, end_at timestamptz not null,
     peak_w float8 not null, locked boolean not null, reason jsonb not null, flight_at timestamptz,
     gate jsonb, started_by uuid references person, attendant_id uuid references person, seen_at timestamptz,
     ended_by uuid references person, check (state = 'planned' or started_by is not null)
   )`,
  `create index charge_job_open on charge_job (start_at) where state <> 'ended'`,
  // Whatever two browsers send at once: a channel, a board and a pack are in one running job.
  `create unique index charge_job_channel on charge_job (equipment_id, coalesce(channel, '')) where state = 'running'`,
  `create unique index charge_job_board on charge_job (board_id) where state = 'running'`,
  `create table charge_job_pack (
     job_id uuid not null references charge_job on delete cascade, slot int not null, pack_id uuid not null references pack,
     running boolean not null default false, primary key (job_id, slot)
   )`,
  `create unique index charge_job_pack_once on charge_job_pack (pack_id) where running`,

  `create table channel_setting (
     equipment_id uuid not null references equipment, channel text not null, setting jsonb not null, set_at timestamptz not null,
     primary key (equipment_id, channel)
   )`,

  `alter table pack_state add column bench jsonb not null default '{}'`,
  `update pack_state set rules_version = 0`,
];
