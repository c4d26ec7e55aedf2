import { Migration } from '@mikro-orm/migrations';

/** Incidents and their logs, holds and their age, recyclers, consignments, and how far a retired pack has come. */
export class IncidentsAndDisposal extends Migration {
  override up(): void {
    for (const statement of STATEMENTS) this.addSql(statement);
  }
}

const STATEMENTS = [
  `alter table place add column set_apart boolean not null default false,
     add column limit_kg double precision, add column limit_wh double precision`,
  // What lies outdoors lies there because it is not trusted.
  `update place set set_apart = true where kind = 'outdoors'`,

  `create table recycler (
     id uuid primary key, name text not null unique, contact text, chemistries jsonb not null,
     takes_damaged boolean not null, limit_kg double precision, confirmed_at timestamptz,
     active boolean not null default true, version int not null default 1
   )`,

  // An incident's log is evidence like the ledger: added to, never changed. The other columns say what it adds up to.
  `create table incident (
     id uuid primary key, kind text not null, at timestamptz not null, by uuid not null references person,
     place text, what text, cause text, open_tasks int not null default 0, closed_at timestamptz
   )`,
  `create index incident_at on incident (at)`,
  `create table incident_entry (
     incident_id uuid not null references incident, seq int not null check (seq > 0), id uuid not null unique,
     kind text not null, at timestamptz not null, recorded_at timestamptz not null,
     by uuid not null references person, payload jsonb not null,
     primary key (incident_id, seq)
   )`,
  `create trigger incident_entry_is_append_only before update or delete on incident_entry
     for each row execute function refuse_ledger_change()`,
  `create trigger incident_entry_is_never_emptied before truncate on incident_entry
     for each statement execute function refuse_ledger_change()`,
  `create table incident_pack (
     incident_id uuid not null references incident, pack_id uuid not null references pack,
     primary key (incident_id, pack_id)
   )`,
  `create index incident_pack_pack on incident_pack (pack_id)`,
  `create table incident_task (
     id uuid primary key, incident_id uuid not null references incident, text text not null,
     owner_id uuid not null references person, due_at timestamptz not null
   )`,
  `create index incident_task_due on incident_task (due_at)`,

  `create table consignment (
     id uuid primary key, recycler_id uuid not null references recycler,
     opened_by uuid not null references person, opened_at timestamptz not null,
     closed_by uuid references person, closed_at timestamptz, handed_by text, received_by text,
     receipt_number text, receipt_photo_id uuid references photo, manifest jsonb
   )`,
  `create table consignment_correction (
     id uuid primary key, consignment_id uuid not null references consignment, at timestamptz not null,
     by uuid not null references person, text text not null
   )`,
  `create function refuse_closed_change() returns trigger language plpgsql as $$
   begin
     if old.closed_at is not null then
       raise exception 'A closed consignment is not changed. Write a correction to it instead.'
         using errcode = 'restrict_violation';
     end if;
     return case when tg_op = 'DELETE' then old else new end;
   end $$`,
  `create trigger consignment_stays_closed before update or delete on consignment
     for each row execute function refuse_closed_change()`,
  `create trigger consignment_correction_is_append_only before update or delete on consignment_correction
     for each row execute function refuse_ledger_change()`,

  `alter table pack_state add column life text not null default 'in-service', add column life_since timestamptz,
     add column out_since timestamptz, add column watch_from timestamptz, add column watch_until timestamptz,
     add column watch_incident uuid, add column apart boolean not null default false, add column consignment_id uuid,
     add column needs jsonb not null default '[]', add column lapses jsonb not null default '[]'`,
  `create index pack_state_watch on pack_state (watch_until) where watch_until is not null`,
  `create index pack_state_life on pack_state (life) where life <> 'in-service'`,
  `create index pack_state_consignment on pack_state (consignment_id) where consignment_id is not null`,
  `update pack_state set rules_version = 0`,
  // That a watch is over, and that the day has come until which a pack was kept, is read from the clock too: what will be
  // said of it then was worked out with its latest record.
  `create or replace function pack_standing(moment timestamptz) returns setof pack_state language sql stable as $$
     select pack_id, seq, head_hash, rules_version, last_record_at, coalesce(lapse ->> 'verdict', verdict),
            case when lapse ->> 'mayFly' = 'no' then 'no'
                 when season_due_at <= moment and may_fly in ('yes', 'charge-first') then 'inspect-first' else may_fly end,
            coalesce(lapse -> 'findings', findings), cells_mv, by_cell,
            read_at, soc_percent,
            case when bled_at <= moment then 'pending' else storage end,
            case when bled_at <= moment then bled_at else since end,
            case when bled_at <= moment then null else due_at end,
            case when bled_at <= moment then null else allowance_hours end,
            case when lapse ->> 'nextDo' is not null then lapse ->> 'nextDo'
                 when bled_at <= moment then 'measure-rested'
                 when next_do = 'keep-off' and next_due_at <= moment then 'inspect-held' else next_do end,
            case when lapse ->> 'nextDo' is not null then null
                 when bled_at <= moment then bled_at else next_due_at end,
            case when bled_at <= moment then 'measure-rested' else read_do end,
            case when bled_at <= moment then bled_at else read_due_at end,
            place_id, holder_id, bled_at, slot, received_at, used_at, tasks, task_due_at, season_due_at,
            life, life_since,
            coalesce(to_timestamp((lapse ->> 'outSince')::float8 / 1000), out_since),
            watch_from, watch_until, watch_incident, apart, consignment_id, coalesce(lapse -> 'needs', needs), lapses
       from pack_state
       left join lateral (
         select value as lapse from jsonb_array_elements(lapses)
          where (value ->> 'at')::float8 <= extract(epoch from moment) * 1000
          order by (value ->> 'at')::float8 desc limit 1
       ) lapsed on lapses <> '[]'
   $$`,
];
