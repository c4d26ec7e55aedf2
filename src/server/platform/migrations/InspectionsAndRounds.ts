import { Migration } from '@mikro-orm/migrations';

/** Rounds through many packs, photos, what the calendar asks, and places that stand somewhere and are this warm. */
export class InspectionsAndRounds extends Migration {
  override up(): void {
    for (const statement of STATEMENTS) this.addSql(statement);
  }
}

const STATEMENTS = [
  `alter table place add column code text, add column code_key text unique, add column capacity int,
     add column slots int not null default 0, add column celsius double precision, add column map jsonb`,
  // A pack's temperature follows its place, so what a place was like stays known when it changes.
  `create table place_temperature (
     place_id uuid not null references place, since timestamptz not null, celsius double precision not null,
     primary key (place_id, since)
   )`,

  `create table delivery (
     id uuid primary key, type_id uuid not null references pack_type, source text,
     received_at timestamptz not null, by uuid not null references person
   )`,
  `alter table pack add column delivery_id uuid references delivery`,

  `create table photo (
     id uuid primary key, by uuid not null references person, at timestamptz not null, sent_hash text not null,
     width int not null, height int not null, jpeg bytea not null, thumbnail bytea not null
   )`,

  `create table round (
     id uuid primary key, kind text not null, title text not null, checklist boolean not null,
     place_id uuid references place, flies_at timestamptz,
     started_by uuid not null references person, started_at timestamptz not null, closed_at timestamptz
   )`,
  `create index round_started on round (started_at)`,
  `create table round_row (
     round_id uuid not null references round, pack_id uuid not null references pack, ordinal int not null,
     outcome text, by uuid references person, at timestamptz, reason text,
     primary key (round_id, pack_id)
   )`,

  `alter table person add column calendar_key text unique`,

  `alter table pack_state add column slot int, add column received_at timestamptz, add column used_at timestamptz,
     add column tasks jsonb not null default '[]', add column task_due_at timestamptz,
     add column season_due_at timestamptz`,
  `create index pack_state_task_due on pack_state (task_due_at) where task_due_at is not null`,
  `update pack_state set rules_version = 0`,
  // That a pack has rested long is read from the clock here too, like a smart pack's own bleed.
  `create or replace function pack_standing(moment timestamptz) returns setof pack_state language sql stable as $$
     select pack_id, seq, head_hash, rules_version, last_record_at, verdict,
            case when season_due_at <= moment and may_fly in ('yes', 'charge-first') then 'inspect-first' else may_fly end,
            findings, cells_mv, by_cell,
            read_at, soc_percent,
            case when bled_at <= moment then 'pending' else storage end,
            case when bled_at <= moment then bled_at else since end,
            case when bled_at <= moment then null else due_at end,
            case when bled_at <= moment then null else allowance_hours end,
            case when bled_at <= moment then 'measure-rested' else next_do end,
            case when bled_at <= moment then bled_at else next_due_at end,
            case when bled_at <= moment then 'measure-rested' else read_do end,
            case when bled_at <= moment then bled_at else read_due_at end,
            place_id, holder_id, bled_at, slot, received_at, used_at, tasks, task_due_at, season_due_at
       from pack_state
   $$`,
];
