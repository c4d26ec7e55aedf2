// src/server/platform/database.ts
import { MikroORM } from "@mikro-orm/postgresql";
import { Migrator } from "@mikro-orm/migrations";

// src/server/platform/migrations/BooksInAndOut.ts
import { Migration } from "@mikro-orm/migrations";
var BooksInAndOut = class extends Migration {
  up() {
    for (const statement of STATEMENTS) this.addSql(statement);
  }
};
var STATEMENTS = [
  `alter table person drop constraint person_role_check,
     add constraint person_role_check check (role in ('custodian', 'deputy', 'officer', 'pilot', 'reader'))`,
  `create table import (
     id uuid primary key, kind text not null, file_name text not null, digest text not null, columns_key text not null,
     reading jsonb not null, lines int not null, refused int not null default 0,
     by uuid not null references person, started_at timestamptz not null, ended_at timestamptz,
     taken_back_by uuid references person, taken_back_at timestamptz
   )`,
  `create table import_pack (
     import_id uuid not null references import, pack_id uuid not null references pack, primary key (import_id, pack_id)
   )`,
  `create table import_record (
     import_id uuid not null references import, pack_id uuid not null, record_id uuid not null,
     primary key (import_id, pack_id, record_id), foreign key (pack_id, record_id) references record (pack_id, id)
   )`,
  // A metal box that cannot let gas out bursts.
  `alter table place add column metal text not null default 'no'`,
  // A sound pack may leave at storage charge where house rules and recycler say so.
  `alter table recycler add column takes_charged boolean not null default false`,
  `alter table pack_state add column leaves_charged boolean not null default false`,
  `create table api_key (
     id uuid primary key, name text not null, role text not null, hash text not null unique,
     person_id uuid not null references person, made_at timestamptz not null, ends_at timestamptz not null,
     ended_at timestamptz, used_at timestamptz
   )`,
  // A pack of which everything was taken back stays in the ledger and leaves every list.
  `alter table pack_state add column empty boolean not null default false`,
  `create or replace function pack_state_at(moment timestamptz) returns setof pack_state language sql stable as $$
     select s.* from pack_state s where (s.changes_at is null or s.changes_at > moment) and not s.empty
     union all
     select told.*
       from pack_state s
      cross join lateral (
        select value -> 'row' as changed from jsonb_array_elements(s.lapses)
         where (value ->> 'at')::float8 <= extract(epoch from moment) * 1000
         order by (value ->> 'at')::float8 desc limit 1
      ) lapsed
      cross join lateral jsonb_populate_record(s, lapsed.changed) told
      where s.changes_at <= moment and not s.empty
   $$`
];

// src/server/platform/migrations/Charging.ts
import { Migration as Migration2 } from "@mikro-orm/migrations";
var Charging = class extends Migration2 {
  up() {
    for (const statement of STATEMENTS2) this.addSql(statement);
  }
};
var STATEMENTS2 = [
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
  `update pack_state set rules_version = 0`
];

// src/server/platform/migrations/Flying.ts
import { Migration as Migration3 } from "@mikro-orm/migrations";
var Flying = class extends Migration3 {
  up() {
    for (const statement of STATEMENTS3) this.addSql(statement);
  }
};
var STATEMENTS3 = [
  `create table craft (
     id uuid primary key, name text not null unique, in_use boolean not null, facts jsonb not null, version int not null default 1
   )`,
  `create table craft_change (
     craft_id uuid not null references craft, seq int not null, at timestamptz not null, recorded_at timestamptz not null,
     by uuid not null references person, what text not null, new_baseline boolean not null, primary key (craft_id, seq)
   )`,
  `alter table flying_day add column people jsonb not null default '[]', add column hand_out jsonb not null default '[]'`,
  `alter table pack_state add column flying jsonb not null default '{}'`,
  `update pack_state set rules_version = 0`
];

// src/server/platform/migrations/FirstRegister.ts
import { Migration as Migration4 } from "@mikro-orm/migrations";
var FirstRegister = class extends Migration4 {
  up() {
    for (const statement of STATEMENTS4) this.addSql(statement);
  }
};
var STATEMENTS4 = [
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
  `create index pack_state_verdict on pack_state (verdict) where verdict <> 'fit'`
];

// src/server/platform/migrations/InspectionsAndRounds.ts
import { Migration as Migration5 } from "@mikro-orm/migrations";
var InspectionsAndRounds = class extends Migration5 {
  up() {
    for (const statement of STATEMENTS5) this.addSql(statement);
  }
};
var STATEMENTS5 = [
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
   $$`
];

// src/server/platform/migrations/Instruments.ts
import { Migration as Migration6 } from "@mikro-orm/migrations";
var Instruments = class extends Migration6 {
  up() {
    for (const statement of STATEMENTS6) this.addSql(statement);
  }
};
var STATEMENTS6 = [
  `create table device (
     id uuid primary key, name text not null unique, kind text not null check (kind in ('meter', 'charger')),
     instrument_id uuid references instrument, equipment_id uuid references equipment, patterns jsonb not null default '[]',
     hash text unique, made_by uuid not null references person, made_at timestamptz not null, ended_at timestamptz,
     version int not null default 1, check ((kind = 'meter') = (instrument_id is not null)),
     check ((kind = 'charger') = (equipment_id is not null))
   )`,
  // Two devices that speak for one charger would tell two stories of one channel.
  `create unique index device_charger on device (equipment_id) where ended_at is null`,
  `create table device_state (
     device_id uuid primary key references device on delete cascade, connection uuid, run uuid, taken int not null default 0,
     is_open boolean not null default false, can_stop boolean not null default false, seen_at timestamptz, software text,
     taken_by uuid references person, taken_page uuid, meter jsonb, channels jsonb not null default '{}', problem text,
     lines jsonb not null default '[]'
   )`,
  `create table device_reading (
     id uuid primary key, device_id uuid not null references device, contact text not null, began_at timestamptz not null,
     at timestamptz not null, lowest jsonb not null, highest jsonb not null, is_total boolean not null,
     unique (device_id, contact)
   )`,
  `create table charge_curve (
     id uuid primary key, job_id uuid unique references charge_job, device_id uuid references device, pack_id uuid references pack,
     name text, began_at timestamptz not null, at timestamptz not null, points bytea not null
   )`
];

// src/server/platform/migrations/PacksThatRemember.ts
import { Migration as Migration7 } from "@mikro-orm/migrations";
var PacksThatRemember = class extends Migration7 {
  up() {
    for (const statement of STATEMENTS7) this.addSql(statement);
  }
};
var STATEMENTS7 = [
  `alter table device drop constraint device_kind_check,
     add constraint device_kind_check check (kind in ('meter', 'charger', 'memory-reader'))`,
  `alter table device_state add column memory jsonb, add column can_write boolean not null default false`,
  // A reading of a memory has no volts of its own.
  `alter table device_reading add column memory jsonb`,
  // A memory names its pack by the pack's own number; two packs do not share one.
  `create index record_memory_number on record ((payload #>> '{memory,number}')) where kind = 'memory'`,
  // How a charger's log was read, so that the next one with the same columns is read the same way.
  `alter table charge_curve add column columns_key text, add column reading jsonb`,
  // What a rule found is kept in another form now: every pack is judged anew when the server starts.
  `update pack_state set rules_version = 0`
];

// src/server/platform/migrations/IncidentsAndDisposal.ts
import { Migration as Migration8 } from "@mikro-orm/migrations";
var IncidentsAndDisposal = class extends Migration8 {
  up() {
    for (const statement of STATEMENTS8) this.addSql(statement);
  }
};
var STATEMENTS8 = [
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
   $$`
];

// src/server/platform/migrations/VerdictsThatStayTrue.ts
import { Migration as Migration9 } from "@mikro-orm/migrations";
var VerdictsThatStayTrue = class extends Migration9 {
  up() {
    for (const statement of STATEMENTS9) this.addSql(statement);
  }
};
var WHY = "Malle itself changed; the house rules did not. What a pack holds now follows from the last thing that happened to it, a charge is judged by what it did, nothing stays known for ever, and one measurement condemns no pack. Every pack was judged anew.";
var STATEMENTS9 = [
  `alter table pack_state add column charged text not null default 'unknown', add column basis text,
     add column changes_at timestamptz`,
  `update pack_state set lapses = '[]'`,
  `insert into rule_set (version, rules, adopted_at, adopted_by, reason)
     select version + 1, rules, now(), null, '${WHY}' from rule_set
      where version = (select max(version) from rule_set) and exists (select 1 from record)`,
  `update pack_state set rules_version = 0`,
  // A pack of which time alone changes nothing is its row; the others are their row with what has changed by then.
  `create or replace function pack_standing(moment timestamptz) returns setof pack_state language sql stable as $$
     select s.* from pack_state s where s.changes_at is null or s.changes_at > moment
     union all
     select told.*
       from pack_state s
      cross join lateral (
        select value -> 'row' as changed from jsonb_array_elements(s.lapses)
         where (value ->> 'at')::float8 <= extract(epoch from moment) * 1000
         order by (value ->> 'at')::float8 desc limit 1
      ) lapsed
      cross join lateral jsonb_populate_record(s, lapsed.changed) told
      where s.changes_at <= moment
   $$`
];

// src/server/platform/migrations/WearOfSiblings.ts
import { Migration as Migration10 } from "@mikro-orm/migrations";
var WearOfSiblings = class extends Migration10 {
  up() {
    this.addSql(`alter table pack_state add column wear jsonb not null default '[]'`);
    this.addSql(
      `create table verdict_move (
         rules_version int not null references rule_set, pack_id uuid not null references pack,
         was text not null, became text not null, primary key (rules_version, pack_id))`
    );
    this.addSql("alter function pack_standing(timestamptz) rename to pack_state_at");
    this.addSql(`update pack_state set rules_version = 0`);
  }
};

// src/server/platform/migrations/WholeJudgement.ts
import { Migration as Migration11 } from "@mikro-orm/migrations";
var WholeJudgement = class extends Migration11 {
  up() {
    for (const statement of STATEMENTS10) this.addSql(statement);
  }
};
var STATEMENTS10 = [
  `alter table pack_state add column bled_at timestamptz`,
  `create index pack_state_rules on pack_state (rules_version)`,
  // What was judged before there were these rules is judged anew when the server starts.
  `update pack_state set rules_version = 0`,
  // A pack's state is written when its records change; that a smart pack has bled itself to storage since is read from
  // the clock here, in one place, so that no list can forget it.
  `create function pack_standing(moment timestamptz) returns setof pack_state language sql stable as $$
     select pack_id, seq, head_hash, rules_version, last_record_at, verdict, may_fly, findings, cells_mv, by_cell,
            read_at, soc_percent,
            case when bled_at <= moment then 'pending' else storage end,
            case when bled_at <= moment then bled_at else since end,
            case when bled_at <= moment then null else due_at end,
            case when bled_at <= moment then null else allowance_hours end,
            case when bled_at <= moment then 'measure-rested' else next_do end,
            case when bled_at <= moment then bled_at else next_due_at end,
            case when bled_at <= moment then 'measure-rested' else read_do end,
            case when bled_at <= moment then bled_at else read_due_at end,
            place_id, holder_id, bled_at
       from pack_state
   $$`
];

// src/server/platform/database.ts
var MIGRATIONS = [
  { name: "001_first_register", class: FirstRegister },
  { name: "002_whole_judgement", class: WholeJudgement },
  { name: "003_inspections_and_rounds", class: InspectionsAndRounds },
  { name: "004_when_it_goes_wrong", class: IncidentsAndDisposal },
  { name: "005_verdicts_that_stay_true", class: VerdictsThatStayTrue },
  { name: "006_wear_of_siblings", class: WearOfSiblings },
  { name: "007_books_in_and_out", class: BooksInAndOut },
  { name: "008_charging", class: Charging },
  { name: "009_flying", class: Flying },
  { name: "010_instruments", class: Instruments },
  { name: "011_packs_that_remember", class: PacksThatRemember }
];
async function openDatabase(url, entities) {
  const orm = await MikroORM.init({
    clientUrl: url,
    entities,
    extensions: [Migrator],
    migrations: {
      migrationsList: MIGRATIONS,
      snapshot: false,
      allOrNothing: true,
      transactional: true,
      silent: true
    },
    discovery: { warnWhenNoEntities: false },
    pool: { min: 0, max: 10 },
    debug: false,
    logger: () => void 0
  });
  await migrate(orm);
  return { url, entities: () => orm.em.fork(), close: () => orm.close(true) };
}
var MIGRATION_LOCK = 1835101292;
async function migrate(orm) {
  const em = orm.em.fork();
  await em.transactional(async (tx) => {
    await tx.execute("select pg_advisory_xact_lock(?)", [MIGRATION_LOCK]);
    await orm.migrator.up();
  });
}

// src/server/app.ts
import compression from "compression";
import express3 from "express";
import helmet from "helmet";
import { Pool } from "pg";
import { pinoHttp } from "pino-http";

// src/core/lifecycle/life.ts
var IN_SERVICE = {
  state: "in-service",
  since: null,
  by: null,
  decisionId: null,
  decidedBy: null,
  retiredAt: null,
  consignmentId: null,
  apart: false,
  charged: false,
  records: []
};
var FLAT_MV = 100;
var FROM = {
  marked: ["retired"],
  discharging: ["marked"],
  verified: ["discharging", "resting"],
  unsafe: ["marked", "discharging", "resting"],
  insulated: ["flat", "unsafe"],
  "insulated-charged": ["marked"],
  binned: ["insulated"],
  consigned: ["binned"],
  "taken-back": ["consigned"],
  recycled: ["consigned"],
  // Only before its discharge.
  reinstated: ["retiring", "retired", "marked"]
};
function isInService({ state }) {
  return state === "in-service" || state === "retiring";
}
function stateAfter(state, payload) {
  if (!FROM[payload.step].includes(state)) return null;
  switch (payload.step) {
    case "marked":
    case "discharging":
    case "unsafe":
    case "insulated":
    case "binned":
    case "consigned":
    case "recycled":
      return payload.step;
    case "insulated-charged":
      return "insulated";
    case "verified":
      if (payload.cellsMv.some((mv) => mv > FLAT_MV)) return "discharging";
      return state === "resting" ? "flat" : "resting";
    case "taken-back":
      return "binned";
    case "reinstated":
      return "in-service";
    default:
      return payload;
  }
}
function lifeAfterStep(life, event) {
  const { payload, at, by, id } = event;
  const state = stateAfter(life.state, payload);
  if (state === null) return life;
  if (state === "in-service") return { ...IN_SERVICE, records: [...life.records, id] };
  return {
    ...life,
    state,
    since: at,
    by,
    apart: life.apart || state === "unsafe",
    charged: life.charged || payload.step === "insulated-charged",
    consignmentId: "consignmentId" in payload && state !== "binned" ? payload.consignmentId : null,
    records: [...life.records, id]
  };
}
function lifeAfterRetirement(life, event) {
  if (!isInService(life)) return life;
  const { at, by, id, secondWanted } = event;
  return {
    ...IN_SERVICE,
    state: secondWanted ? "retiring" : "retired",
    since: at,
    by,
    decisionId: id,
    decidedBy: by,
    retiredAt: secondWanted ? null : at,
    records: [...life.records, id]
  };
}
function lifeAfterSecondName(life, event) {
  const { at, by, id, decisionId } = event;
  if (life.state !== "retiring" || life.decisionId !== decisionId || life.decidedBy === by) return life;
  return { ...life, state: "retired", since: at, by, retiredAt: at, records: [...life.records, id] };
}

// src/contract/choices.ts
var TODAY_LIMIT = 60;

// src/core/chemistry/chemistry.ts
var CHEMISTRIES = ["lipo", "lihv", "liion", "lifepo4", "nimh"];
var LITHIUM_CHEMISTRIES = ["lipo", "lihv", "liion", "lifepo4"];
var CHEMISTRY = {
  lipo: {
    name: "LiPo",
    nominalMv: 3700,
    fullMv: 4200,
    plausibleMaxMv: 5e3,
    storageRangeMv: { low: 3800, high: 3850 },
    cellTaps: true
  },
  lihv: {
    name: "LiHV",
    nominalMv: 3800,
    fullMv: 4350,
    plausibleMaxMv: 5e3,
    storageRangeMv: { low: 3800, high: 3850 },
    cellTaps: true
  },
  liion: {
    name: "Li-ion",
    nominalMv: 3600,
    fullMv: 4200,
    plausibleMaxMv: 5e3,
    storageRangeMv: { low: 3600, high: 3750 },
    cellTaps: true
  },
  lifepo4: {
    name: "LiFePO4",
    nominalMv: 3200,
    fullMv: 3600,
    plausibleMaxMv: 5e3,
    storageRangeMv: { low: 3250, high: 3300 },
    cellTaps: true
  },
  nimh: {
    name: "NiMH",
    nominalMv: 1200,
    fullMv: null,
    plausibleMaxMv: 1800,
    storageRangeMv: null,
    cellTaps: false
  }
};
function isLithium(chemistry) {
  return chemistry !== "nimh";
}

// src/core/chemistry/curves.ts
var REST_VOLTS = {
  lipo: [
    4.2,
    4.15,
    4.11,
    4.08,
    4.02,
    3.98,
    3.95,
    3.91,
    3.87,
    3.85,
    3.84,
    3.82,
    3.8,
    3.79,
    3.77,
    3.75,
    3.73,
    3.71,
    3.69,
    3.61,
    3.27
  ],
  lihv: [
    4.35,
    4.27,
    4.2,
    4.15,
    4.1,
    4.06,
    4.02,
    3.98,
    3.94,
    3.9,
    3.87,
    3.85,
    3.83,
    3.8,
    3.78,
    3.76,
    3.74,
    3.72,
    3.69,
    3.63,
    3.3
  ],
  liion: [
    4.2,
    4.11,
    4.06,
    4.02,
    3.97,
    3.92,
    3.87,
    3.82,
    3.77,
    3.72,
    3.68,
    3.64,
    3.61,
    3.58,
    3.54,
    3.5,
    3.45,
    3.38,
    3.3,
    3.16,
    2.8
  ],
  lifepo4: [
    3.4,
    3.36,
    3.34,
    3.33,
    3.32,
    3.31,
    3.3,
    3.285,
    3.27,
    3.265,
    3.26,
    3.255,
    3.25,
    3.235,
    3.22,
    3.21,
    3.2,
    3.12,
    3,
    2.8,
    2.5
  ]
};
var CURVE_STEP_PERCENT = 5;
var REST_MV = {
  lipo: rising(REST_VOLTS.lipo),
  lihv: rising(REST_VOLTS.lihv),
  liion: rising(REST_VOLTS.liion),
  lifepo4: rising(REST_VOLTS.lifepo4)
};
function rising(volts) {
  return volts.map((v) => Math.round(v * 1e3)).reverse();
}

// src/core/chemistry/soc.ts
var DEFAULT_METER_ERROR_MV = 5;
function socPercent(chemistry, mv) {
  const curve2 = REST_MV[chemistry];
  if (mv <= curve2[0]) return 0;
  const last = curve2.length - 1;
  if (mv >= curve2[last]) return 100;
  let i = 1;
  while (curve2[i] < mv) i += 1;
  const low = curve2[i - 1];
  return CURVE_STEP_PERCENT * (i - 1 + (mv - low) / (curve2[i] - low));
}
function restMv(chemistry, percent) {
  const curve2 = REST_MV[chemistry];
  const last = curve2.length - 1;
  const steps = Math.min(last, Math.max(0, percent / CURVE_STEP_PERCENT));
  const i = Math.min(last - 1, Math.floor(steps));
  return curve2[i] + (steps - i) * (curve2[i + 1] - curve2[i]);
}
function soc(chemistry, mv, meterErrorMv) {
  return {
    percent: socPercent(chemistry, mv),
    lowPercent: socPercent(chemistry, mv - meterErrorMv),
    highPercent: socPercent(chemistry, mv + meterErrorMv)
  };
}

// src/core/measure/instant.ts
var MINUTE_MS = 6e4;
var HOUR_MS = 60 * MINUTE_MS;
var DAY_MS = 24 * HOUR_MS;
function countUpTo(list, at) {
  return countWhile(list, (one) => one.at <= at);
}
function countWhile(list, holds) {
  let [low, high] = [0, list.length];
  while (low < high) {
    const middle = low + high >> 1;
    if (holds(list[middle])) low = middle + 1;
    else high = middle;
  }
  return low;
}

// src/core/storage/band.ts
function bandSide(cellsMv, rule) {
  if (Math.min(...cellsMv) < rule.bandLowMv) return "low";
  if (Math.max(...cellsMv) > rule.bandHighMv) return "high";
  return "in-band";
}

// src/core/storage/carried.ts
var SELF_DISCHARGE_PERCENT_PER_MONTH = 3;
var MONTH_MS = 30 * DAY_MS;
function leakedPercent(ms) {
  return SELF_DISCHARGE_PERCENT_PER_MONTH * Math.max(0, ms) / MONTH_MS;
}
var TAPER_PERCENT = 92.5;
var TAPER_UNSURE = 2.5;
var SURFACE_UNSURE = 3;
var LOOSE_UNSURE = 15;
var COUNTED_UNSURE = 0.05;
var LEFT_AFTER_UNNOTED = 20;
function carry(pack, evidence, rules, until, capacityAt = () => pack.capacityMah) {
  const { chemistry } = pack;
  if (!isLithium(chemistry)) return NOTHING;
  const storedPercent = socPercent(chemistry, rules.storage[chemistry].targetMv);
  const past = [];
  const before2 = [];
  let held = null;
  let last = null;
  for (const one of evidence) {
    if (one.at > until) break;
    if (last && one.at > last.at) {
      past.push(...restingFrom(pack, last, held, one.at, storedPercent, rules.bleedDays));
      held = held && carriedTo(held, pack, last.at, one.at, storedPercent, rules.bleedDays);
    }
    if (held && one.kind !== "read" && one.kind !== "used") before2.push(begun(one.records, held));
    held = after(held, one, capacityAt(one.at), chemistry, storedPercent);
    last = one;
  }
  return carriedOn({ pack, rules, past, before: before2, held, last, storedPercent }, until);
}
var NOTHING = { past: [], open: [], contents: null, before: [], until: () => NOTHING };
function carriedOn(base, until) {
  const { pack, rules, past, before: before2, held, last, storedPercent } = base;
  const goesOn = last !== null && until > last.at;
  const now2 = held && goesOn ? carriedTo(held, pack, last.at, until, storedPercent, rules.bleedDays) : held;
  const open = goesOn ? restingFrom(pack, last, held, until, storedPercent, rules.bleedDays) : [];
  return {
    past,
    open,
    contents: now2 && contentsOf(now2),
    before: before2,
    until: (later) => last === null || later < last.at ? null : carriedOn(base, later)
  };
}
function restingFrom(pack, { at, kind }, held, to, storedPercent, bleedDays) {
  const known2 = kind !== "used" && kind !== "unknown";
  const percent = held ? Math.max(...held.percents) : storedPercent;
  return leftAlone(pack, at, to, percent, storedPercent, bleedDays, known2);
}
function begun(records2, held) {
  return { records: records2, contents: () => contentsOf(held) };
}
function after(before2, one, capacityMah, chemistry, storedPercent) {
  switch (one.kind) {
    case "read": {
      const error = one.meterErrorMv ?? DEFAULT_METER_ERROR_MV;
      const percents = [];
      let [less, more] = [0, 0];
      for (const mv of one.cellsMv) {
        const percent = socPercent(chemistry, mv);
        percents.push(percent);
        less = Math.max(less, percent - socPercent(chemistry, mv - error));
        more = Math.max(more, socPercent(chemistry, mv + error) - percent);
      }
      return heldAs("read", one, percents, less, more);
    }
    case "charged": {
      const percents = one.cellsMv.map((mv) => socPercent(chemistry, mv));
      if (one.how !== "taper")
        return heldAs("charged", one, percents, one.how === "loose" ? LOOSE_UNSURE : SURFACE_UNSURE, 0);
      const short = percents.map((percent) => percent * TAPER_PERCENT / 100);
      return heldAs("taper", one, short, TAPER_UNSURE, TAPER_UNSURE);
    }
    case "filled": {
      if (!before2) return null;
      const put = one.movedMah / capacityMah * 100;
      const percents = before2.percents.map((percent) => Math.min(100, percent + put));
      const unsure2 = COUNTED_UNSURE * put;
      const most = before2.mostPercents.map((percent) => Math.min(100, percent + put + unsure2));
      return { ...heldAs("filled", one, percents, before2.less + unsure2, 0), mostPercents: most };
    }
    case "stored":
      return heldAs("stored", one, [storedPercent], SURFACE_UNSURE, SURFACE_UNSURE);
    case "used": {
      if (!before2) return null;
      if (one.usedMah === null) {
        const percents2 = before2.percents.map((percent) => Math.min(percent, LEFT_AFTER_UNNOTED));
        return { ...heldAs("used", one, percents2, 100, 0), mostPercents: before2.mostPercents };
      }
      const taken = one.usedMah / capacityMah * 100;
      const percents = before2.percents.map((percent) => Math.max(0, percent - taken));
      const unsure2 = COUNTED_UNSURE * taken;
      const most = before2.mostPercents.map((percent) => Math.max(0, percent - taken + unsure2));
      return { ...heldAs("used", one, percents, before2.less + unsure2, 0), mostPercents: most };
    }
    case "unknown":
      return null;
    default:
      return one;
  }
}
function heldAs(basis, { at: since, records: records2 }, percents, less, more) {
  const mostPercents = percents.map((percent) => Math.min(100, percent + more));
  return { basis, since, percents, less, mostPercents, records: records2 };
}
function carriedTo(held, { smart }, from, to, storedPercent, bleedDays) {
  const leaked = leakedPercent(to - from);
  const bleedFrom = smart?.autoStorage ? from + smart.autoStorageAfterHours * HOUR_MS : Infinity;
  const bled = Math.min(1, Math.max(0, to - bleedFrom) / (bleedDays * DAY_MS));
  const percents = [];
  let most = 0;
  for (const percent of held.percents) {
    const leakedTo = Math.max(0, percent - leaked);
    const now2 = leakedTo > storedPercent ? leakedTo - (leakedTo - storedPercent) * bled : leakedTo;
    percents.push(now2);
    most = Math.max(most, percent);
  }
  const isBled = bled === 1 && most > storedPercent;
  return {
    basis: isBled ? "bled" : held.basis,
    since: isBled ? bleedFrom + bleedDays * DAY_MS : held.since,
    percents,
    less: held.less + leaked,
    mostPercents: held.mostPercents,
    records: held.records
  };
}
function contentsOf({ basis, since, percents, less, mostPercents, records: records2 }) {
  const told4 = (percent, highPercent) => ({
    percent,
    lowPercent: Math.max(0, percent - less),
    highPercent: Math.max(percent, highPercent)
  });
  return {
    basis,
    since,
    percents,
    lowest: told4(Math.min(...percents), Math.min(...mostPercents)),
    highest: told4(Math.max(...percents), Math.max(...mostPercents)),
    records: records2
  };
}
function leftAlone({ smart }, from, to, percent, storedPercent, bleedDays, known2) {
  if (!smart?.autoStorage || percent <= storedPercent) return resting(from, to, percent, known2);
  const bleedFrom = from + smart.autoStorageAfterHours * HOUR_MS;
  const bleedTo = bleedFrom + bleedDays * DAY_MS;
  const waiting2 = resting(from, Math.min(to, bleedFrom), percent, known2);
  if (to <= bleedFrom) return waiting2;
  const begin = waiting2.at(-1).toPercent;
  const share = (Math.min(to, bleedTo) - bleedFrom) / (bleedTo - bleedFrom);
  const bled = begin - Math.max(0, begin - storedPercent) * share;
  const end = Math.min(to, bleedTo);
  const bleeding = { from: bleedFrom, to: end, fromPercent: begin, toPercent: bled, known: known2 };
  return to <= bleedTo ? [...waiting2, bleeding] : [...waiting2, bleeding, ...resting(bleedTo, to, bled, known2)];
}
function resting(from, to, fromPercent, known2) {
  const emptyAt = from + fromPercent / SELF_DISCHARGE_PERCENT_PER_MONTH * MONTH_MS;
  if (to <= emptyAt)
    return [{ from, to, fromPercent, toPercent: fromPercent - leakedPercent(to - from), known: known2 }];
  const empty = { from: emptyAt, to, fromPercent: 0, toPercent: 0, known: known2 };
  return emptyAt > from ? [{ from, to: emptyAt, fromPercent, toPercent: 0, known: known2 }, empty] : [empty];
}
function contentsMv(chemistry, { percents }) {
  return percents.map((percent) => Math.round(restMv(chemistry, percent)));
}

// src/core/storage/clock.ts
function storageState(pack, evidence, rules, now2) {
  const { chemistry } = pack;
  if (!isLithium(chemistry)) return { state: "no-rule" };
  const clockState = standing(evidence, chemistry, rules);
  if (clockState.state === "unmeasured") {
    const { used } = clockState;
    const why = used ? "used" : "never";
    return { state: "unmeasured", why, since: used?.at ?? null, records: used?.records ?? [] };
  }
  const last = evidence.at(-1);
  const lapsed = (at, records3) => now2 < at ? null : { state: "unmeasured", why: "lapsed", since: at, records: records3 };
  const { since, records: records2 } = clockState;
  if (clockState.state === "pending") {
    const state2 = { state: "pending", by: "job", since, records: records2 };
    return lapsed(lapsesAt(chemistry, last, rules), records2) ?? state2;
  }
  if (clockState.state === "in-band")
    return lapsed(lapsesAt(chemistry, last, rules), records2) ?? { state: "in-band", since, records: records2 };
  const { state, fieldChargedAt } = clockState;
  const bledAt = state === "high" ? selfStoredAt(pack, last.at, rules) : null;
  if (bledAt !== null && now2 >= bledAt) {
    const stored = { ...last, at: bledAt, kind: "stored" };
    const pending = { state: "pending", by: "own-bleed", since: bledAt, records: records2 };
    return lapsed(lapsesAt(chemistry, stored, rules), records2) ?? pending;
  }
  const leaked = state === "high" ? lapsed(leakedIntoBandAt(chemistry, last, rules), records2) : null;
  if (leaked) return leaked;
  const allowanceHours = allowance(pack, state, rules);
  const ownDelay = pack.smart?.autoStorageAfterHours ?? Infinity;
  if (bledAt !== null && ownDelay <= allowanceHours && fieldChargedAt === null)
    return { state: "self-storing", since, bledAt, records: records2 };
  const dueAt = Math.min(
    since + allowanceHours * HOUR_MS,
    fieldChargedAt === null ? Infinity : fieldChargedAt + rules.charge.fieldHours * HOUR_MS
  );
  return { state, since, allowanceHours, dueAt, bledAt, fieldChargedAt, records: records2 };
}
var stood = /* @__PURE__ */ new WeakMap();
function standing(evidence, chemistry, rules) {
  const kept2 = stood.get(evidence);
  if (kept2?.rules === rules && kept2.chemistry === chemistry) return kept2.clockState;
  let clockState = { state: "unmeasured", used: null };
  for (const one of evidence) clockState = standingAfter(clockState, one, chemistry, rules);
  stood.set(evidence, { chemistry, rules, clockState });
  return clockState;
}
var MONTH_DAYS = 30;
function lapsesAt(chemistry, last, rules) {
  const { bandLowMv, targetMv } = rules.storage[chemistry];
  const lowestMv = last.kind === "read" || last.kind === "charged" ? Math.min(...last.cellsMv) : targetMv;
  const spare = Math.max(0, socPercent(chemistry, lowestMv) - socPercent(chemistry, bandLowMv));
  const days = spare / (2 * SELF_DISCHARGE_PERCENT_PER_MONTH) * MONTH_DAYS;
  return last.at + Math.max(days, rules.idle.everyDays) * DAY_MS;
}
function leakedIntoBandAt(chemistry, last, rules) {
  if (last.kind !== "read" && last.kind !== "charged") return Infinity;
  const over = socPercent(chemistry, Math.max(...last.cellsMv)) - socPercent(chemistry, rules.storage[chemistry].bandHighMv);
  return last.at + Math.max(0, over) / SELF_DISCHARGE_PERCENT_PER_MONTH * MONTH_DAYS * DAY_MS;
}
function selfStoredAt({ smart }, leftAloneSince, { bleedDays }) {
  if (!smart?.autoStorage) return null;
  return leftAloneSince + smart.autoStorageAfterHours * HOUR_MS + bleedDays * DAY_MS;
}
function standingAfter(before2, evidence, chemistry, rules) {
  const rule = rules.storage[chemistry];
  const { at, records: records2 } = evidence;
  switch (evidence.kind) {
    case "read": {
      const side = bandSide(evidence.cellsMv, rule);
      return standsOn(before2, side, evidence, side === "high" ? fieldChargedIn(before2) : null);
    }
    case "charged": {
      const side = bandSide(evidence.cellsMv, rule);
      if (side === "in-band") return { state: "pending", since: at, records: records2 };
      return standsOn(before2, side, evidence, isFieldRate(evidence.rateC, rules) ? at : null);
    }
    case "filled": {
      const high = before2.state === "high";
      return high ? standsOn(before2, "high", evidence, fieldChargedIn(before2)) : usedAfter(before2, evidence);
    }
    case "stored":
      return { state: "pending", since: at, records: records2 };
    case "used":
    case "unknown":
      return usedAfter(before2, evidence);
    default:
      return evidence;
  }
}
function usedAfter(before2, { at, records: records2 }) {
  return { state: "unmeasured", used: { at, before: beforeUse(before2), records: records2 } };
}
function fieldChargedIn(clockState) {
  return clockState.state === "high" ? clockState.fieldChargedAt : null;
}
var STEP = 1.005;
function isFieldRate(rateC, { charge }) {
  return rateC !== null && rateC > charge.homeC * STEP;
}
function beforeUse(before2) {
  return before2.state === "unmeasured" && before2.used ? before2.used.before : before2;
}
function standsOn(before2, side, { at, records: records2 }, fieldChargedAt) {
  const stands = (since, on) => ({
    state: side,
    since,
    records: on,
    fieldChargedAt
  });
  if (before2.state === side) return stands(before2.since, joined(before2.records, records2));
  if (before2.state !== "unmeasured" || !before2.used) return stands(at, records2);
  const { used } = before2;
  if (used.before.state === side) return stands(used.before.since, joined(used.before.records, records2));
  return stands(side === "low" ? used.at : at, joined(used.records, records2));
}
function joined(first, last) {
  const begin = first[0];
  return begin === void 0 || last.includes(begin) ? last : [begin, ...last];
}
function allowance(pack, side, rules) {
  if (side === "low") return rules.allowance.lowHours;
  return pack.fieldPack ? rules.allowance.fieldHighHours : rules.allowance.highHours;
}
function isOverdue(clock, now2) {
  return now2 >= clock.dueAt;
}

// src/core/storage/exposure.ts
var CURVE_PERCENTS = Array.from({ length: 21 }, (_, i) => i * 5);
function exposureRate(mv, bandHighMv, fullMv, celsius) {
  const weight = Math.min(1, Math.max(0, (mv - bandHighMv) / (fullMv - bandHighMv)));
  return weight * 2 ** ((celsius - 25) / 10);
}
function exposureDays(history, stretch, chemistry, rules) {
  const { bandHighMv } = rules.storage[chemistry];
  if (restMv(chemistry, Math.max(stretch.fromPercent, stretch.toPercent)) <= bandHighMv) return 0;
  if (history.pack.placeTemperatures.length === 0)
    return daysAt(stretch, chemistry, bandHighMv, rules.shelfC);
  return cutAt(stretch, warmthChanges(history)).reduce((sum, part) => {
    const celsius = celsiusAt(history, part.from) ?? rules.shelfC;
    return sum + daysAt(part, chemistry, bandHighMv, celsius);
  }, 0);
}
var changesKept = /* @__PURE__ */ new WeakMap();
function warmthChanges(history) {
  const kept2 = changesKept.get(history);
  if (kept2) return kept2;
  const { moves, pack } = history;
  const changes = [...moves, ...pack.placeTemperatures.map(({ since }) => ({ at: since }))];
  changes.sort((a, b) => a.at - b.at);
  changesKept.set(history, changes);
  return changes;
}
var summed = /* @__PURE__ */ new WeakMap();
function sumsOf(history, past, rules) {
  const { chemistry } = history.pack;
  const { shelfC } = rules;
  const bandHighMv = isLithium(chemistry) ? rules.storage[chemistry].bandHighMv : 0;
  const kept2 = summed.get(past);
  if (kept2?.history === history && kept2.bandHighMv === bandHighMv && kept2.shelfC === shelfC) return kept2;
  const days = new Float64Array(past.length);
  const upTo = new Float64Array(past.length + 1);
  for (const [i, stretch] of past.entries()) {
    days[i] = isLithium(chemistry) ? exposureDays(history, stretch, chemistry, rules) : 0;
    upTo[i + 1] = upTo[i] + days[i];
  }
  const made = { history, bandHighMv, shelfC, days, upTo };
  summed.set(past, made);
  return made;
}
function fullTimeBetween(history, { past, open }, rules, from, to) {
  const { chemistry } = history.pack;
  if (!isLithium(chemistry)) return { days: 0, longest: () => ({ from, to: from }) };
  const { days, upTo } = sumsOf(history, past, rules);
  const first = pastBy(past, from);
  const after3 = Math.max(first, pastBy(past, to));
  const edges = [];
  let sum = upTo[after3] - upTo[first];
  const within = (stretch) => {
    const part = clippedFrom(stretch, from);
    return part && part.from < to ? clippedTo(part, to) : null;
  };
  const weigh = (stretch) => {
    const part = within(stretch);
    if (!part) return;
    const weighed = exposureDays(history, part, chemistry, rules);
    edges.push({ part, days: weighed });
    sum += weighed;
  };
  if (first < after3 && past[first].from < from) {
    sum -= days[first];
    weigh(past[first]);
  }
  if (after3 < past.length) weigh(past[after3]);
  for (const stretch of open) weigh(stretch);
  const longest = () => {
    let most = { days: 0, from: 0, to: 0 };
    for (let i = first; i < after3; i++) {
      const { from: begin, to: end } = past[i];
      if (begin >= from && days[i] > most.days) most = { days: days[i], from: begin, to: end };
    }
    for (const edge of edges)
      if (edge.days > most.days) most = { days: edge.days, from: edge.part.from, to: edge.part.to };
    return { from: most.from, to: most.to };
  };
  return { days: sum, longest };
}
function pastBy(past, moment) {
  return countWhile(past, ({ to }) => to <= moment);
}
function daysAt(stretch, chemistry, bandHighMv, celsius) {
  const span = (stretch.to - stretch.from) / DAY_MS;
  const [low, high] = [
    Math.min(stretch.fromPercent, stretch.toPercent),
    Math.max(stretch.fromPercent, stretch.toPercent)
  ];
  const fullMv = CHEMISTRY[chemistry].fullMv;
  const rate = (percent) => exposureRate(restMv(chemistry, percent), bandHighMv, fullMv, celsius);
  if (high - low < 1e-9) return rate(high) * span;
  const corners = [low, ...CURVE_PERCENTS, socPercent(chemistry, bandHighMv), high].filter((percent) => percent >= low && percent <= high).sort((a, b) => a - b);
  let area = 0;
  for (let i = 1; i < corners.length; i++)
    area += (rate(corners[i - 1]) + rate(corners[i])) / 2 * (corners[i] - corners[i - 1]);
  return area / (high - low) * span;
}
function clippedTo(stretch, to) {
  return stretch.to <= to ? stretch : cutAt(stretch, [{ at: to }])[0];
}
function clippedFrom(stretch, from) {
  if (stretch.to <= from) return null;
  return stretch.from >= from ? stretch : cutAt(stretch, [{ at: from }]).at(-1);
}
function celsiusAt({ moves, pack }, at) {
  const placeId = moves[countUpTo(moves, at) - 1]?.placeId ?? null;
  if (placeId === null) return null;
  const known2 = pack.placeTemperatures.findLast((one) => one.placeId === placeId && one.since <= at);
  return known2?.celsius ?? null;
}
function cutAt(stretch, changes) {
  const { from, to, fromPercent, toPercent, known: known2 } = stretch;
  const parts = [];
  let begin = from;
  let percent = fromPercent;
  for (let i = countUpTo(changes, from); i < changes.length && changes[i].at < to; i++) {
    const { at } = changes[i];
    if (at === begin) continue;
    const then = fromPercent + (toPercent - fromPercent) * (at - from) / (to - from);
    parts.push({ from: begin, to: at, fromPercent: percent, toPercent: then, known: known2 });
    begin = at;
    percent = then;
  }
  if (parts.length === 0) return [stretch];
  return [...parts, { from: begin, to, fromPercent: percent, toPercent, known: known2 }];
}

// src/core/record/effective.ts
function effectiveRecords(records2) {
  const corrections = latestCorrections(records2);
  const counting = [];
  for (const record of records2) {
    if (record.kind === "correction") continue;
    const correction = corrections.get(record.id);
    const said = correction ? correction.payload.replacement : record;
    if (said === null) continue;
    counting.push({
      kind: said.kind,
      payload: said.payload,
      id: record.id,
      at: record.at,
      by: record.by,
      records: correction ? [record.id, correction.id] : [record.id]
    });
  }
  return counting.sort(byTime);
}
function latestCorrections(records2) {
  const latest = /* @__PURE__ */ new Map();
  for (const record of records2) {
    if (record.kind !== "correction") continue;
    const other2 = latest.get(record.supersedes);
    if (!other2 || byTime(other2, record) < 0) latest.set(record.supersedes, record);
  }
  return latest;
}
function byTime(a, b) {
  return a.at - b.at || (a.id < b.id ? -1 : a.id > b.id ? 1 : 0);
}

// src/core/record/memory.ts
function faultsOf({
  overCharges,
  overDischarges,
  overTemperatures
}) {
  if (overCharges === null || overDischarges === null || overTemperatures === null) return null;
  return overCharges + overDischarges + overTemperatures;
}
var LONGEST_WAIT_HOURS = 240;
function reliedOn(stated, events) {
  if (stated === null) return null;
  let relied = stated;
  for (const { did, memory } of events) {
    const storage = memory?.storage ?? null;
    if (did === "updated") relied = { ...relied, autoStorage: false };
    else if (storage) relied = did === "read" ? asSettings(storage, relied) : theWorse(relied, storage);
  }
  return relied;
}
function asSettings({ isOn, afterHours }, before2) {
  if (afterHours !== null) return { autoStorage: isOn, autoStorageAfterHours: afterHours };
  const kept2 = before2.autoStorage ? before2.autoStorageAfterHours : LONGEST_WAIT_HOURS;
  return { autoStorage: isOn, autoStorageAfterHours: kept2 };
}
function theWorse(relied, { isOn, afterHours }) {
  return {
    autoStorage: relied.autoStorage && isOn,
    autoStorageAfterHours: Math.max(relied.autoStorageAfterHours, afterHours ?? 0)
  };
}
function asSet(stated, events) {
  let known2 = {
    number: null,
    storage: { isOn: stated.autoStorage, afterHours: stated.autoStorageAfterHours, mv: null },
    topMv: null,
    chargeA: null,
    firmware: null,
    firmwareDate: null,
    notReadBack: null,
    read: null,
    unreadable: null
  };
  for (const event of events) {
    const { did, memory } = event;
    if (memory === null) {
      if (did === "read") known2 = { ...known2, unreadable: event };
      else known2 = { ...known2, notReadBack: event };
      continue;
    }
    known2 = {
      number: memory.number ?? known2.number,
      storage: mergedStorage(known2.storage, memory.storage),
      topMv: memory.topMv ?? known2.topMv,
      chargeA: memory.chargeA ?? known2.chargeA,
      firmware: memory.firmware ?? known2.firmware,
      firmwareDate: memory.firmwareDate ?? known2.firmwareDate,
      notReadBack: did !== "read" ? event : isReadBack(known2.notReadBack, memory) ? null : known2.notReadBack,
      read: did === "read" ? event : known2.read,
      unreadable: did === "read" ? null : known2.unreadable
    };
  }
  return known2;
}
function mergedStorage(known2, said) {
  if (said === null || known2 === null) return said ?? known2;
  return { isOn: said.isOn, afterHours: said.afterHours ?? known2.afterHours, mv: said.mv ?? known2.mv };
}
function isReadBack(work, read) {
  if (work === null) return true;
  if (work.did === "updated" || work.memory === null) return read.storage !== null;
  return settingsOf(work.memory).every(({ of, value }) => value === null || settingOf(read, of) !== null);
}
var MEMORY_SETTINGS = ["storage", "delay", "storage-volts", "top", "current"];
function settingOf({ storage, topMv, chargeA }, of) {
  switch (of) {
    case "storage":
      return storage?.isOn ?? null;
    case "delay":
      return storage?.isOn ? storage.afterHours : null;
    case "storage-volts":
      return storage?.isOn ? storage.mv : null;
    case "top":
      return topMv;
    case "current":
      return chargeA;
    default:
      return of;
  }
}
function settingsOf(memory) {
  return MEMORY_SETTINGS.map((of) => ({ of, value: settingOf(memory, of) }));
}

// src/core/record/fold.ts
function fold(pack, records2) {
  const readings = [];
  const resistances = [];
  const charges = [];
  const flights = [];
  const inspections = [];
  const moves = [];
  const incidents2 = [];
  const asked = [];
  const decisions = [];
  const recoveries = [];
  const memories = [];
  const counts = [];
  let life = IN_SERVICE;
  let receivedAt = null;
  let before2 = null;
  let placeId = null;
  let slot = null;
  let holderId = null;
  let custody = null;
  const takings = [];
  let lastRecordAt = null;
  for (const record of effectiveRecords(records2)) {
    lastRecordAt = record.at;
    switch (record.kind) {
      case "received":
        receivedAt = record.at;
        before2 = record.payload.before ?? null;
        placeId = record.payload.placeId;
        moves.push({ at: record.at, placeId, slot, holderId });
        break;
      case "reading":
        readings.push(readingEvent(record));
        break;
      case "resistance":
        resistances.push(resistanceEvent(record));
        break;
      case "charge": {
        const charge = chargeEvent(record);
        charges.push(charge);
        if (charge.startCellsMv) insertByTime(readings, startReading(charge, charge.startCellsMv));
        break;
      }
      case "flight": {
        const flight = flightEvent(record);
        flights.push(flight);
        if (flight.landing) insertByTime(readings, landingReading(flight, flight.landing));
        break;
      }
      case "inspection":
        inspections.push(inspectionEvent(record));
        break;
      case "moved":
        placeId = record.payload.placeId;
        slot = record.payload.slot ?? null;
        if (record.payload.holderId !== holderId) endTaking(takings, record.at);
        custody = custodyAfterMove(custody, record);
        holderId = record.payload.holderId;
        moves.push({ at: record.at, placeId, slot, holderId });
        break;
      case "taken-out":
        custody = custodyAfterTakingOut(custody, record);
        placeId = null;
        slot = null;
        holderId = custody.holderId;
        endTaking(takings, record.at);
        takings.push(takingEvent(record, holderId));
        count(counts, record, record.payload.counters);
        moves.push({ at: record.at, placeId, slot, holderId });
        break;
      case "returned":
        endTaking(takings, record.at);
        count(counts, record, record.payload.counters);
        custody = null;
        placeId = record.payload.placeId;
        slot = record.payload.slot ?? null;
        holderId = null;
        moves.push({ at: record.at, placeId, slot, holderId });
        break;
      case "memory": {
        memories.push({ ...happened(record), ...record.payload });
        const { did, memory } = record.payload;
        if (did === "read" && memory)
          count(counts, record, { cycles: memory.cycles, faults: faultsOf(memory) });
        break;
      }
      case "note":
        break;
      case "incident":
        incidents2.push({ ...happened(record), ...record.payload, endedEarly: null });
        break;
      case "watch-ended": {
        const ended = { ...happened(record), ...record.payload };
        const which = incidents2.findIndex(({ incidentId }) => incidentId === ended.incidentId);
        if (which !== -1) incidents2[which] = { ...incidents2[which], endedEarly: ended };
        break;
      }
      case "inspection-asked":
        asked.push({ ...happened(record), ...record.payload });
        break;
      case "decision":
        decisions.push({ ...happened(record), ...record.payload });
        if (record.payload.what.to === "retire") {
          const { secondWanted } = record.payload.what;
          life = lifeAfterRetirement(life, { ...stamp(record), secondWanted });
        }
        break;
      case "confirmation":
        life = lifeAfterSecondName(life, { ...stamp(record), decisionId: record.payload.decisionId });
        break;
      case "recovery":
        recoveries.push({ ...happened(record), ...record.payload });
        break;
      case "disposal":
        life = lifeAfterStep(life, { ...stamp(record), payload: record.payload });
        if (record.payload.step === "binned" || record.payload.step === "recycled") {
          placeId = record.payload.step === "binned" ? record.payload.placeId : null;
          slot = null;
          holderId = null;
          endTaking(takings, record.at);
          custody = null;
          moves.push({ at: record.at, placeId, slot, holderId });
        }
        break;
      default:
        record;
    }
  }
  return {
    pack: memories.length === 0 ? pack : { ...pack, smart: reliedOn(pack.smart, memories) },
    receivedAt,
    before: before2,
    readings,
    resistances,
    charges,
    flights,
    inspections,
    moves,
    incidents: incidents2,
    asked,
    decisions,
    recoveries,
    memories,
    counts,
    life,
    placeId,
    slot,
    holderId,
    custody,
    takings,
    lastRecordAt
  };
}
function custodyAfterMove(known2, { at, payload }) {
  const { holderId } = payload;
  if (holderId === null) return null;
  if (known2?.holderId === holderId && known2.alsoWith === null) return known2;
  return { holderId, since: at, recordId: null, craftId: null, dueBackAt: null, alsoWith: null };
}
function custodyAfterTakingOut(known2, { id, at, by, payload }) {
  const { fromId, craftId, dueBackAt } = payload;
  const holderId = payload.holderId ?? by;
  const { holderId: person, since, recordId } = known2 ?? {};
  const unknown = person !== void 0 && person !== fromId && person !== holderId;
  return {
    holderId,
    since: at,
    recordId: id,
    craftId,
    dueBackAt,
    alsoWith: unknown ? { person, since, recordId } : null
  };
}
function takingEvent({ at, by, records: records2, payload }, holderId) {
  const { craftId, dueBackAt } = payload;
  return { at, by, records: records2, holderId, craftId, dueBackAt, endedAt: null };
}
function endTaking(takings, at) {
  const last = takings.at(-1);
  if (last?.endedAt === null) takings[takings.length - 1] = { ...last, endedAt: at };
}
function count(counts, { at, by, records: records2 }, read) {
  if (read && (read.cycles !== null || read.faults !== null)) counts.push({ at, by, records: records2, ...read });
}
function happened({ at, by, records: records2 }) {
  return { at, by, records: records2 };
}
function stamp({ at, by, id }) {
  return { at, by, id };
}
var ON_BOARD_ERROR_MV = 10;
var ASSUMED_CHARGE_MINUTES = 60;
function resistanceEvent({ at, by, records: records2, payload }) {
  const { irMilliohm, temperatureC, instrument, remarks } = payload;
  return { at, by, records: records2, irMilliohm, temperatureC, instrument, remarks };
}
function chargeEvent(record) {
  const { at, by, records: records2, payload } = record;
  return {
    at,
    by,
    records: records2,
    startedAt: record.at - (payload.minutes ?? ASSUMED_CHARGE_MINUTES) * MINUTE_MS,
    mode: payload.mode,
    charger: payload.charger,
    settings: payload.settings,
    startCellsMv: payload.startCellsMv,
    endCellsMv: payload.endCellsMv,
    movedMah: payload.movedMah,
    minutes: payload.minutes,
    temperatureC: payload.temperatureC,
    felt: payload.felt ?? null,
    balanced: payload.balanced,
    ending: payload.ending,
    remarks: payload.remarks,
    bench: payload.bench ?? null
  };
}
function flightEvent(record) {
  const { at, by, records: records2, payload } = record;
  return {
    at,
    by,
    records: records2,
    startedAt: record.at - (payload.minutes ?? 0) * MINUTE_MS,
    pilot: payload.flownBy ? null : payload.pilotId ?? by,
    pilotId: payload.pilotId,
    flownBy: payload.flownBy ?? null,
    craft: payload.craft,
    craftId: payload.craftId ?? null,
    craftSetup: payload.craftSetup ?? null,
    minutes: payload.minutes,
    landing: payload.landing,
    usedMah: payload.usedMah,
    hottestC: payload.hottestC,
    felt: payload.felt ?? null,
    ambientC: payload.ambientC,
    remarks: payload.remarks
  };
}
function inspectionEvent({ at, by, records: records2, payload }) {
  const { occasion, items, swelling, thicknessMm, massG, felt, remarks } = payload;
  return { at, by, records: records2, occasion, items, swelling, thicknessMm, massG, felt: felt ?? null, remarks };
}
function landingReading({ at, by, records: records2 }, landing) {
  const { volts, condition } = landing;
  return { at, by, volts, condition, meterErrorMv: ON_BOARD_ERROR_MV, records: records2 };
}
function readingEvent(record) {
  return {
    at: record.at,
    by: record.by,
    volts: record.payload.volts,
    condition: record.payload.condition,
    meterErrorMv: record.payload.meterErrorMv,
    records: record.records
  };
}
function startReading(charge, cellsMv) {
  return {
    at: charge.startedAt,
    by: charge.by,
    volts: { of: "cells", cellsMv },
    condition: "rested",
    meterErrorMv: ON_BOARD_ERROR_MV,
    records: charge.records
  };
}
function insertByTime(readings, reading) {
  let place = readings.length;
  while (place > 0 && readings[place - 1].at > reading.at) place -= 1;
  readings.splice(place, 0, reading);
}

// src/core/record/chargeFacts.ts
function chargeRateC({
  settings,
  movedMah,
  minutes
}, capacityMah) {
  if (settings.currentA !== null) return settings.currentA * 1e3 / capacityMah;
  return movedMah === null || !minutes ? null : movedMah * 60 / minutes / capacityMah;
}
function putsIn({ mode }) {
  return mode === "balance" || mode === "fast";
}

// src/core/storage/evidence.ts
function storageEvidence(history, rested) {
  const { pack, charges, flights } = history;
  const evidence = rested.map(({ at, cellsMv, meterErrorMv, records: records2 }) => ({
    kind: "read",
    at,
    cellsMv,
    ...meterErrorMv === void 0 ? {} : { meterErrorMv },
    records: records2
  }));
  const { chemistry } = pack;
  if (!isLithium(chemistry) || charges.length === 0 && flights.length === 0) return evidence;
  for (const charge of charges) evidence.push(chargeEvidence(pack.capacityMah, chemistry, charge));
  for (const { at, usedMah, records: records2 } of flights) evidence.push({ kind: "used", at, usedMah, records: records2 });
  return evidence.sort((a, b) => a.at - b.at);
}
function chargeEvidence(capacityMah, chemistry, charge) {
  const { at, mode, ending, endCellsMv, settings, records: records2 } = charge;
  const movedMah = charge.movedMah ?? charge.bench?.shareMah ?? null;
  if (mode === "storage") return { kind: ending === "complete" ? "stored" : "unknown", at, records: records2 };
  if (mode === "discharge") return { kind: "used", at, usedMah: movedMah, records: records2 };
  const rateC = chargeRateC(charge, capacityMah);
  const charged = (how, cellsMv) => ({
    kind: "charged",
    at,
    cellsMv,
    how,
    rateC,
    records: records2
  });
  const topMv = settings.topMv ?? CHEMISTRY[chemistry].fullMv;
  switch (ending) {
    case "complete":
      return endCellsMv ? charged("ends", endCellsMv) : charged("top", [topMv]);
    case "taper":
    case "quick":
      return charged("taper", endCellsMv ? endCellsMv.map((mv) => Math.min(mv, topMv)) : [topMv]);
    case "stopped":
    case "timed-out":
    case "error":
      if (endCellsMv) return charged("loose", endCellsMv);
      return movedMah === null ? { kind: "unknown", at, records: records2 } : { kind: "filled", at, movedMah, rateC, records: records2 };
    default:
      return ending;
  }
}

// src/core/storage/job.ts
function storageJob(pack, cellsMv, rules) {
  const { chemistry, capacityMah, chargeC, series } = pack;
  if (!isLithium(chemistry)) return null;
  const { targetMv, bandLowMv, bandHighMv } = rules.storage[chemistry];
  const lowestMv = Math.min(...cellsMv);
  const highestMv = Math.max(...cellsMv);
  const percent = (mv) => socPercent(chemistry, mv);
  const direction = directionOf(lowestMv, highestMv, rules.storage[chemistry]);
  const most = percent(bandHighMv) - percent(highestMv);
  const least = percent(bandLowMv) - percent(lowestMv);
  const wanted = percent(targetMv) - percent(direction === "charge" ? lowestMv : highestMv);
  const apart = least > most;
  const move = apart ? 0 : Math.min(most, Math.max(least, wanted));
  return {
    direction,
    chargeAh: Math.abs(move) / 100 * (capacityMah / 1e3),
    targetMv,
    packTargetMv: targetMv * series,
    chargeAmps: Math.min(rules.charge.homeC, chargeC ?? 1) * (capacityMah / 1e3),
    inTheWay: apart ? cellInTheWay(cellsMv, direction) : null
  };
}
function directionOf(lowestMv, highestMv, { targetMv, bandLowMv, bandHighMv }) {
  if (lowestMv < bandLowMv) return "charge";
  if (highestMv > bandHighMv) return "discharge";
  return lowestMv < targetMv ? "charge" : "discharge";
}
function cellInTheWay(cellsMv, direction) {
  return direction === "charge" ? { cell: cellsMv.indexOf(Math.max(...cellsMv)) + 1, would: "overfill" } : { cell: cellsMv.indexOf(Math.min(...cellsMv)) + 1, would: "run flat" };
}

// src/core/reading/condition.ts
var DECIDES = {
  rested: { storage: true, spread: true },
  settling: { storage: false, spread: false },
  loaded: { storage: false, spread: false }
};
function conditionHeld(claimed, at, lastLoadedAt, restMinutes) {
  if (claimed !== "rested" || lastLoadedAt === null) return claimed;
  return at - lastLoadedAt < restMinutes * MINUTE_MS ? "settling" : "rested";
}

// src/core/inspection/checklistAnswers.ts
function thickerPercent(thicknessMm, baselineMm) {
  return (thicknessMm - baselineMm) * 100 / baselineMm;
}

// src/core/inspection/checklist.ts
var MEANINGS = ["advise", "watch", "hold"];
var HARD_KEYS = /* @__PURE__ */ new Set(["swelling", "dents", "leads", "smell"]);
var item = (key, asks, failMeans, photo = "never") => ({
  key,
  asks,
  failMeans,
  photo
});
var SWELLING = item("swelling", "Swelling", "hold", "when not ok");
var DENTS = item("dents", "Dents, creases, punctures", "hold", "when not ok");
var CASE = item("case", "Case and wrap", "watch");
var LEADS = item("leads", "Leads", "hold");
var CONNECTOR = item("connector", "Main connector", "watch");
var BALANCE = item("balance", "Balance lead and pins", "watch");
var SMELL = item("smell", "Odour or leak", "hold");
var LABEL = item("label", "Tag and label", "advise");
var WARM = item("warm", "Warmth at rest", "hold");
var DEFAULT_CHECKLISTS = {
  "before-use": [SWELLING, DENTS, LEADS, CONNECTOR, BALANCE, LABEL],
  "after-use": [WARM, SWELLING, DENTS, LEADS, CONNECTOR, SMELL],
  "before-charge": [SWELLING, DENTS, LEADS, CONNECTOR, BALANCE, WARM],
  "after-charge": [WARM, SWELLING, SMELL, BALANCE],
  "season-start": [SWELLING, DENTS, CASE, SMELL, LEADS, CONNECTOR, BALANCE, LABEL],
  "after-crash": [SMELL, WARM, SWELLING, DENTS, CASE, LEADS, CONNECTOR, BALANCE],
  scheduled: [SWELLING, DENTS, CASE, SMELL, LEADS, CONNECTOR, BALANCE, LABEL, WARM],
  receipt: [LABEL, SWELLING, DENTS, CASE, SMELL, LEADS, CONNECTOR, BALANCE]
};
var FULL_OCCASIONS = /* @__PURE__ */ new Set([
  "season-start",
  "after-crash",
  "scheduled",
  "receipt"
]);
function meaningOf(key, said) {
  return HARD_KEYS.has(key) ? "hold" : said;
}

// src/core/incident/kinds.ts
var facts = (holds, watch, mayReturn = true, harms = false) => ({ holds, watch, mayReturn, harms });
var INCIDENT_FACTS = {
  crash: facts("yes", "shock"),
  "smoke-fire": facts("yes", "overnight", false, true),
  "hot-charging": facts("yes", "overnight"),
  swelling: facts("yes", null, true, true),
  overheated: facts("yes", "shock"),
  leak: facts("yes", "overnight", false, true),
  short: facts("yes", "shock"),
  overcharged: facts("yes", "overnight"),
  "over-discharged": facts("yes", null),
  "damaged-lead": facts("yes", null),
  water: facts("yes", "overnight"),
  "charge-failed": facts("no", null),
  unattended: facts("no", null),
  lost: facts("yes", null),
  other: facts("ask", null)
};

// src/core/assess/verdict.ts
function isOutOfUse(verdict) {
  return verdict !== "fit" && verdict !== "watch";
}

// src/core/assess/charged.ts
function chargedOf({ history, rules, contents }) {
  const { pack, charges, flights } = history;
  if (isLithium(pack.chemistry)) return chargedBy(contents, rules);
  const charge = charges.findLast(putsIn);
  if (!charge) return "unknown";
  return flights.some(({ at }) => at > charge.at) ? "charge-first" : "charged";
}
function chargedBy(contents, { flight }) {
  if (!contents) return "unknown";
  const { percent, lowPercent, highPercent } = contents.lowest;
  const line = flight.chargedPercent;
  if (contents.basis === "used" && lowPercent === 0 && highPercent >= line) return "unknown";
  return percent >= line - 1e-9 ? "charged" : "charge-first";
}

// src/core/assess/ruleFacts.ts
var RULE_FACTS = {
  incident: { takesOut: "lasting", answeredByLook: true },
  "second-name": { takesOut: "lasting" },
  recovery: { takesOut: "lasting" },
  "held-by-hand": { takesOut: "event" },
  swollen: { takesOut: "event", card: "swelling" },
  "inspection-failed": { takesOut: "event" },
  "over-discharged": { takesOut: "lasting", card: "over-discharged" },
  "damage-floor": { takesOut: "lasting", card: "over-discharged" },
  overfull: { takesOut: "event", abnormalCharge: true, card: "overcharged" },
  "wrong-setting": { takesOut: "event", abnormalCharge: true, card: "overcharged" },
  "charge-implausible": { takesOut: "event", abnormalCharge: true, card: "overcharged" },
  "hot-use": { takesOut: "event", card: "overheated" },
  "hot-charge": { takesOut: "event", abnormalCharge: true, card: "hot-charging" },
  "over-discharge-event": {},
  "recharge-soon": { timed: true, asks: "hands" },
  cooling: { beforeFlying: "look", asks: "hands" },
  unmeasured: { timed: true, beforeFlying: "measure" },
  "not-known": { timed: true, beforeFlying: "measure", asks: "hands" },
  "field-charged": { timed: true, asks: "hands" },
  "self-storing": { timed: true, asks: "hands" },
  "storage-high": { timed: true, asks: "hands" },
  "storage-low": { timed: true, asks: "hands" },
  "storage-pending": { timed: true, asks: "hands" },
  spread: { takesOut: "trend" },
  "weak-cell": { takesOut: "trend" },
  "cell-drift": {},
  "weakest-again": { takesOut: "trend" },
  "charge-failed": { takesOut: "trend" },
  "shelf-loss": { timed: true },
  "resistance-growth": { takesOut: "trend" },
  "resistance-siblings": { takesOut: "trend" },
  "resistance-jump": {},
  capacity: { takesOut: "trend" },
  "run-time": { takesOut: "trend" },
  "wears-faster": { timed: true },
  "not-as-delivered": { timed: true },
  "long-full": { timed: true },
  cycles: {},
  age: { timed: true },
  "landed-low": {},
  "two-hands": {},
  "deep-use": { asks: "hands" },
  "charge-habits": { asks: "hands" },
  "balance-due": { asks: "hands" },
  "smart-settings": { asks: "hands" },
  "memory-unread": { asks: "hands" },
  "own-faults": { asks: "hands" },
  "cold-use": { asks: "hands" },
  "not-rested": { asks: "hands" },
  unlogged: {},
  "inspection-asked": { beforeFlying: "look" },
  "long-rest": { timed: true, beforeFlying: "look", asks: "routine" },
  "baseline-missing": { asks: "routine" },
  "nimh-top-up": { timed: true, asks: "routine" },
  "inspection-due": { timed: true, asks: "routine" },
  idle: { timed: true, asks: "routine" }
};

// src/core/assess/times.ts
function timesOf(history) {
  const { readings, resistances, charges, flights, inspections, incidents: incidents2, decisions, recoveries } = history;
  const times = /* @__PURE__ */ new Map();
  for (const list of [readings, resistances, charges, flights, inspections, incidents2, decisions, recoveries])
    for (const { at, records: records2 } of list) for (const id of records2) times.set(id, at);
  return times;
}

// src/core/assess/answered.ts
function answered({ history, now: now2 }, findings) {
  const releases = releasesOf(history);
  if (releases.length === 0) return findings;
  return findings.map((finding3) => {
    if (!speaksAgainstUse(finding3)) return finding3;
    const release = answerTo(history, releases, finding3, now2);
    if (!release) return finding3;
    const { at, by, what } = release;
    const severity = isWatching(what.watch, now2) ? "watch" : "note";
    return { ...finding3, severity, answered: { at, by, watch: what.watch } };
  });
}
function speaksAgainstUse({ severity }) {
  return severity === "hold" || severity === "retire";
}
function byAnswer({ history }, rule, events) {
  const known2 = new Set(
    releasesOf(history).flatMap(
      ({ what }) => what.answers.filter((answer) => answer.rule === rule).flatMap(({ records: records2 }) => records2)
    )
  );
  if (known2.size === 0) return { fresh: events, old: [] };
  const isKnown = ({ records: records2 }) => records2.every((id) => known2.has(id));
  return { fresh: events.filter((one) => !isKnown(one)), old: events.filter(isKnown) };
}
function releasesOf({ decisions }) {
  return decisions.filter((one) => one.what.to === "release");
}
function answerTo(history, releases, finding3, now2) {
  const about = releases.filter(({ what }) => what.answers.some(({ rule }) => rule === finding3.rule));
  if (about.length === 0) return null;
  if (isTrend(finding3)) {
    return about.findLast(
      ({ what }) => typeof what.watch === "object" && now2 < what.watch.until && what.answers.some((answer) => answer.rule === finding3.rule && isAbout(answer, finding3))
    ) ?? null;
  }
  const valid = about.filter((release) => stillStands(history, release, finding3));
  const known2 = new Set(
    valid.flatMap(
      ({ what }) => what.answers.filter(({ rule }) => rule === finding3.rule).flatMap(({ records: records2 }) => records2)
    )
  );
  if (!finding3.records.every((id) => known2.has(id))) return null;
  return valid.findLast(
    ({ what }) => what.answers.some(
      ({ rule, records: records2 }) => rule === finding3.rule && (finding3.records.length === 0 || records2.some((id) => finding3.records.includes(id)))
    )
  ) ?? null;
}
function isTrend({ rule, severity }) {
  return severity === "retire" && RULE_FACTS[rule].takesOut !== "lasting";
}
function subjectOf(finding3) {
  if (finding3.rule === "weak-cell") return { cell: finding3.cell, value: finding3.belowMv };
  if (finding3.rule === "spread") return { cell: finding3.lowestCell, value: finding3.mv };
  if (finding3.rule === "weakest-again") return { cell: finding3.cell, value: finding3.timesAgain };
  if (finding3.rule === "resistance-growth" || finding3.rule === "resistance-siblings")
    return { cell: finding3.cell, value: finding3.factor };
  if (finding3.rule === "capacity") return { cell: null, value: 100 - finding3.percent };
  return { cell: null, value: finding3.rule === "run-time" ? finding3.percent : null };
}
var WORSE = 1.5;
function isAbout(answer, finding3) {
  const { cell, value } = subjectOf(finding3);
  if (cell !== null && answer.cell !== null && answer.cell !== void 0 && answer.cell !== cell)
    return false;
  if (value === null || answer.value === null || answer.value === void 0) return true;
  return value < answer.value * WORSE;
}
function stillStands(history, release, { rule }) {
  const { takesOut, answeredByLook } = RULE_FACTS[rule];
  if (takesOut !== "event" && !answeredByLook) return true;
  const happened2 = new Set(
    release.what.answers.filter((answer) => answer.rule === rule).flatMap(({ records: records2 }) => records2)
  );
  const times = timesOf(history);
  const since = Math.max(0, ...[...happened2].map((id) => times.get(id) ?? 0));
  const between = ({ at, records: records2 }) => at >= since && at <= release.at + CLOCK_SLACK_MS && !records2.some((id) => happened2.has(id));
  const { inspections, readings } = history;
  return inspections.some((look) => FULL_OCCASIONS.has(look.occasion) && between(look)) && readings.some((reading) => reading.condition === "rested" && between(reading));
}
var CLOCK_SLACK_MS = 2 * MINUTE_MS;
function isWatching(watch, now2) {
  if (watch === "for-good") return true;
  return watch !== "none" && now2 < watch.until;
}

// src/core/assess/harm.ts
var HARM_KEYS = /* @__PURE__ */ new Set(["swelling", "dents", "smell"]);
function harmOf(findings) {
  return findings.filter((finding3) => {
    if (finding3.answered) return false;
    if (finding3.rule === "swollen") return finding3.swelling !== null || finding3.severity === "hold";
    if (finding3.rule === "inspection-failed") return finding3.failures.some(({ key }) => HARM_KEYS.has(key));
    return finding3.rule === "incident" && (INCIDENT_FACTS[finding3.kind].harms || finding3.deformed.length > 0);
  });
}

// src/core/health/points.ts
function median(values) {
  if (values.length === 0) throw new Error("There is no median of nothing.");
  const sorted = values.slice().sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
}
var JUDGED_BY = 3;
function currentValue(points, judgedBy2 = JUDGED_BY) {
  const latest = points.slice(-judgedBy2);
  const last = latest.at(-1);
  if (!last) return null;
  return {
    at: last.at,
    value: median(latest.map(({ value }) => value)),
    records: latest.flatMap(({ records: records2 }) => records2)
  };
}

// src/core/health/capacity.ts
var LEAST_SWING_PERCENT = 40;
var MOST_UNSURE = 0.08;
var TOP_ERROR_MV = 10;
var FARTHEST_APART_DAYS = 14;
var LEAKS_AFTER_MS = 2 * DAY_MS;
var WEAKEST_BY = 30;
var COUNTED_ERROR = 0.015;
var READING_NOISE_MV = 4.2;
var FULL_ERROR_PERCENT = 0.3;
var NONE = /* @__PURE__ */ new Set();
function capacityPoints(history, rested, odd = NONE) {
  return capacityOfEnds(history, rested, odd).weakest;
}
function capacityOfEnds(history, rested, odd = NONE) {
  const { chemistry } = history.pack;
  const none = { weakest: [], strongest: [] };
  if (!isLithium(chemistry)) return none;
  const fixes = fixesOf(history, rested, chemistry, odd);
  const discharged = capacityOfCells(history, fixes, "out", odd);
  const cells = discharged[0]?.length ? discharged : capacityOfCells(history, fixes, "in", odd);
  if (!cells[0]?.length) return none;
  const latest = cells.map((points) => median(points.slice(-WEAKEST_BY).map(({ value }) => value)));
  return {
    weakest: cells[latest.indexOf(Math.min(...latest))],
    strongest: cells[latest.indexOf(Math.max(...latest))]
  };
}
function capacityOfCells({ pack, charges, flights }, fixes, direction, odd) {
  const moves = movesOf({ charges, flights }, odd).sort((a, b) => a.at - b.at);
  const count2 = Math.max(0, ...fixes.map(({ percents }) => percents.length));
  const cells = Array.from({ length: count2 }, () => []);
  let next = 0;
  for (let i = 1; i < fixes.length; i++) {
    const from = fixes[i - 1];
    const to = fixes[i];
    while (next < moves.length && moves[next].at <= from.at) next += 1;
    const first = next;
    while (next < moves.length && moves[next].at <= to.at) next += 1;
    const between = moves.slice(first, next);
    if (between.length === 0 || between.some(({ mah: mah2 }) => mah2 === null)) continue;
    if (to.at - from.at > FARTHEST_APART_DAYS * DAY_MS || mayHaveBled(pack, from.at, between, to.at))
      continue;
    const apart = to.at - from.at;
    const leaked = apart < LEAKS_AFTER_MS ? 0 : leakedPercent(apart);
    const mah = between.reduce((sum, move) => sum + move.mah, 0);
    const swings = [];
    let least = Infinity;
    for (let cell = 0; cell < count2; cell++) {
      const swing = cellPercent(to, cell) - cellPercent(from, cell) + leaked;
      swings.push(swing);
      least = Math.min(least, Math.abs(swing));
    }
    if (least < LEAST_SWING_PERCENT || from.unsurePercent + to.unsurePercent > least * MOST_UNSURE) continue;
    if (Math.sign(mah) !== Math.sign(swings[0]) || mah > 0 !== (direction === "in")) continue;
    const records2 = [...from.records, ...between.flatMap((move) => move.records), ...to.records];
    const share = Math.hypot(COUNTED_ERROR, Math.hypot(from.errorPercent, to.errorPercent) / least);
    for (const [cell, points] of cells.entries()) {
      const value = mah / swings[cell] / pack.capacityMah * 1e4;
      points.push({ at: to.at, value, error: value * share, records: records2 });
    }
  }
  return cells;
}
function mayHaveBled({ smart }, from, between, to) {
  if (!smart?.autoStorage) return false;
  const moments = [from, ...between.map(({ at }) => at), to];
  return moments.some((at, i) => i > 0 && at - moments[i - 1] > smart.autoStorageAfterHours * HOUR_MS);
}
function cellPercent({ percents }, cell) {
  return percents[cell] ?? percents[0];
}
function fixesOf({ charges }, rested, chemistry, odd) {
  const fixes = rested.map(({ at, cellsMv, meterErrorMv, records: records2 }) => ({
    at,
    percents: cellsMv.map((mv) => socPercent(chemistry, mv)),
    unsurePercent: unsure(chemistry, Math.min(...cellsMv), meterErrorMv),
    errorPercent: unsure(chemistry, Math.min(...cellsMv), READING_NOISE_MV),
    records: records2
  }));
  for (const { at, mode, ending, balanced, settings, records: records2 } of charges) {
    if (mode !== "balance" || ending !== "complete" || balanced === false || odd.has(records2[0])) continue;
    const topMv = settings.topMv ?? CHEMISTRY[chemistry].fullMv;
    const percents = [socPercent(chemistry, topMv)];
    const unsurePercent = unsure(chemistry, topMv, TOP_ERROR_MV);
    fixes.push({ at, percents, unsurePercent, errorPercent: FULL_ERROR_PERCENT, records: records2 });
  }
  return fixes.sort((a, b) => a.at - b.at);
}
function unsure(chemistry, mv, errorMv) {
  const { lowPercent, highPercent } = soc(chemistry, mv, errorMv);
  return (highPercent - lowPercent) / 2;
}
function movesOf({ charges, flights }, odd) {
  return [
    ...charges.map(({ at, mode, movedMah, endCellsMv, startCellsMv, records: records2 }) => ({
      at,
      mah: odd.has(records2[0]) ? null : signed(movedMah, mode, startCellsMv, endCellsMv),
      records: records2
    })),
    ...flights.map(({ at, usedMah, records: records2 }) => ({ at, mah: usedMah === null ? null : -usedMah, records: records2 }))
  ];
}
function signed(mah, mode, startCellsMv, endCellsMv) {
  if (mah === null || mode === "balance" || mode === "fast") return mah;
  if (mode === "discharge") return -mah;
  if (!startCellsMv || !endCellsMv) return null;
  return Math.min(...endCellsMv) >= Math.min(...startCellsMv) ? mah : -mah;
}
var AGREEING = 3;
var PLAUSIBLE_PERCENT = { low: 30, high: 130 };
function isPlausible({ value }) {
  return value >= PLAUSIBLE_PERCENT.low && value <= PLAUSIBLE_PERCENT.high;
}
function healthShare(points, at = Infinity) {
  const known2 = points.filter((point) => point.at <= at && isPlausible(point));
  return (currentValue(known2, AGREEING)?.value ?? 100) / 100;
}

// src/core/health/likeWithLike.ts
var JOINED_WITHIN_MS = DAY_MS;
function comparable(resistances, odd = NONE2) {
  const sound = odd.size === 0 ? resistances : resistances.filter(({ records: records2 }) => !records2.some((id) => odd.has(id)));
  const last = sound.at(-1);
  if (!last || sound.every(({ instrument }) => instrument === last.instrument)) return sound;
  const scales = scalesTo(sound, last.instrument);
  return sound.flatMap((event) => {
    const scale = scales.get(event.instrument);
    if (scale === void 0) return [];
    return scale === 1 ? [event] : [{ ...event, irMilliohm: event.irMilliohm.map((one) => one * scale) }];
  });
}
var NONE2 = /* @__PURE__ */ new Set();
function scalesTo(readings, instrument) {
  const scales = /* @__PURE__ */ new Map([[instrument, 1]]);
  const others = new Set(readings.map((one) => one.instrument));
  for (let round2 = 0; round2 < others.size; round2++) {
    for (const other2 of others) {
      if (scales.has(other2)) continue;
      for (const [known2, scale] of scales) {
        const ratio = ratioOf(readings, other2, known2);
        if (ratio !== null) scales.set(other2, ratio * scale);
      }
    }
  }
  return scales;
}
function ratioOf(readings, of, to) {
  const ratios = [];
  for (const one of readings) {
    if (one.instrument !== of) continue;
    for (const other2 of readings) {
      if (other2.instrument !== to || Math.abs(other2.at - one.at) > JOINED_WITHIN_MS) continue;
      if (Math.abs(other2.temperatureC - one.temperatureC) > SAME_TEMPERATURE_C) continue;
      for (const [i, milliohm] of one.irMilliohm.entries()) ratios.push(other2.irMilliohm[i] / milliohm);
    }
  }
  return ratios.length === 0 ? null : median(ratios);
}
var SAME_TEMPERATURE_C = 5;

// src/core/health/outlook/clock.ts
var calendarClock = (from, to) => (to - from) / DAY_MS;
var BY_TIME = 0.3;
var LIKE_LAST_YEAR = 0.85;
var LEAST_VARIED = 0.35;
var MONTH_MS2 = 30 * DAY_MS;
var YEAR_MS = 365 * DAY_MS;
function useClock(uses, until) {
  const first = uses[0];
  if (first === void 0 || until - first < 3 * MONTH_MS2 || uses.length < 10) return null;
  const months = Math.floor((until - first) / MONTH_MS2);
  const perMonth = Array.from({ length: months }, () => 0);
  for (const at of uses) {
    const month = Math.floor((at - first) / MONTH_MS2);
    if (month < months) perMonth[month] += 1;
  }
  const mean = perMonth.reduce((sum, one) => sum + one, 0) / months;
  const sd = Math.sqrt(perMonth.reduce((sum, one) => sum + (one - mean) ** 2, 0) / months);
  if (mean === 0 || sd / mean <= LEAST_VARIED) return null;
  const perDay = mean / 30;
  const known2 = (from, to) => countUpTo2(uses, to) - countUpTo2(uses, from);
  const expected = (from, to) => {
    const days = (to - from) / DAY_MS;
    const before2 = to - YEAR_MS <= until && from - YEAR_MS >= first ? known2(from - YEAR_MS, to - YEAR_MS) : days * perDay;
    return LIKE_LAST_YEAR * before2 + (1 - LIKE_LAST_YEAR) * days * perDay;
  };
  return (from, to) => {
    const past = known2(from, Math.min(to, Math.max(from, until)));
    const ahead = to > until ? expected(Math.max(from, until), to) : 0;
    return BY_TIME * (to - from) / DAY_MS + (1 - BY_TIME) * (past + ahead) / perDay;
  };
}
function countUpTo2(uses, at) {
  let [low, high] = [0, uses.length];
  while (low < high) {
    const middle = low + high >> 1;
    if (uses[middle] <= at) low = middle + 1;
    else high = middle;
  }
  return low;
}

// src/core/health/outlook/normal.ts
function below(z3) {
  if (z3 < 0) return 1 - below(-z3);
  const t = 1 / (1 + 0.2316419 * z3);
  const poly = t * (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
  return 1 - Math.exp(-z3 * z3 / 2) * poly * 0.3989422804014327;
}

// src/core/health/outlook/filter.ts
var USUAL_DAYS = 770;
var KEPT = 10;
var WILD_SHARE = 0.04;
var WILD_VARIANCE = 20;
var ABSURD_SHARE = 5e-3;
var ABSURD_VARIANCE = 900;
var KNEE_DAYS = 220;
var EASE_DAYS = 900;
var EASED = 0.5;
var EASE_SD = 0.6;
var STEP_MEAN = 0.3;
var STEP_SD = 0.25;
function paceDrift(way) {
  return (0.4 * way / 800) ** 2 / 365;
}
function asNew(prior) {
  return {
    weight: 1,
    level: prior.startMean,
    pace: prior.pace.mean * prior.way,
    shared: 0,
    ll: prior.startSd ** 2,
    lp: 0,
    ls: 0,
    pp: (prior.pace.sd * prior.way) ** 2,
    ps: 0,
    ss: prior.sharedSd ** 2,
    change: null
  };
}
function followWear(values, prior, clock) {
  const first = values[0];
  if (!first) return null;
  let hypotheses = [asNew(prior)];
  const path = [];
  let lastAt = first.at;
  let likelihood = 0;
  for (const one of values) {
    const days = one === first ? 0 : clock(lastAt, one.at);
    if (days > 0) hypotheses = branched(hypotheses, days, lastAt, one.at, prior);
    const updated = hypotheses.map((hypothesis) => withValue(hypothesis, one, prior));
    const total = updated.reduce((sum, { weight }) => sum + weight, 0);
    likelihood += Math.log(Math.max(total, 1e-300));
    const heaviest = updated.sort((a, b) => b.weight - a.weight).slice(0, KEPT);
    const shareOf = ({ weight }) => weight / Math.max(total, 1e-300);
    const kept2 = heaviest.reduce((sum, one2) => sum + shareOf(one2), 0);
    hypotheses = heaviest.map((one2) => weighing(one2, shareOf(one2) / kept2));
    path.push({ at: one.at, level: meanLevel(hypotheses) });
    lastAt = one.at;
  }
  return { prior, hypotheses, lastAt, count: values.length, path, likelihood };
}
function branched(before2, days, from, to, { way, kneeHazard }) {
  const kneeShare = Math.min(0.3, days * Math.max(1 / 600, kneeHazard));
  const stepShare = Math.min(0.3, days / 1200);
  const easeShare = Math.min(0.2, days / EASE_DAYS);
  const gone = before2.map((hypothesis) => goneOn(hypothesis, days, way));
  const merged = mergedOf(gone);
  const middle = from + (to - from) / 2;
  const knee = way / KNEE_DAYS;
  const eased = EASED * Math.max(0, merged.pace);
  return [
    ...gone.map((one) => weighing(one, one.weight * (1 - kneeShare - stepShare - easeShare))),
    {
      ...atAnotherPace(merged, knee, knee, days),
      weight: kneeShare,
      change: { at: middle, how: "knee", seen: 0 }
    },
    { ...atAnotherPace(merged, -eased, EASE_SD * eased, days), weight: easeShare },
    {
      ...merged,
      weight: stepShare,
      level: merged.level + STEP_MEAN * way,
      ll: merged.ll + (STEP_SD * way) ** 2,
      change: { at: middle, how: "step", seen: 0 }
    }
  ];
}
function weighing(one, weight) {
  const { level, pace, shared, ll, lp, ls, pp, ps, ss, change } = one;
  return { weight, level, pace, shared, ll, lp, ls, pp, ps, ss, change };
}
function atAnotherPace(one, by, sd, days) {
  return {
    ...one,
    pace: one.pace + by,
    level: one.level + by * days / 2,
    pp: one.pp + sd ** 2,
    lp: one.lp + sd ** 2 * days / 2,
    ll: one.ll + sd ** 2 * days ** 2 / 4
  };
}
function goneOn(one, days, way) {
  const q = paceDrift(way);
  const { weight, level, pace, shared, ll, lp, ls, pp, ps, ss, change } = one;
  return {
    weight,
    level: level + pace * days,
    pace,
    shared,
    ll: ll + 2 * days * lp + days ** 2 * pp + q * days ** 3 / 3,
    lp: lp + days * pp + q * days ** 2 / 2,
    ls: ls + days * ps,
    pp: pp + q * days,
    ps,
    ss,
    change
  };
}
function mergedOf(list) {
  let [total, level, pace, shared] = [0, 0, 0, 0];
  for (const one of list) {
    total += one.weight;
    level += one.weight * one.level;
    pace += one.weight * one.pace;
    shared += one.weight * one.shared;
  }
  level /= total;
  pace /= total;
  shared /= total;
  let [ll, lp, ls, pp, ps, ss] = [0, 0, 0, 0, 0, 0];
  for (const one of list) {
    const [l, p6, s] = [one.level - level, one.pace - pace, one.shared - shared];
    ll += one.weight * (one.ll + l ** 2);
    lp += one.weight * (one.lp + l * p6);
    ls += one.weight * (one.ls + l * s);
    pp += one.weight * (one.pp + p6 ** 2);
    ps += one.weight * (one.ps + p6 * s);
    ss += one.weight * (one.ss + s ** 2);
  }
  return {
    weight: 1,
    level,
    pace,
    shared,
    ll: ll / total,
    lp: lp / total,
    ls: ls / total,
    pp: pp / total,
    ps: ps / total,
    ss: ss / total,
    change: null
  };
}
function withValue(one, { value, noise }, prior) {
  const h = prior.sharedScales ? 100 + one.level : 1;
  const hl = prior.sharedScales ? 1 + one.shared : 1;
  const expected = one.level + h * one.shared;
  const gl = one.ll * hl + one.ls * h;
  const gp = one.lp * hl + one.ps * h;
  const gs = one.ls * hl + one.ss * h;
  const spread2 = hl * gl + h * gs;
  const off = value - expected;
  const ordinary = (1 - WILD_SHARE - ABSURD_SHARE) * density(off, spread2 + noise);
  const wild = WILD_SHARE * density(off, spread2 + WILD_VARIANCE * noise);
  const absurd = ABSURD_SHARE * density(off, spread2 + ABSURD_VARIANCE * noise);
  const likelihood = Math.max(ordinary + wild + absurd, 1e-300);
  const precision = (ordinary + wild / WILD_VARIANCE + absurd / ABSURD_VARIANCE) / likelihood;
  const s = spread2 + noise / Math.max(precision, 1 / ABSURD_VARIANCE);
  return {
    weight: one.weight * likelihood,
    level: one.level + gl / s * off,
    pace: one.pace + gp / s * off,
    shared: one.shared + gs / s * off,
    ll: one.ll - gl * gl / s,
    lp: one.lp - gl * gp / s,
    ls: one.ls - gl * gs / s,
    pp: one.pp - gp * gp / s,
    ps: one.ps - gp * gs / s,
    ss: one.ss - gs * gs / s,
    change: one.change && { ...one.change, seen: one.change.seen + 1 }
  };
}
function density(off, variance) {
  return Math.exp(-off * off / (2 * variance)) / Math.sqrt(2 * Math.PI * variance);
}
function meanLevel(hypotheses) {
  return hypotheses.reduce((sum, { weight, level }) => sum + weight * level, 0);
}
var AGREEING2 = 3;
function pastLine({ hypotheses }, line, settled) {
  const heard = settled ? hypotheses.filter(({ change }) => change === null || change.seen >= AGREEING2) : hypotheses;
  const total = heard.reduce((sum, { weight }) => sum + weight, 0);
  if (total < 1e-9) return 0;
  const past = heard.reduce(
    (sum, { weight, level, ll }) => sum + weight * below((level - line) / Math.sqrt(Math.max(ll, 1e-9))),
    0
  );
  return past / total;
}
function recentChange({ hypotheses, lastAt }, withinDays) {
  const young = hypotheses.filter(({ change }) => change && lastAt - change.at <= withinDays * DAY_MS);
  const heaviest = [...young].sort((a, b) => b.weight - a.weight)[0]?.change;
  if (!heaviest) return null;
  const share = young.reduce((sum, { weight }) => sum + weight, 0);
  return { ...heaviest, share };
}

// src/core/health/outlook/outlook.ts
var KNEE_HAZARD = 1 / 900;
function linesOf(measure2, lines) {
  return measure2 === "capacity" ? [100 - lines.watch, 100 - lines.retire] : [100 * (lines.watch - 1), 100 * (lines.retire - 1)];
}
function priorOf(measure2, way, sharedSd, siblings) {
  return {
    way,
    startMean: measure2 === "capacity" ? 1 : 0,
    startSd: measure2 === "capacity" ? 3 : 0.5,
    sharedSd,
    sharedScales: measure2 === "resistance",
    pace: siblings?.pace ?? { mean: 1 / USUAL_DAYS, sd: 1 / USUAL_DAYS },
    kneeHazard: siblings?.kneeHazard ?? KNEE_HAZARD
  };
}
function outlookOf(measure2, series, lines, { flights }, siblings = null) {
  const [toWatch, toRetire] = linesOf(measure2, lines);
  const prior = priorOf(measure2, toWatch, series.sharedSd, siblings);
  const byCalendar = followWear(series.values, prior, calendarClock);
  const last = series.values.at(-1);
  if (!byCalendar || !last) return null;
  const use = useClock(
    flights.map(({ at }) => at),
    Math.max(last.at, flights.at(-1)?.at ?? 0)
  );
  const byUse = use && followWear(series.values, prior, use);
  return byUse && byUse.likelihood > byCalendar.likelihood ? { measure: measure2, wear: byUse, clock: use, toWatch, toRetire } : { measure: measure2, wear: byCalendar, clock: calendarClock, toWatch, toRetire };
}
var CONDEMNS = 0.9;
var WARNS = 0.5;
var NEWS_DAYS = 120;
var NEWS_SHARE = 0.8;
function alarmsOf({ wear, toWatch, toRetire }) {
  const past = wear.count >= 3 && pastLine(wear, toRetire, true) >= CONDEMNS ? "retire" : pastLine(wear, toWatch, false) >= WARNS ? "watch" : null;
  const change = recentChange(wear, NEWS_DAYS);
  return { past, changed: change && change.share >= NEWS_SHARE && change.seen >= 3 ? change : null };
}

// src/core/health/resistance.ts
function resistanceAt25(milliohm, celsius) {
  return milliohm * 2 ** ((celsius - 25) / 25);
}
var BASELINE_READINGS = 3;
function resistanceBaseline(resistances) {
  if (resistances.length < BASELINE_READINGS) return null;
  const first = resistances.slice(0, BASELINE_READINGS).map(at25);
  return first[0].map((_, cell) => median(first.map((cells) => cells[cell])));
}
function at25({ irMilliohm, temperatureC }) {
  return irMilliohm.map((milliohm) => resistanceAt25(milliohm, temperatureC));
}
var UNSURE_A_DEGREE = 4e-3;
function certainFactor(factor, celsius) {
  return factor * (1 - UNSURE_A_DEGREE * Math.abs(25 - celsius));
}
function mostGrown(resistances) {
  const baseline = resistanceBaseline(resistances);
  if (!baseline || resistances.length <= BASELINE_READINGS) return null;
  return worst(latestCells(resistances), (_, i) => baseline[i]);
}
function growthOf(resistances, cell) {
  const baseline = resistanceBaseline(resistances);
  if (!baseline) return [];
  return resistances.slice(BASELINE_READINGS).slice(-BASELINE_READINGS).map((event) => certainFactor(at25(event)[cell - 1] / baseline[cell - 1], event.temperatureC));
}
function apartOf(resistances, cell) {
  return resistances.slice(-BASELINE_READINGS).map((event) => {
    const cells = at25(event);
    return cells[cell - 1] / median(cells.filter((_, other2) => other2 !== cell - 1));
  });
}
function apartIn(reading) {
  const cells = at25(reading);
  return cells.length < 2 ? null : worst(cells, (_, i) => median(cells.filter((__, other2) => other2 !== i)));
}
function mostApart(resistances) {
  if (resistances.length === 0 || resistances[0].irMilliohm.length < 2) return null;
  const latest = latestCells(resistances);
  return worst(latest, (_, i) => median(latest.filter((__, other2) => other2 !== i)));
}
function lastJump(resistances) {
  const [before2, after3] = resistances.slice(-2).map(at25);
  return before2 && after3 ? worst(after3, (_, i) => before2[i]) : null;
}
function latestCells(resistances) {
  const latest = resistances.slice(-BASELINE_READINGS).map(at25);
  return latest[0].map((_, cell) => median(latest.map((cells) => cells[cell])));
}
function worst(cells, against) {
  return cells.map((milliohm, i) => {
    const other2 = against(milliohm, i);
    return { cell: i + 1, factor: milliohm / other2, milliohm, against: other2 };
  }).reduce((most, one) => one.factor > most.factor ? one : most);
}

// src/core/health/outlook/values.ts
var PRIOR_VALUES = 6;
function noiseScale(values) {
  const offs = [];
  for (let i = 1; i + 1 < values.length; i++) {
    const [before2, one, after3] = [values[i - 1], values[i], values[i + 1]];
    const share = after3.at > before2.at ? (one.at - before2.at) / (after3.at - before2.at) : 0.5;
    const line = before2.value + share * (after3.value - before2.value);
    const expected = one.noise + (1 - share) ** 2 * before2.noise + share ** 2 * after3.noise;
    offs.push(Math.abs(one.value - line) / Math.sqrt(expected));
  }
  if (offs.length === 0) return 1;
  const shown = (1.4826 * median(offs)) ** 2;
  return (PRIOR_VALUES + offs.length * shown) / (PRIOR_VALUES + offs.length);
}
function scaled(values, scale) {
  return values.map((one) => ({ ...one, noise: one.noise * scale }));
}
var BIN_DAYS = 7;
var MOST_BINS = 45;
var JOINED = 1.2;
function capacitySeries(points) {
  const raw = points.map(({ at, value, error }) => ({ at, value: 100 - value, noise: error ** 2 }));
  const scale = noiseScale(raw);
  const values = joined2(scaled(raw, scale));
  return { values, sharedSd: 0.9 * Math.max(0.8, Math.sqrt(scale)), cell: null };
}
function joined2(values) {
  const [first, last] = [values[0], values.at(-1)];
  if (!first || !last) return [];
  const width = Math.max(BIN_DAYS * DAY_MS, (last.at - first.at) / MOST_BINS);
  const bins = [];
  for (const one of values) {
    const bin = bins.at(-1);
    if (bin && one.at - bin[0].at < width) bin.push(one);
    else bins.push([one]);
  }
  return bins.map((bin) => {
    if (bin.length === 1) return bin[0];
    const weight = bin.reduce((sum, { noise: noise2 }) => sum + 1 / noise2, 0);
    const mean = bin.reduce((sum, { value: value2, noise: noise2 }) => sum + value2 / noise2, 0) / weight;
    const middle = median(bin.map(({ value: value2 }) => value2));
    const noise = JOINED / weight;
    const value = Math.abs(middle - mean) > Math.sqrt(noise) ? middle : mean;
    return { at: median(bin.map(({ at }) => at)), value, noise };
  });
}
var BASELINE_READINGS2 = 3;
var CELLS_DIFFER = 0.035;
var CELL_NOISE = 0.045;
var CELL_NOISE_WEIGHT = 8;
var CONTACT_NOISE = 0.02;
var TEMPERATURE_NOISE = 0.028 * 1.2;
var LAW_NOISE = 4e-3;
var GROWN_BY = 12;
function resistanceSeries(readings) {
  if (readings.length <= BASELINE_READINGS2) return null;
  const logs = readings.map(
    ({ irMilliohm, temperatureC }) => irMilliohm.map((one) => Math.log(resistanceAt25(one, temperatureC)))
  );
  const cells = logs[0].length;
  const v = cellNoise(logs) ** 2 / BASELINE_READINGS2 * JOINED;
  const baseline = baselineOf(logs.slice(0, BASELINE_READINGS2), v);
  const later = readings.slice(BASELINE_READINGS2);
  const growth = (cell2) => logs.slice(BASELINE_READINGS2).map((one) => Math.exp(one[cell2] - baseline[cell2]));
  const latest = Math.min(GROWN_BY, Math.max(3, Math.ceil(later.length / 2)));
  const grown = Array.from({ length: cells }, (_, cell2) => median(growth(cell2).slice(-latest)));
  const cell = grown.indexOf(Math.max(...grown));
  const noise = cellNoise(logs);
  const raw = growth(cell).map((factor, i) => {
    const { at, temperatureC } = later[i];
    const share = Math.hypot(noise, CONTACT_NOISE, TEMPERATURE_NOISE, (25 - temperatureC) * LAW_NOISE);
    return { at, value: 100 * (factor - 1), noise: (100 * factor * share) ** 2 };
  });
  const lambda = CELLS_DIFFER ** 2 / (CELLS_DIFFER ** 2 + v);
  const shared = Math.sqrt(
    1.3 * (TEMPERATURE_NOISE ** 2 + CONTACT_NOISE ** 2) / BASELINE_READINGS2 + v / cells + lambda * v + 0.01 ** 2
  );
  return { values: scaled(raw, noiseScale(raw)), sharedSd: 0.9 * shared, cell: cell + 1 };
}
function baselineOf(logs, v) {
  const own = logs[0].map((_, cell) => median(logs.map((one) => one[cell])));
  const pack = median(own);
  const lambda = CELLS_DIFFER ** 2 / (CELLS_DIFFER ** 2 + v);
  return own.map((one) => pack + lambda * (one - pack));
}
function cellNoise(logs) {
  const changes = [];
  for (let i = 1; i < logs.length; i++) {
    const mean = (one) => one.reduce((sum, value) => sum + value, 0) / one.length;
    const [before2, after3] = [logs[i - 1], logs[i]];
    if (before2.length < 2) break;
    const moved = mean(after3) - mean(before2);
    for (const [cell, value] of after3.entries()) changes.push(Math.abs(value - before2[cell] - moved));
  }
  if (changes.length === 0) return CELL_NOISE;
  const shown = 1.4826 * median(changes) / Math.SQRT2;
  const weight = changes.length;
  return Math.sqrt(
    (CELL_NOISE_WEIGHT * CELL_NOISE ** 2 + weight * shown ** 2) / (CELL_NOISE_WEIGHT + weight)
  );
}

// src/core/health/outlook/index.ts
var followed = /* @__PURE__ */ new WeakMap();
function outlooksKept(history, measured, rules) {
  const { capacityPercent, irGrowth } = rules.health;
  const by = [capacityPercent, irGrowth, measured.capacity];
  const before2 = followed.get(history);
  if (before2?.by.every((one, i) => one === by[i])) return before2.told;
  const told4 = outlooks(history, measured, rules);
  followed.set(history, { by, told: told4 });
  return told4;
}
function outlooks(history, { capacity: capacity2, oddRecords }, rules, siblings = {}) {
  const { capacityPercent, irGrowth } = rules.health;
  const lost = capacitySeries(capacity2);
  const grown = resistanceSeries(comparable(history.resistances, oddRecords));
  const ofCapacity = outlookOf("capacity", lost, capacityPercent, history, siblings.capacity ?? null);
  const ofResistance = grown && outlookOf("resistance", grown, irGrowth, history, siblings.resistance ?? null);
  return [
    ...ofCapacity ? [{ ...ofCapacity, cell: null }] : [],
    ...ofResistance ? [{ ...ofResistance, cell: grown.cell }] : []
  ];
}

// src/core/health/oddCharges.ts
var TAPER_MINUTES = 45;
var ORDINARY_UNSURE_PERCENT = 3;
var LEAST_NOTED = 0.02;
var LEAST_HELD = 0.05;
var KNOWN_WITHIN_PERCENT = 40;
function oddCharges({ pack, charges }, rules, before2, capacityAt) {
  const odd = [];
  let next = 0;
  for (const charge of charges) {
    const beginning = before2[next]?.records === charge.records ? before2[next++] : null;
    if (!putsIn(charge) || charge.movedMah === null && charge.minutes === null) continue;
    const found = isLithium(pack.chemistry) ? lithiumOddity(charge, beginning?.contents() ?? null, capacityAt(charge.startedAt), rules) : nickelOddity(charge, pack.capacityMah, rules);
    if (found) odd.push({ charge, ...found });
  }
  return odd;
}
function lithiumOddity(charge, held, capacityMah, { charge: limits, flight }) {
  const { movedMah, minutes, ending, settings } = charge;
  const much = movedMah === null ? null : tooMuch(movedMah, roomMah(held, capacityMah), capacityMah, limits);
  if (much) return much;
  const known2 = held && held.lowest.highPercent - held.lowest.lowPercent <= KNOWN_WITHIN_PERCENT;
  if (minutes === null || settings.currentA === null || !known2) return null;
  const { percent, lowPercent, highPercent } = held.lowest;
  const minutesFrom = (from) => (100 - from) / 100 * capacityMah * 60 / 1e3 / settings.currentA;
  const finished = ending === "complete" || ending === "taper" || ending === "quick";
  const odd = (oddity, expected) => ({
    oddity,
    value: minutes,
    expected,
    dangerous: false
  });
  const toppedUp = highPercent >= flight.chargedPercent;
  if (finished && !toppedUp && minutes < minutesFrom(highPercent) * limits.tooFastPercent / 100)
    return odd("too-fast", minutesFrom(percent));
  return minutes > minutesFrom(lowPercent) * limits.tooLongPercent / 100 + TAPER_MINUTES ? odd("too-long", minutesFrom(percent) + TAPER_MINUTES) : null;
}
function roomMah(held, capacityMah) {
  if (!held) return capacityMah;
  const { percent, lowPercent } = held.lowest;
  const granted = Math.max(0, percent - lowPercent - ORDINARY_UNSURE_PERCENT);
  return Math.min(100, 100 - percent + granted) / 100 * capacityMah;
}
function tooMuch(movedMah, room, capacityMah, { overNotePercent, overHoldPercent }) {
  const over = (percent, least) => movedMah > room * percent / 100 + ROUNDING && movedMah - room > least * capacityMah;
  const dangerous = over(overHoldPercent, LEAST_HELD);
  if (!dangerous && !over(overNotePercent, LEAST_NOTED)) return null;
  return { oddity: "too-much", value: movedMah, expected: room, dangerous };
}
var ROUNDING = 1e-6;
function nickelOddity(charge, labelMah, { charge: limits }) {
  const { movedMah, minutes, settings } = charge;
  const most = labelMah * limits.nimhPercent / 100;
  if (movedMah !== null && movedMah > most)
    return { oddity: "too-much", value: movedMah, expected: most, dangerous: false };
  if (minutes === null || settings.currentA === null) return null;
  const expected = most * 60 / 1e3 / settings.currentA;
  return minutes > expected * limits.tooLongPercent / 100 ? { oddity: "too-long", value: minutes, expected, dangerous: false } : null;
}

// src/core/health/measured.ts
function measure(history, rested, rules, now2) {
  const { pack } = history;
  const known2 = timeless(history, rested);
  const limits = limitsOf(rules);
  const judged = known2.by.get(limits) ?? judgedBy(history, rested, rules, known2, now2);
  if (!known2.by.has(limits)) {
    if (known2.by.size === MOST_LIMITS) known2.by.clear();
    known2.by.set(limits, judged);
  }
  const carried = judged.carried.until(now2) ?? carry(pack, known2.evidence, rules, now2, known2.capacityAt);
  return { ...judged, evidence: known2.evidence, carried };
}
function limitsOf(rules) {
  const known2 = limitsKept.get(rules);
  if (known2 !== void 0) return known2;
  const { storage, bleedDays, charge, flight } = rules;
  const limits = JSON.stringify({ storage, bleedDays, charge, flight });
  limitsKept.set(rules, limits);
  return limits;
}
var MOST_LIMITS = 4;
var limitsKept = /* @__PURE__ */ new WeakMap();
function judgedBy(history, rested, rules, { evidence, everything, capacityAt, mostAt }, now2) {
  const { pack } = history;
  const carried = carry(pack, evidence, rules, Math.max(now2, evidence.at(-1)?.at ?? now2), capacityAt);
  const odd = oddCharges(history, rules, carried.before, mostAt);
  const oddRecords = new Set(odd.flatMap(({ charge }) => charge.records));
  const capacity2 = odd.length === 0 ? everything : capacityPoints(history, rested, oddRecords);
  const capacityMah = pack.capacityMah * Math.min(1, healthShare(capacity2));
  return { carried, odd, oddRecords, capacity: capacity2, capacityMah };
}
var known = /* @__PURE__ */ new WeakMap();
function timeless(history, rested) {
  const before2 = known.get(history);
  if (before2 && sameReadings(before2.rested, rested)) return before2;
  const { weakest: everything, strongest } = capacityOfEnds(history, rested);
  const evidence = storageEvidence(history, rested);
  const capacityAt = capacityOver(history.pack.capacityMah, everything);
  const mostAt = capacityOver(history.pack.capacityMah, strongest);
  const made = { rested, evidence, everything, capacityAt, mostAt, by: /* @__PURE__ */ new Map() };
  known.set(history, made);
  return made;
}
function sameReadings(a, b) {
  if (a === b) return true;
  return a.length === b.length && a.every(({ records: records2, at }, i) => b[i].at === at && b[i].records === records2);
}
function capacityOver(labelMah, points) {
  const plausible = points.filter(isPlausible);
  if (plausible.length < AGREEING) return () => labelMah;
  const mah = plausible.map(
    (point, i) => i + 1 < AGREEING ? labelMah : labelMah / 100 * middleOf(plausible, i)
  );
  return (at) => mah[countUpTo(plausible, at) - 1] ?? labelMah;
}
function middleOf(points, i) {
  const [a, b, c] = [points[i - 2].value, points[i - 1].value, points[i].value];
  return Math.max(Math.min(a, b), Math.min(Math.max(a, b), c));
}

// src/core/health/runTime.ts
var BASELINE_FLIGHTS = 5;
function runTimes(flights, coldC) {
  const bySetup = /* @__PURE__ */ new Map();
  for (const { at, craft: craft2, craftId, craftSetup, minutes, usedMah, ambientC, records: records2 } of flights) {
    if (craft2 === null || !minutes || !usedMah || ambientC !== null && ambientC < coldC) continue;
    const key = `${craftId ?? craft2} ${craftSetup ?? 0}`;
    const flown = bySetup.get(key) ?? { craft: craft2, points: [] };
    flown.points.push({ at, value: minutes / (usedMah / 1e3), records: records2 });
    bySetup.set(key, flown);
  }
  const most = [...bySetup.values()].sort((a, b) => b.points.length - a.points.length)[0];
  if (!most) return null;
  const { craft, points } = most;
  const first = points.slice(0, BASELINE_FLIGHTS).map(({ value }) => value);
  return { craft, points, baseline: first.length < BASELINE_FLIGHTS ? null : median(first) };
}
function runTimeLoss({ points, baseline }) {
  if (baseline === null || points.length < BASELINE_FLIGHTS * 2) return null;
  const latest = points.slice(-BASELINE_FLIGHTS);
  const lossOf = (value) => (1 - value / baseline) * 100;
  const percent = lossOf(median(latest.map(({ value }) => value)));
  const each2 = latest.map(({ value }) => lossOf(value));
  return { percent, latest, each: each2, stepAt: stepIn(points, percent / 100 * baseline) };
}
var STEP_SHARE = 0.7;
var STEP_FLIGHTS = 3;
function stepIn(points, loss) {
  if (loss <= 0) return null;
  let [most, at] = [0, null];
  for (let i = STEP_FLIGHTS; i + STEP_FLIGHTS <= points.length; i++) {
    const before2 = median(points.slice(i - STEP_FLIGHTS, i).map(({ value }) => value));
    const after3 = median(points.slice(i, i + STEP_FLIGHTS).map(({ value }) => value));
    if (before2 - after3 > most) [most, at] = [before2 - after3, points[i].at];
  }
  return most >= STEP_SHARE * loss ? at : null;
}

// src/core/health/spread.ts
function spread(cellsMv) {
  const lowestMv = Math.min(...cellsMv);
  const highestMv = Math.max(...cellsMv);
  return { mv: highestMv - lowestMv, lowestCell: cellsMv.indexOf(lowestMv) + 1, lowestMv, highestMv };
}
function socSpreadPercent(chemistry, { lowestMv, highestMv }) {
  return socPercent(chemistry, highestMv) - socPercent(chemistry, lowestMv);
}
function certainSocSpreadPercent(chemistry, cells, meterErrorMv) {
  const top = soc(chemistry, cells.highestMv, meterErrorMv).lowPercent;
  const bottom = soc(chemistry, cells.lowestMv, meterErrorMv).highPercent;
  return Math.max(0, top - bottom);
}

// src/core/health/wear.ts
function cycles({ pack, before: before2, charges, flights }, deepestPercent) {
  const guess = deepestPercent / 100 * pack.capacityMah;
  let charged = 0;
  let unnotedCharges = 0;
  for (const { mode, movedMah } of charges) {
    if (mode === "discharge" || mode === "storage") continue;
    charged += movedMah ?? guess;
    if (movedMah === null) unnotedCharges += 1;
  }
  let used = 0;
  let unnotedFlights = 0;
  for (const { usedMah } of flights) {
    used += usedMah ?? guess;
    if (usedMah === null) unnotedFlights += 1;
  }
  const byCharge = charged >= used;
  return {
    count: (before2?.cycles ?? 0) + (byCharge ? charged : used) / pack.capacityMah,
    guessed: byCharge ? unnotedCharges : unnotedFlights,
    records: (byCharge ? charges : flights).at(-1)?.records ?? []
  };
}
var YEAR_MS2 = 365.25 * DAY_MS;
function ageYears({ pack, receivedAt }, now2) {
  const since = pack.inServiceAt ?? receivedAt;
  return since === null ? null : Math.max(0, now2 - since) / YEAR_MS2;
}

// src/core/health/weakCell.ts
function weakAfterUse(rested, flights, charges) {
  for (const flight of flights.slice().reverse()) {
    const charged = charges.find(({ at }) => at > flight.at)?.startedAt ?? Infinity;
    const reading = rested.find(({ at, byCell }) => byCell && at > flight.at && at <= charged);
    if (!reading || reading.cellsMv.length < 2) continue;
    const { lowestCell: lowestCell2, lowestMv } = spread(reading.cellsMv);
    const siblings = reading.cellsMv.filter((_, i) => i !== lowestCell2 - 1);
    return {
      cell: lowestCell2,
      mv: lowestMv,
      belowMv: Math.round(median(siblings) - lowestMv),
      at: reading.at,
      records: [...flight.records, ...reading.records]
    };
  }
  return null;
}
var DRIFT_USES = 5;
function cellDrift(rested, flights, charges, chemistry) {
  const uses = afterUses(rested, flights, charges);
  if (uses.length < DRIFT_USES * 2) return null;
  const belowIn = ({ cellsMv }) => {
    const percents = cellsMv.map((mv) => socPercent(chemistry, mv));
    return percents.map((percent2, i) => median(percents.filter((_, other2) => other2 !== i)) - percent2);
  };
  const first = uses.slice(0, DRIFT_USES).map(belowIn);
  const latest = uses.slice(-DRIFT_USES).map(belowIn);
  const middle = (list, cell) => median(list.map((one) => one[cell]));
  const drifts = first[0].map((_, cell) => middle(latest, cell) - middle(first, cell));
  const percent = Math.max(...drifts);
  const records2 = uses.slice(-DRIFT_USES).flatMap((one) => one.records);
  return { cell: drifts.indexOf(percent) + 1, percent, records: records2 };
}
function afterUses(rested, flights, charges) {
  const uses = [];
  let [nextReading, nextCharge] = [0, 0];
  for (const [i, flight] of flights.entries()) {
    while (nextReading < rested.length && rested[nextReading].at <= flight.at) nextReading += 1;
    while (nextCharge < charges.length && charges[nextCharge].at <= flight.at) nextCharge += 1;
    const until = Math.min(charges[nextCharge]?.startedAt ?? Infinity, flights[i + 1]?.startedAt ?? Infinity);
    const reading = rested[nextReading];
    if (reading?.byCell && reading.cellsMv.length > 1 && reading.at <= until) uses.push(reading);
  }
  return uses;
}
var DEEP_PERCENT = 30;
function recurrence(rested, charges, chemistry, limits, rule) {
  const weakest = weakestByCharge(rested, charges, chemistry, limits);
  let watched = null;
  for (const [i, { cell: cell2, certain }] of weakest.entries()) {
    if (watched) {
      const again = cell2 === watched.cell;
      watched = {
        cell: watched.cell,
        timesAgain: watched.timesAgain + (again && certain ? 1 : 0),
        soundInARow: again ? 0 : watched.soundInARow + 1
      };
      if (watched.soundInARow < rule.inCharges) continue;
      watched = null;
    }
    const window = weakest.slice(Math.max(0, i + 1 - rule.inCharges), i + 1);
    if (cell2 !== null && window.filter((one) => one.cell === cell2).length >= rule.times)
      watched = { cell: cell2, timesAgain: 0, soundInARow: 0 };
  }
  if (!watched) return null;
  const { cell, timesAgain } = watched;
  const latest = weakest.slice(-rule.inCharges);
  const found = latest.filter((one) => one.cell === cell);
  return {
    cell,
    times: found.length,
    ofCharges: latest.length,
    timesAgain,
    records: found.flatMap(({ records: records2 }) => records2)
  };
}
function weakestByCharge(rested, charges, chemistry, { toleranceMv, watchMv, watchSocPercent }) {
  let next = 0;
  const weakest = [];
  for (const charge of charges) {
    if (charge.mode === "discharge") continue;
    let fresh = null;
    for (; next < rested.length && rested[next].at <= charge.startedAt; next++) {
      fresh = rested[next];
    }
    if (!fresh?.byCell || fresh.cellsMv.length < 2) continue;
    const { mv, lowestCell: lowestCell2, ...ends } = spread(fresh.cellsMv);
    weakest.push({
      cell: mv > toleranceMv ? lowestCell2 : null,
      certain: certainSocSpreadPercent(chemistry, ends, fresh.meterErrorMv) > watchSocPercent && (mv > watchMv || socPercent(chemistry, Math.min(...fresh.cellsMv)) > DEEP_PERCENT),
      records: [...fresh.records, ...charge.records.filter((id) => !fresh.records.includes(id))]
    });
  }
  return weakest;
}

// src/core/assess/caseFile.ts
function caseFile(history, rules, now2) {
  const { rested, undecided } = restedReadings(history, rules);
  const measured = measure(history, rested, rules, now2);
  const latest = rested.at(-1) ?? null;
  return {
    history,
    rules,
    now: now2,
    rested,
    latest,
    undecided,
    current: latest && disturbedSince(history, latest.at) ? null : latest,
    measured,
    contents: measured.carried.contents,
    storage: storageState(history.pack, measured.evidence, rules, now2)
  };
}
function disturbedSince({ charges, flights }, at) {
  return [...charges.slice(-1), ...flights.slice(-1)].some((one) => one.at > at);
}
function restedReadings(history, { restMinutes }) {
  const kept2 = decidable.get(history);
  if (kept2?.restMinutes === restMinutes) return kept2;
  const made = { restMinutes, ...partedByRest(history, restMinutes) };
  decidable.set(history, made);
  return made;
}
var decidable = /* @__PURE__ */ new WeakMap();
function partedByRest(history, restMinutes) {
  const rested = [];
  const disturbed = disturbances(history);
  let next = 0;
  let lastDisturbedAt = null;
  let undecided = null;
  for (const reading of history.readings) {
    while (next < disturbed.length && disturbed[next] <= reading.at) lastDisturbedAt = disturbed[next++];
    const condition = conditionHeld(reading.condition, reading.at, lastDisturbedAt, restMinutes);
    if (condition === "loaded") lastDisturbedAt = reading.at;
    if (condition === "rested" && DECIDES[condition].storage) {
      rested.push(restedReading(reading, history.pack.series));
      undecided = null;
    } else if (condition !== "rested") {
      undecided = { ...reading, condition };
    }
  }
  return { rested, undecided };
}
function disturbances({ flights, charges }) {
  return [...flights.map(({ at }) => at), ...charges.map(({ at }) => at)].sort((a, b) => a - b);
}
function restedReading(reading, series) {
  const { volts, at, meterErrorMv, records: records2 } = reading;
  const cellsMv = volts.of === "cells" ? volts.cellsMv : [Math.round(volts.packMv / series)];
  return { at, cellsMv, byCell: volts.of === "cells", meterErrorMv, records: records2 };
}
function lowestCell(reading) {
  const mv = Math.min(...reading.cellsMv);
  return { cell: reading.byCell ? reading.cellsMv.indexOf(mv) + 1 : null, mv, at: reading.at };
}

// src/core/assess/rules/recovery.ts
function recovery({ history, rules }) {
  const begun2 = history.recoveries.findLast(({ step }) => step === "begun");
  if (!begun2) return [];
  const ended = endOf(history.recoveries, begun2);
  const how = ended?.how ?? "running";
  const severity = how === "running" ? "hold" : how === "reached" ? "watch" : "retire";
  return [
    {
      rule: "recovery",
      severity,
      how,
      at: ended?.at ?? begun2.at,
      endsAt: begun2.at + rules.recovery.minutes * MINUTE_MS,
      records: [...begun2.records, ...ended?.records ?? []]
    }
  ];
}
function endOf(recoveries, begun2) {
  return recoveries.find(
    (event) => event.step === "ended" && event.at >= begun2.at
  );
}

// src/core/assess/release.ts
function releaseNeeds(file2, findings) {
  const all = findings.filter(speaksAgainstUse).flatMap((finding3) => needsOf(file2, finding3));
  return all.filter((need, i) => !all.some((other2, j) => j !== i && covers(other2, need, j < i)));
}
function covers(other2, need, isFirst) {
  const since = (one) => "since" in one ? one.since : "until" in one ? one.until : 0;
  if (other2.need !== need.need) return false;
  if (other2.need === "inspection" && need.need === "inspection" && need.afterCrash && !other2.afterCrash)
    return false;
  const milder = other2.need === "inspection" && need.need === "inspection" && other2.afterCrash && !need.afterCrash;
  if (since(other2) !== since(need)) return since(other2) > since(need);
  return milder || isFirst;
}
function needsOf(file2, finding3) {
  const because = finding3.rule;
  if (isTrend(finding3)) return [{ need: "a-day", because, met: true }];
  switch (finding3.rule) {
    case "incident": {
      if (finding3.severity === "retire" || !INCIDENT_FACTS[finding3.kind].mayReturn)
        return [{ need: "nothing-releases", because, met: false }];
      const since = finding3.watchUntil ?? finding3.at;
      return [
        ...watchNeed(file2, finding3.watchUntil, because),
        inspectionNeed(file2, since, because, finding3.kind === "crash"),
        readingNeed(file2, since, because)
      ];
    }
    case "damage-floor":
    case "over-discharged":
      return overDischargedNeeds(file2, finding3);
    case "hot-charge":
    case "wrong-setting":
    case "charge-implausible":
    case "overfull": {
      const until = newestOf(file2, finding3, finding3.at) + file2.rules.incidents.overnightHours * HOUR_MS;
      return [
        ...watchNeed(file2, until, because),
        inspectionNeed(file2, until, because),
        readingNeed(file2, until, because)
      ];
    }
    case "hot-use":
    case "held-by-hand":
    case "swollen":
      return [inspectionNeed(file2, finding3.at, because), readingNeed(file2, finding3.at, because)];
    case "inspection-failed": {
      const newest = Math.max(
        ...finding3.failures.filter(({ means }) => means === "hold").map(({ at }) => at),
        0
      );
      return [inspectionNeed(file2, newest + 1, because), readingNeed(file2, newest, because)];
    }
    case "recovery":
    case "second-name":
      return finding3.rule === "recovery" && finding3.how === "running" ? [{ need: "recovery", because, met: false, readFrom: null }] : [{ need: "nothing-releases", because, met: false }];
    case "spread":
    case "weak-cell":
    case "cell-drift":
    case "weakest-again":
    case "charge-failed":
    case "shelf-loss":
    case "wears-faster":
    case "cooling":
    case "not-known":
    case "field-charged":
    case "self-storing":
    case "smart-settings":
    case "memory-unread":
    case "own-faults":
    case "balance-due":
    case "charge-habits":
    case "two-hands":
    case "deep-use":
    case "cold-use":
    case "resistance-growth":
    case "resistance-siblings":
    case "resistance-jump":
    case "capacity":
    case "run-time":
    case "long-full":
    case "cycles":
    case "age":
    case "landed-low":
    case "over-discharge-event":
    case "recharge-soon":
    case "storage-high":
    case "storage-low":
    case "storage-pending":
    case "not-rested":
    case "unmeasured":
    case "unlogged":
    case "not-as-delivered":
    case "inspection-asked":
    case "inspection-due":
    case "long-rest":
    case "baseline-missing":
    case "nimh-top-up":
    case "idle":
      return [{ need: "a-day", because, met: true }];
    default:
      return finding3;
  }
}
function overDischargedNeeds(file2, finding3) {
  const { history, rules } = file2;
  const { rule: because } = finding3;
  const since = newestOf(file2, finding3, finding3.low.at);
  if (!isLithium(history.pack.chemistry))
    return [inspectionNeed(file2, since, because), readingNeed(file2, since, because)];
  const { floorMv: recoverableMv } = rules.recovery;
  if (rules.overDischarged === "retire" || finding3.low.mv <= recoverableMv)
    return [{ need: "nothing-releases", because, met: false }];
  const begun2 = history.recoveries.findLast(({ step, at }) => step === "begun" && at >= since);
  const ended = begun2 && endOf(history.recoveries, begun2);
  if (ended && ended.how !== "reached") return [{ need: "nothing-releases", because, met: false }];
  const readFrom = ended ? ended.at + rules.recovery.restHours * HOUR_MS : null;
  const floorMv = rules.floors[history.pack.chemistry].overDischargeMv ?? 0;
  const read = readFrom !== null && file2.rested.some((one) => one.at >= readFrom && lowestCell(one).mv >= floorMv) && lowestCell(file2.rested.at(-1)).mv >= floorMv;
  return [
    inspectionNeed(file2, since, because),
    { need: "recovery", because, met: ended !== void 0 && read, readFrom }
  ];
}
function newestOf({ history }, { records: records2 }, otherwise) {
  const times = timesOf(history);
  return Math.max(otherwise, ...records2.map((id) => times.get(id) ?? 0));
}
function watchedUntil(findings, { incidents: incidents2 }) {
  const ends = findings.filter(speaksAgainstUse).map((finding3) => {
    if (finding3.rule === "incident") return finding3.watchUntil ?? 0;
    if (!RULE_FACTS[finding3.rule].abnormalCharge || !("at" in finding3)) return 0;
    return finding3.at + incidents2.overnightHours * HOUR_MS;
  });
  return Math.max(0, ...ends);
}
function watchNeed({ now: now2 }, until, because) {
  return until === null ? [] : [{ need: "watch-over", because, until, met: now2 >= until }];
}
function inspectionNeed(file2, since, because, afterCrash = false) {
  const newest = file2.history.inspections.findLast(
    ({ at, occasion }) => at >= since && (afterCrash ? occasion === "after-crash" : FULL_OCCASIONS.has(occasion))
  );
  const found = newest ? isSound(file2, newest) ? "sound" : "faults" : "none yet";
  return { need: "inspection", because, since, afterCrash, found, met: found === "sound" };
}
function isSound({ history, rules }, look) {
  const holds = look.items.some(({ key, answer, failMeans }) => {
    const said = rules.checklists[look.occasion].find((item2) => item2.key === key)?.failMeans ?? failMeans;
    return answer === "fail" && meaningOf(key, said) === "hold";
  });
  const baseline = history.inspections.find(({ thicknessMm }) => thicknessMm !== null)?.thicknessMm ?? null;
  const grown = baseline !== null && look.thicknessMm !== null && thickerPercent(look.thicknessMm, baseline) >= rules.swelling.holdPercent;
  return !holds && !grown && (look.swelling === null || look.swelling === "none");
}
function readingNeed(file2, since, because) {
  const { chemistry } = file2.history.pack;
  const { damageMv } = file2.rules.floors[chemistry];
  const { plausibleMaxMv } = CHEMISTRY[chemistry];
  const met = file2.rested.some(
    ({ at, cellsMv }) => at >= since && cellsMv.every((mv) => mv >= damageMv && mv <= plausibleMaxMv)
  );
  return { need: "reading", because, since, met };
}

// src/core/assess/finding.ts
var SEVERITIES = ["note", "watch", "hold", "retire"];
var END_STEPS = [
  "mark-red",
  "drain",
  "pack-apart",
  "verify-empty",
  "verify-again",
  "insulate",
  "bin",
  "consign",
  "hand-over"
];
var STEP_KINDS = [
  "keep-off",
  "inspect-held",
  "read-held",
  "attend-recovery",
  "set-apart",
  "decide",
  "second-name",
  ...END_STEPS,
  "store-up-now",
  "top-up",
  "feel-again",
  "fly-or-drain",
  "measure",
  "measure-rested",
  "store-down",
  "store-up",
  "send-back",
  "mend",
  "inspect-season",
  "complete-baseline",
  "inspect",
  "cycle",
  "re-read",
  "set-smart",
  "read-memory",
  "balance",
  "measure-resistance",
  "measure-again",
  "check-charger",
  "review"
];

// src/core/assess/rules/chargeFailed.ts
function chargeFailed({ history, rules }) {
  const passes = [];
  for (const charge of history.charges.slice().reverse()) {
    if (charge.mode !== "balance" || charge.ending === "taper" || charge.ending === "quick") continue;
    const how = balanceFailure(charge, rules);
    if (how === null) break;
    passes.push({ charge, how });
  }
  const latest = passes[0];
  if (!latest) return [];
  const limit = rules.health.failedBalances;
  const ends = latest.charge.endCellsMv && latest.charge.endCellsMv.length > 1 ? spread(latest.charge.endCellsMv) : null;
  const apart = ends && ends.mv > rules.spread.toleranceMv ? ends : null;
  return [
    {
      rule: "charge-failed",
      severity: passes.length >= limit ? "retire" : "watch",
      at: latest.charge.at,
      how: latest.how,
      cell: apart?.lowestCell ?? null,
      apartMv: apart?.mv ?? null,
      passes: passes.length,
      limit,
      records: passes.flatMap(({ charge }) => charge.records)
    }
  ];
}
function balanceFailure({ ending, balanced, endCellsMv }, { spread: limits }) {
  if (ending === "timed-out" || ending === "error") return ending;
  if (ending !== "complete") return null;
  if (endCellsMv && spread(endCellsMv).mv > limits.toleranceMv) return "ends-apart";
  return balanced === false ? "unbalanced" : null;
}

// src/core/assess/rules/balanceDue.ts
function balanceDue({ history, rules }) {
  const { pack, charges } = history;
  if (!isLithium(pack.chemistry) || pack.series < 2) return [];
  const filled = charges.filter(putsIn);
  const last = filled.findLastIndex(
    (charge) => charge.mode === "balance" && charge.ending === "complete" && balanceFailure(charge, rules) === null
  );
  const since = filled.slice(last + 1);
  const every = rules.charge.balanceEvery;
  if (since.length < every) return [];
  return [
    {
      rule: "balance-due",
      severity: "note",
      charges: since.length,
      every,
      lastAt: filled[last]?.at ?? null,
      records: since.flatMap(({ records: records2 }) => records2)
    }
  ];
}

// src/core/assess/rules/baselineMissing.ts
var BASELINE_RESISTANCES = 3;
var NEW_CHARGES = 5;
function baselineMissing(file2) {
  const dueAt = baselineDueAt(file2);
  if (dueAt === null) return [];
  return [
    {
      rule: "baseline-missing",
      severity: "note",
      resistances: file2.history.resistances.length,
      missing: missing(file2),
      dueAt,
      records: []
    }
  ];
}
function baselineDueAt(file2) {
  const { receivedAt, charges } = file2.history;
  if (receivedAt === null || charges.length > NEW_CHARGES) return null;
  return missing(file2).length === 0 ? null : receivedAt + file2.rules.baselineDays * DAY_MS;
}
function missing({ history }) {
  const { pack, resistances, inspections } = history;
  const byCell = CHEMISTRY[pack.chemistry].cellTaps;
  return [
    ...byCell && resistances.length < BASELINE_RESISTANCES ? ["resistance"] : [],
    ...byCell && inspections.every(({ thicknessMm }) => thicknessMm === null) ? ["thickness"] : [],
    ...inspections.every(({ massG }) => massG === null) ? ["mass"] : []
  ];
}

// src/core/assess/rules/lines.ts
var ROUNDING2 = 1e-9;
function risenTo(value, lines) {
  if (value >= lines.retire - ROUNDING2) return "retire";
  return value >= lines.watch - ROUNDING2 ? "watch" : null;
}

// src/core/assess/rules/capacity.ts
var FOLLOWED = 8;
function capacity({ history, rules, measured }) {
  const latest = measured.capacity.slice(-AGREEING);
  const newest = latest.at(-1);
  const lines = rules.health.capacityPercent;
  if (!newest) return [];
  const below2 = (line) => latest.filter(({ value }) => value <= line + ROUNDING2);
  const [toWatch, toRetire] = [below2(lines.watch), below2(lines.retire)];
  if (toWatch.length === 0) return [];
  const outlook = outlooksKept(history, measured, rules).find((one) => one.measure === "capacity");
  const past = outlook ? alarmsOf(outlook).past : null;
  const sure = past === "retire" || measured.capacity.length < FOLLOWED;
  const severity = toRetire.length >= AGREEING && sure ? "retire" : toWatch.length >= 2 || past === "watch" && toWatch.length > 0 ? "watch" : toWatch.includes(newest) ? "note" : null;
  if (!severity) return [];
  const percent = severity === "note" ? newest.value : median(latest.map(({ value }) => value));
  const agreeing = severity === "retire" ? toRetire.length : toWatch.length;
  const records2 = latest.flatMap((point) => point.records);
  return [{ rule: "capacity", severity, percent, lines, agreeing, records: [...new Set(records2)] }];
}

// src/core/assess/rules/cellDrift.ts
function cellDrift2({ history, rules, rested }) {
  const { pack, flights, charges } = history;
  if (!isLithium(pack.chemistry)) return [];
  const drift = cellDrift(rested, flights, charges, pack.chemistry);
  const limitPercent = rules.spread.watchSocPercent;
  return drift && drift.percent > limitPercent ? [{ rule: "cell-drift", severity: "watch", ...drift, limitPercent }] : [];
}

// src/core/assess/rules/heat.ts
var RECENT_FLIGHTS = 5;
function hotUse(file2) {
  const { history, rules } = file2;
  const { useHoldC, useWatchC } = rules.heat;
  const isScorched = ({ hottestC, felt }) => felt === "hot" || (hottestC ?? 0) > useHoldC;
  const scorched = byAnswer(file2, "hot-use", history.flights.filter(isScorched));
  const recent = history.flights.filter(({ hottestC }) => hottestC !== null).slice(-RECENT_FLIGHTS);
  const hot = recent.filter(({ hottestC }) => hottestC > useWatchC);
  const told4 = (worst2, severity, flights) => worst2 ? [
    {
      rule: "hot-use",
      severity,
      celsius: worst2.hottestC,
      at: worst2.at,
      times: hot.length,
      ofFlights: recent.length,
      limits: rules.heat,
      records: flights.flatMap(({ records: records2 }) => records2)
    }
  ] : [];
  const answered2 = told4(scorched.old.at(-1), "hold", scorched.old);
  if (scorched.fresh.length > 0) return [...told4(scorched.fresh.at(-1), "hold", scorched.fresh), ...answered2];
  const milder = hot.filter((flight) => !isScorched(flight));
  return [...answered2, ...told4(milder.at(-1), "watch", milder)];
}
function hotCharge(file2) {
  const { history, rules } = file2;
  const { chargeHoldC, chargeWatchC, nimhChargeC } = rules.heat;
  const lithium = isLithium(history.pack.chemistry);
  const told4 = (charge, severity, charges) => charge ? [
    {
      rule: "hot-charge",
      severity,
      celsius: charge.temperatureC,
      felt: charge.felt ?? null,
      at: charge.at,
      limits: rules.heat,
      records: charges.flatMap(({ records: records2 }) => records2)
    }
  ] : [];
  const latest = history.charges.findLast(({ temperatureC, felt }) => temperatureC !== null || felt);
  if (!lithium) {
    const stop = latest && (latest.felt === "hot" || (latest.temperatureC ?? 0) > nimhChargeC);
    return stop ? told4(latest, "watch", [latest]) : [];
  }
  const isHot = ({ temperatureC, felt }) => felt === "warm" || felt === "hot" || (temperatureC ?? 0) > chargeHoldC;
  const hot = byAnswer(file2, "hot-charge", history.charges.filter(isHot));
  const answered2 = told4(hot.old.at(-1), "hold", hot.old);
  if (hot.fresh.length > 0) return [...told4(hot.fresh.at(-1), "hold", hot.fresh), ...answered2];
  const isWarm = latest && !isHot(latest) && (latest.temperatureC ?? 0) > chargeWatchC;
  return [...answered2, ...isWarm ? told4(latest, "watch", [latest]) : []];
}
function lukewarmAtEase(charge, capacityMah) {
  return charge.felt === "lukewarm" && (chargeRateC(charge, capacityMah) ?? 1) <= 1;
}
function warmFrom({ history, rules }, at) {
  const ends = [...history.flights, ...history.charges].map((one) => one.at).filter((end) => end <= at);
  const last = Math.max(0, ...ends);
  return at - last < rules.heat.coolMinutes * MINUTE_MS ? last : null;
}

// src/core/assess/rules/chargeHabits.ts
var RECENT_CHARGES = 5;
var COUNTED_CHARGES = 20;
var STEP2 = 1.005;
function chargeHabits(file2) {
  const { pack, charges, flights } = file2.history;
  if (!isLithium(pack.chemistry)) return [];
  const filled = charges.filter(putsIn).slice(-COUNTED_CHARGES);
  const judged = filled.map((charge) => ({ charge, breaches: breachesOf(file2, charge, flights) }));
  const broken = judged.filter(({ breaches }) => breaches.length > 0);
  const latest = judged.slice(-RECENT_CHARGES).findLast(({ breaches }) => breaches.length > 0);
  if (!latest) return [];
  const { at, by } = latest.charge;
  return [
    {
      rule: "charge-habits",
      severity: "note",
      at,
      by,
      breaches: latest.breaches,
      times: broken.length,
      ofCharges: filled.length,
      timesBySame: broken.filter(({ charge }) => charge.by === by).length,
      records: broken.flatMap(({ charge }) => charge.records)
    }
  ];
}
function breachesOf(file2, charge, flights) {
  const { rules, history } = file2;
  const { pack } = history;
  const limits = rules.charge;
  const breaches = [];
  const rateC = chargeRateC(charge, pack.capacityMah);
  const over = (limitC) => rateC !== null && rateC > limitC * STEP2;
  if (pack.chargeC === null && over(1)) breaches.push({ of: "unrated", rateC, limitC: 1 });
  else if (pack.chargeC !== null && over(pack.chargeC))
    breaches.push({ of: "label-rate", rateC, limitC: pack.chargeC });
  if (over(limits.fieldC)) breaches.push({ of: "field-rate", rateC, limitC: limits.fieldC });
  if (over(limits.afterRestC) && isAfterRest(file2, charge))
    breaches.push({ of: "after-rest", rateC, limitC: limits.afterRestC });
  const { topMv } = charge.settings;
  const houseTopMv = isLithium(pack.chemistry) ? rules.topMv[pack.chemistry] : Infinity;
  if (topMv !== null && topMv > houseTopMv) breaches.push({ of: "house-top", topMv, limitMv: houseTopMv });
  if (charge.temperatureC !== null && charge.temperatureC < limits.coldC)
    breaches.push({ of: "cold", celsius: charge.temperatureC, limitC: limits.coldC });
  const landed = flights.findLast(({ at }) => at <= charge.startedAt);
  const minutes = landed ? (charge.startedAt - landed.at) / MINUTE_MS : Infinity;
  if (landed && cameWarm(file2, landed) && minutes < limits.warmLandingMinutes)
    breaches.push({
      of: "warm-landing",
      minutes: Math.round(minutes),
      limitMinutes: limits.warmLandingMinutes
    });
  if (lukewarmAtEase(charge, pack.capacityMah)) breaches.push({ of: "felt-lukewarm" });
  return breaches;
}
function isAfterRest({ history, rules }, charge) {
  const ends = [...history.flights, ...history.charges].map(({ at }) => at).filter((at) => at <= charge.startedAt && at < charge.at);
  const last = ends.length > 0 ? Math.max(...ends) : history.receivedAt;
  return last !== null && charge.startedAt - last >= rules.seasonStartDays * DAY_MS;
}
var COOL_C = 30;
function cameWarm(_file, { hottestC, felt }) {
  return felt === "warm" || felt === "hot" || (hottestC ?? 0) > COOL_C;
}

// src/core/assess/rules/chargeImplausible.ts
function chargeImplausible(file2) {
  const events = file2.measured.odd.map((odd) => ({ ...odd, records: odd.charge.records }));
  const dangerous = byAnswer(
    file2,
    "charge-implausible",
    events.filter((one) => one.dangerous)
  );
  const open = events.filter((one) => !one.dangerous && !isCleared(file2, one)).at(-1);
  return [
    ...finding(file2, dangerous.fresh.at(-1), "hold", dangerous.fresh),
    ...finding(file2, dangerous.old.at(-1), "hold", dangerous.old),
    ...finding(
      file2,
      open,
      open?.oddity === "too-much" && isLithiumNote(file2) ? "note" : "watch",
      open ? [open] : []
    )
  ];
}
function isLithiumNote({ history }) {
  return history.pack.chemistry !== "nimh";
}
function finding(file2, odd, severity, all) {
  if (!odd) return [];
  const { charge, oddity, value, expected } = odd;
  const readSince = file2.rested.some(({ at }) => at > charge.at);
  const records2 = all.flatMap((one) => one.records);
  return [
    { rule: "charge-implausible", severity, at: charge.at, oddity, value, expected, readSince, records: records2 }
  ];
}
function isCleared({ history, rested, measured }, { charge, oddity }) {
  const since = ({ at }) => at > charge.at;
  const read = rested.some(since);
  const looked = history.inspections.some((one) => since(one) && FULL_OCCASIONS.has(one.occasion));
  const decided = history.decisions.some((one) => since(one) && one.what.to === "release");
  if (looked || decided) return true;
  return oddity === "too-fast" ? read && measured.capacity.some(since) : read;
}

// src/core/assess/rules/cooling.ts
function cooling(file2) {
  const warm = file2.history.inspections.findLast((look) => warmth(look) !== null);
  if (!warm || !isJustWarm(file2, warm)) return [];
  const usedAt = warmFrom(file2, warm.at);
  const againFrom = usedAt + file2.rules.heat.coolMinutes * MINUTE_MS;
  return [{ rule: "cooling", severity: "note", usedAt, feltAt: warm.at, againFrom, records: warm.records }];
}
function warmth({ items, felt }) {
  const item2 = items.find(({ key }) => key === "warm");
  if (felt === "hot") return "hot";
  if (felt === "warm" || item2?.answer === "fail")
    return felt === "cool" || felt === "lukewarm" ? "sound" : "warm";
  return felt || item2 ? "sound" : null;
}
function isJustWarm(file2, look) {
  return warmth(look) === "warm" && warmFrom(file2, look.at) !== null;
}

// src/core/assess/rules/damageFloor.ts
function damageFloor(file2) {
  const limitMv = file2.rules.floors[file2.history.pack.chemistry].damageMv;
  return belowDamage(file2, "damage-floor").map((breach) => ({
    rule: "damage-floor",
    severity: "hold",
    limitMv,
    ...breach
  }));
}
function belowDamage(file2, rule) {
  const { damageMv } = file2.rules.floors[file2.history.pack.chemistry];
  const breaches = file2.rested.filter((reading) => lowestCell(reading).mv < damageMv);
  if (breaches.length === 0) return [];
  const { fresh, old } = byAnswer(file2, rule, breaches);
  return [fresh, old].filter((list) => list.length > 0).map(worstOf);
}
function worstOf(readings) {
  const worst2 = readings.reduce((low, one) => lowestCell(one).mv < lowestCell(low).mv ? one : low);
  return { low: lowestCell(worst2), records: readings.flatMap(({ records: records2 }) => records2) };
}

// src/core/assess/rules/fieldCharged.ts
function fieldCharged({ history, rules, storage }) {
  if (storage.state !== "high" || storage.fieldChargedAt === null) return [];
  const at = storage.fieldChargedAt;
  const charge = history.charges.findLast((one) => one.at === at);
  const rateC = charge && chargeRateC(charge, history.pack.capacityMah);
  if (!charge || !rateC) return [];
  const dueAt = at + rules.charge.fieldHours * HOUR_MS;
  return [{ rule: "field-charged", severity: "note", at, rateC, dueAt, records: charge.records }];
}

// src/core/assess/rules/flightHabits.ts
var RECENT_FLIGHTS2 = 5;
var COUNTED_FLIGHTS = 20;
function deepUse({ history, rules, measured }) {
  const limitPercent = rules.flight.maxDodPercent;
  const depth = ({ usedMah }) => usedMah / measured.capacityMah * 100;
  const counted = history.flights.filter(({ usedMah }) => usedMah !== null).slice(-COUNTED_FLIGHTS);
  const deep = counted.filter((flight) => depth(flight) > limitPercent + ROUNDING2);
  const latest = counted.slice(-RECENT_FLIGHTS2).findLast((flight) => deep.includes(flight));
  if (!latest) return [];
  return [
    {
      rule: "deep-use",
      severity: "note",
      at: latest.at,
      pilot: latest.pilot,
      craft: latest.craft,
      percent: depth(latest),
      limitPercent,
      times: deep.length,
      ofFlights: counted.length,
      timesBySame: deep.filter(({ pilot }) => pilot === latest.pilot).length,
      records: deep.flatMap(({ records: records2 }) => records2)
    }
  ];
}
function coldUse({ history, rules }) {
  const latest = history.flights.at(-1);
  const limitC = rules.flight.coldC;
  const celsius = latest?.ambientC ?? null;
  if (!latest || celsius === null || celsius >= limitC) return [];
  const { at, records: records2 } = latest;
  return [{ rule: "cold-use", severity: "note", at, celsius, limitC, records: records2 }];
}

// src/core/assess/rules/heldByHand.ts
function heldByHand(file2) {
  const holds = file2.history.decisions.filter(({ what }) => what.to === "hold");
  const { fresh, old } = byAnswer(file2, "held-by-hand", holds);
  return [fresh, old].flatMap((list) => {
    const latest = list.at(-1);
    if (!latest) return [];
    const { at, reason } = latest;
    const records2 = list.flatMap((one) => one.records);
    return [{ rule: "held-by-hand", severity: "hold", at, reason, records: records2 }];
  });
}

// src/core/assess/rules/idle.ts
function idle(file2) {
  const dueAt = idleDueAt(file2);
  if (dueAt === null || file2.now < dueAt || !file2.latest) return [];
  const { everyDays, doing } = file2.rules.idle;
  return [
    {
      rule: "idle",
      severity: "note",
      lastReadAt: file2.latest.at,
      everyDays,
      doing,
      records: file2.latest.records
    }
  ];
}
function idleDueAt({ history, rules, latest }) {
  return latest && isLithium(history.pack.chemistry) ? latest.at + rules.idle.everyDays * DAY_MS : null;
}

// src/core/assess/rules/incident.ts
function incident({ history, rules }) {
  return history.incidents.filter(({ holds }) => holds).map((event) => {
    const found = event.kind === "crash" ? deformation(history.inspections, event.at) : [];
    const toRetire = !INCIDENT_FACTS[event.kind].mayReturn || event.kind === "crash" && (rules.afterCrash === "retire" || found.length > 0);
    return {
      rule: "incident",
      severity: toRetire ? "retire" : "hold",
      incidentId: event.incidentId,
      kind: event.kind,
      at: event.at,
      watchUntil: watchEnds(event, rules),
      endedEarly: event.endedEarly !== null,
      deformed: found.map(({ asks }) => asks),
      afterCrash: rules.afterCrash,
      records: [...event.records, ...found.flatMap(({ records: records2 }) => records2)]
    };
  });
}
function watchEnds({ kind, at, endedEarly }, rules) {
  const { watch } = INCIDENT_FACTS[kind];
  if (watch === null) return null;
  const { watchMinutes, overnightHours } = rules.incidents;
  const until = at + (watch === "shock" ? watchMinutes * MINUTE_MS : overnightHours * HOUR_MS);
  return endedEarly ? Math.min(until, endedEarly.at) : until;
}
var SHAPE_KEYS = /* @__PURE__ */ new Set(["swelling", "dents", "case"]);
function deformation(inspections, since) {
  return inspections.filter(({ at }) => at >= since).flatMap(
    ({ items, records: records2 }) => items.filter(({ key, answer }) => answer === "fail" && SHAPE_KEYS.has(key)).map(({ asks }) => ({ asks, records: records2 }))
  );
}

// src/core/assess/rules/inspectionAsked.ts
function inspectionAsked({ history }) {
  const asked = history.asked.at(-1);
  if (!asked) return [];
  const { at, reason, records: records2 } = asked;
  const seen = history.inspections.some((look) => look.at >= at && FULL_OCCASIONS.has(look.occasion));
  return seen ? [] : [{ rule: "inspection-asked", severity: "watch", at, reason, records: records2 }];
}

// src/core/assess/rules/inspectionDue.ts
function inspectionDue(file2) {
  const dueAt = inspectionDueAt(file2);
  if (dueAt === null || file2.now < dueAt) return [];
  const last = lastFullInspection(file2);
  return [
    {
      rule: "inspection-due",
      severity: "note",
      lastAt: last?.at ?? null,
      everyDays: file2.rules.inspectionDays,
      dueAt,
      records: last?.records ?? []
    }
  ];
}
function inspectionDueAt(file2) {
  const from = lastFullInspection(file2)?.at ?? file2.history.receivedAt;
  return from === null ? null : from + file2.rules.inspectionDays * DAY_MS;
}
function lastFullInspection({ history }) {
  return history.inspections.findLast(({ occasion }) => FULL_OCCASIONS.has(occasion)) ?? null;
}

// src/core/assess/rules/inspectionFailed.ts
var SEVERITY = { advise: "note", watch: "watch", hold: "hold" };
function inspectionFailed(file2) {
  const holds = [];
  const open = /* @__PURE__ */ new Map();
  for (const look of file2.history.inspections) {
    for (const item2 of answersOf(look)) {
      const { key, asks, note, answer } = item2;
      if (key === "swelling" || key === "warm" && isJustWarm(file2, look)) continue;
      const means = meaning(file2, look, item2);
      const { occasion, at, records: records2 } = look;
      const failure = { key, occasion, at, asks, note, means, records: records2 };
      if (answer === "fail" && means === "hold") holds.push(failure);
      else if (answer === "fail") open.set(key, failure);
      if (answer === "ok" || answer === "fail" && means === "hold") open.delete(key);
    }
  }
  const { fresh, old } = byAnswer(file2, "inspection-failed", holds);
  const held = new Set(fresh.map(({ key }) => key));
  const milder = [...open.values()].filter(({ key }) => !held.has(key));
  return [
    ...told([...latestByItem(fresh), ...fresh.length > 0 ? milder : []]),
    ...told(latestByItem(old)),
    ...fresh.length > 0 ? [] : told(milder)
  ];
}
function answersOf(look) {
  const asked = look.items.some(({ key }) => key === "warm");
  const found = warmth(look);
  const answer = found === "sound" ? "ok" : "fail";
  const items = look.items.map(
    (item2) => item2.key === "warm" && found !== null && item2.answer !== "note" ? { ...item2, answer } : item2
  );
  if (asked || found === null || found === "sound") return items;
  return [
    ...items,
    { key: "warm", asks: "Warmth at rest", failMeans: "hold", answer, note: null, photoIds: [] }
  ];
}
function meaning({ history, rules }, look, { key, failMeans }) {
  if (history.pack.chemistry === "nimh" && key === "case") return "hold";
  const said = rules.checklists[look.occasion].find((item2) => item2.key === key)?.failMeans ?? failMeans;
  return meaningOf(key, said);
}
function latestByItem(failures) {
  const latest = /* @__PURE__ */ new Map();
  for (const failure of failures) {
    const before2 = latest.get(failure.key);
    latest.set(
      failure.key,
      before2 ? { ...failure, records: [...before2.records, ...failure.records] } : failure
    );
  }
  return [...latest.values()];
}
function told(failures) {
  if (failures.length === 0) return [];
  const gravest = [...failures].sort(
    (a, b) => MEANINGS.indexOf(b.means) - MEANINGS.indexOf(a.means) || b.at - a.at
  );
  return [
    {
      rule: "inspection-failed",
      severity: SEVERITY[gravest[0].means],
      failures: gravest.map(({ records: _records, ...failure }) => failure),
      // A release answers what held; a milder failure found later is not new evidence for the hold.
      records: [
        ...new Set(
          gravest.filter(({ means }) => gravest[0].means !== "hold" || means === "hold").flatMap(({ records: records2 }) => records2)
        )
      ]
    }
  ];
}

// src/core/assess/rules/landedLow.ts
var RECENT_FLIGHTS3 = 5;
function landedLow({ history, rules }) {
  const { pack, flights } = history;
  const limitMv = rules.flight.landAtMv[pack.chemistry];
  const read = flights.filter((flight) => lowestLoaded(flight, pack.series) !== null).slice(-RECENT_FLIGHTS3);
  const low = read.filter((flight) => lowestLoaded(flight, pack.series) < limitMv);
  const latest = read.at(-1);
  if (!latest || low.at(-1) !== latest) return [];
  return [
    {
      rule: "landed-low",
      severity: "note",
      mv: lowestLoaded(latest, pack.series),
      at: latest.at,
      limitMv,
      times: low.length,
      ofFlights: read.length,
      records: low.flatMap(({ records: records2 }) => records2)
    }
  ];
}
function lowestLoaded({ landing }, series) {
  if (landing?.condition !== "loaded") return null;
  const { volts } = landing;
  return volts.of === "cells" ? Math.min(...volts.cellsMv) : Math.round(volts.packMv / series);
}

// src/core/assess/rules/longFull.ts
var LOOKED_BACK_DAYS = 365;
function longFull({ history, rules, measured, now: now2 }) {
  const { pack } = history;
  const { chemistry } = pack;
  if (!isLithium(chemistry) || pack.fieldPack) return [];
  const full = fullDays(history, measured.carried, rules, now2);
  const { days } = full;
  const limitDays = rules.health.fullDaysAYear;
  if (days < limitDays) return [];
  const longest = full.longest();
  const records2 = measured.evidence.filter(({ at }) => at >= longest.from && at <= longest.to).flatMap((one) => one.records);
  return [
    {
      rule: "long-full",
      severity: "watch",
      days,
      limitDays,
      longestFrom: longest.from,
      longestTo: longest.to,
      records: records2
    }
  ];
}
function fullDays(history, carried, rules, now2) {
  return fullTimeBetween(history, carried, rules, now2 - LOOKED_BACK_DAYS * DAY_MS, now2);
}

// src/core/assess/rules/longRest.ts
function longRest(file2) {
  const dueAt = seasonStartDueAt(file2);
  if (dueAt === null || file2.now < dueAt) return [];
  const { seasonStartDays } = file2.rules;
  const since = dueAt - seasonStartDays * DAY_MS;
  return [
    { rule: "long-rest", severity: "note", since, days: seasonStartDays, records: lastUse(file2).records }
  ];
}
function seasonStartDueAt(file2) {
  const { at } = lastUse(file2);
  if (at === null) return null;
  const looked = file2.history.inspections.findLast(({ occasion }) => occasion === "season-start")?.at ?? at;
  return Math.max(at, looked) + file2.rules.seasonStartDays * DAY_MS;
}
function lastUse({ history }) {
  const flight = history.flights.at(-1);
  const charge = history.charges.findLast(({ mode }) => mode !== "storage");
  const last = flight && charge ? flight.at > charge.at ? flight : charge : flight ?? charge;
  return { at: last?.at ?? null, records: last?.records ?? [] };
}

// src/core/assess/rules/nimhTopUp.ts
function nimhTopUp(file2) {
  const dueAt = topUpDueAt(file2);
  if (dueAt === null || file2.now < dueAt) return [];
  const everyDays = file2.rules.nimhTopUpDays;
  const records2 = file2.history.charges.at(-1)?.records ?? [];
  return [{ rule: "nimh-top-up", severity: "note", lastAt: dueAt - everyDays * DAY_MS, everyDays, records: records2 }];
}
function topUpDueAt({ history, rules }) {
  const { pack, charges, receivedAt } = history;
  const last = charges.at(-1)?.at ?? receivedAt;
  return pack.chemistry === "nimh" && last !== null ? last + rules.nimhTopUpDays * DAY_MS : null;
}

// src/core/assess/rules/notAsDelivered.ts
function notAsDelivered({ history, rules, rested, now: now2 }) {
  const { pack, receivedAt, before: before2, charges, flights, inspections } = history;
  const receipt = inspections.find(({ occasion }) => occasion === "receipt");
  const first = rested[0];
  if (!receipt || !first || receivedAt === null || !isLithium(pack.chemistry)) return [];
  if (before2 !== null) return [];
  if (now2 - receivedAt > rules.returnDays * DAY_MS) return [];
  if ([...charges, ...flights].some(({ startedAt }) => startedAt <= first.at)) return [];
  const lowestMv = Math.min(...first.cellsMv);
  const highestMv = Math.max(...first.cellsMv);
  const { bandLowMv, bandHighMv } = rules.storage[pack.chemistry];
  const outsideBy = Math.max(0, bandLowMv - lowestMv, highestMv - bandHighMv);
  const spreadMv = highestMv - lowestMv;
  const limits = { arrivalMv: rules.arrivalMv, toleranceMv: rules.spread.toleranceMv };
  if (outsideBy <= limits.arrivalMv && spreadMv <= limits.toleranceMv) return [];
  return [
    {
      rule: "not-as-delivered",
      severity: "watch",
      at: first.at,
      lowestMv,
      highestMv,
      spreadMv,
      outsideBy,
      limits,
      records: [...first.records, ...receipt.records]
    }
  ];
}

// src/core/assess/rules/notKnown.ts
function notKnown(file2) {
  const at = notKnownAt(file2);
  if (at === null || file2.now < at) return [];
  const afterDays = file2.rules.health.unknownDays;
  const since = at - afterDays * DAY_MS;
  return [{ rule: "not-known", severity: "watch", since, afterDays, records: [] }];
}
function notKnownAt({ history, rules, latest }) {
  const { pack, resistances, charges, flights } = history;
  const known2 = [latest?.at, resistances.at(-1)?.at];
  if (!isLithium(pack.chemistry)) known2.push(charges.at(-1)?.at, flights.at(-1)?.at);
  const moments = known2.filter((at) => at !== void 0);
  return moments.length === 0 ? null : Math.max(...moments) + rules.health.unknownDays * DAY_MS;
}

// src/core/assess/rules/notRested.ts
function notRested({ undecided, rules }) {
  if (!undecided) return [];
  const { condition, at, records: records2 } = undecided;
  const restedFrom = at + rules.restMinutes * MINUTE_MS;
  return [{ rule: "not-rested", severity: "note", condition, at, restedFrom, records: records2 }];
}

// src/core/assess/rules/overDischargeEvent.ts
function overDischargeEvent({ history, rules, rested }) {
  const { overDischargeMv, damageMv, rechargeSoonMv } = rules.floors[history.pack.chemistry];
  if (overDischargeMv === null) return [];
  const last = rested.findLastIndex((reading) => {
    const { mv } = lowestCell(reading);
    return mv < overDischargeMv && mv >= damageMv;
  });
  const event = rested[last];
  if (!event) return [];
  const recovered = rested.slice(last + 1).find((reading) => lowestCell(reading).mv >= rechargeSoonMv);
  return [
    {
      rule: "over-discharge-event",
      severity: recovered ? "note" : "watch",
      low: lowestCell(event),
      limitMv: overDischargeMv,
      readSince: recovered ? lowestCell(recovered) : null,
      records: recovered ? [...event.records, ...recovered.records] : event.records
    }
  ];
}

// src/core/assess/rules/overDischarged.ts
function overDischarged(file2) {
  if (!isLithium(file2.history.pack.chemistry)) return [];
  const { overDischarged: school, recovery: recovery2 } = file2.rules;
  return belowDamage(file2, "over-discharged").map((breach) => {
    const recoverable = school === "supervised recovery" && breach.low.mv > recovery2.floorMv;
    return {
      rule: "over-discharged",
      severity: recoverable ? "hold" : "retire",
      school,
      recoveryFromMv: school === "retire" ? null : recovery2.floorMv,
      ...breach
    };
  });
}

// src/core/assess/rules/overfull.ts
function overfull(file2) {
  const { history, rules } = file2;
  const { fullMv } = CHEMISTRY[history.pack.chemistry];
  if (fullMv === null) return [];
  const holdFromMv = fullMv + rules.overfullHoldMv;
  const seen = everySight(file2, fullMv);
  const wrong = byAnswer(
    file2,
    "overfull",
    seen.filter(({ mv }) => mv >= holdFromMv)
  );
  const told4 = (list, severity) => {
    const last = list.at(-1);
    if (!last) return [];
    const { cell, mv, at, when } = last;
    const records2 = [...new Set(list.flatMap((one) => one.records))];
    return [{ rule: "overfull", severity, cell, mv, at, when, fullMv, holdFromMv, records: records2 }];
  };
  const holds = [...told4(wrong.fresh, "hold"), ...told4(wrong.old, "hold")];
  if (wrong.fresh.length > 0) return holds;
  const over = seen.findLast(({ mv, toleranceMv }) => mv > fullMv + toleranceMv && mv < holdFromMv);
  return over && !isCleared2(file2, over) ? [...holds, ...told4([over], "watch")] : holds;
}
function everySight({ history, rules }, fullMv) {
  const { series } = history.pack;
  const read = [];
  for (const { at, volts, meterErrorMv, records: records2 } of history.readings) {
    const cellsMv = volts.of === "cells" ? volts.cellsMv : [Math.round(volts.packMv / series)];
    const top = highest(cellsMv);
    if (top.mv > fullMv) read.push({ at, ...top, toleranceMv: meterErrorMv, when: "read", records: records2 });
  }
  const ends = history.charges.flatMap(
    ({ at, endCellsMv, records: records2 }) => endCellsMv ? [{ at, ...highest(endCellsMv), toleranceMv: rules.charge.endOverMv, when: "charge-end", records: records2 }] : []
  );
  return ends.length === 0 ? read : [...read, ...ends].sort((a, b) => a.at - b.at);
}
function highest(cellsMv) {
  const mv = Math.max(...cellsMv);
  return { cell: cellsMv.indexOf(mv) + 1, mv };
}
function isCleared2({ history, rested }, { at }) {
  const since = (one) => one.at > at;
  return rested.some(since) || history.inspections.some((one) => since(one) && FULL_OCCASIONS.has(one.occasion)) || history.decisions.some((one) => since(one) && one.what.to === "release");
}

// src/core/assess/rules/rechargeSoon.ts
function rechargeSoon(file2) {
  const { history, rules, latest, current, contents, measured } = file2;
  const { chemistry } = history.pack;
  const { rechargeSoonMv } = rules.floors[chemistry];
  const pack = { ...history.pack, capacityMah: measured.capacityMah };
  if (current) {
    const low = lowestCell(current);
    if (low.mv >= rechargeSoonMv) return [];
    const job2 = storageJob(pack, current.cellsMv, rules);
    return [finding2(low, "read", rechargeSoonMv, job2, current.records)];
  }
  if (!contents || !isLithium(chemistry) || contents.basis === "stored") return [];
  if (contents.basis === "used") {
    if (!latest || history.charges.some(({ at }) => at > latest.at)) return [];
    const low = lowestCell(latest);
    return low.mv < rechargeSoonMv ? [finding2(low, "used", rechargeSoonMv, null, latest.records)] : [];
  }
  const cellsMv = contentsMv(chemistry, contents);
  const mv = Math.min(...cellsMv);
  if (mv >= rechargeSoonMv) return [];
  const cell = cellsMv.length > 1 ? cellsMv.indexOf(mv) + 1 : null;
  const job = storageJob(pack, cellsMv, rules);
  return [finding2({ cell, mv, at: contents.since }, contents.basis, rechargeSoonMv, job, contents.records)];
}
function finding2(low, basis, limitMv, job, records2) {
  return { rule: "recharge-soon", severity: "note", low, basis, limitMv, job, records: records2 };
}

// src/core/assess/rules/resistance.ts
function resistanceGrowth(file2) {
  const readings = readingsOf(file2);
  const grown = mostGrown(readings);
  if (!grown) return [];
  const factors = growthOf(readings, grown.cell);
  return told2(file2, "resistance-growth", grown, factors, file2.rules.health.irGrowth);
}
function resistanceSiblings(file2) {
  const readings = readingsOf(file2);
  const last = readings.at(-1);
  const lines = file2.rules.health.irSiblings;
  const lasting = mostApart(readings);
  const newest = last ? apartIn(last) : null;
  const apart = lasting && lasting.factor >= lines.watch - ROUNDING2 ? lasting : newest;
  if (!apart) return [];
  return told2(file2, "resistance-siblings", apart, apartOf(readings, apart.cell), lines);
}
function resistanceJump(file2) {
  const readings = readingsOf(file2);
  const jump = lastJump(readings);
  const limitPercent = file2.rules.health.irJumpPercent;
  if (!jump || jump.factor - 1 <= limitPercent / 100 + ROUNDING2) return [];
  const records2 = readings.slice(-2).flatMap((one) => one.records);
  return [{ rule: "resistance-jump", severity: "note", ...jump, limitPercent, records: records2 }];
}
function readingsOf({ history, measured }) {
  return comparable(history.resistances, measured.oddRecords);
}
function told2(file2, rule, worst2, factors, lines) {
  const past = (line) => factors.filter((factor) => factor >= line - ROUNDING2).length;
  const newest = factors.at(-1) ?? 0;
  const severity = past(lines.retire) >= AGREEING ? "retire" : past(lines.watch) >= 2 || newest >= lines.retire - ROUNDING2 ? "watch" : newest >= lines.watch - ROUNDING2 ? "note" : null;
  if (!severity) return [];
  const agreeing = past(severity === "retire" ? lines.retire : lines.watch);
  const records2 = readingsOf(file2).slice(-AGREEING).flatMap((one) => one.records);
  return [{ rule, severity, ...worst2, lines, agreeing, records: records2 }];
}

// src/core/assess/rules/runTime.ts
function runTime(file2) {
  const { history, rules } = file2;
  const times = runTimes(history.flights, rules.flight.coldC);
  const loss = times && runTimeLoss(times);
  const lines = rules.health.runTimeLossPercent;
  const reached = loss && risenTo(loss.percent, lines);
  if (!times || !loss || !reached) return [];
  const agree = loss.each.filter((percent2) => percent2 >= lines.retire - ROUNDING2).length >= AGREEING;
  const confirmed = loss.stepAt === null || [...capacity(file2), ...resistanceGrowth(file2)].length > 0;
  const severity = reached === "retire" && !(agree && confirmed) ? "watch" : reached;
  const { percent, stepAt, latest } = loss;
  const records2 = latest.flatMap((point) => point.records);
  return [{ rule: "run-time", severity, percent, craft: times.craft, lines, stepAt, records: records2 }];
}

// src/core/assess/rules/secondName.ts
function secondName({ history: { life } }) {
  if (life.state !== "retiring" || life.since === null || life.decidedBy === null) return [];
  return [
    { rule: "second-name", severity: "retire", at: life.since, by: life.decidedBy, records: life.records }
  ];
}

// src/core/assess/rules/shelfLoss.ts
var LEAST_DAYS = 3;
var RECENT_DAYS = 120;
function shelfLoss({ history, rules, rested, now: now2 }) {
  const { pack, charges, flights } = history;
  const { chemistry } = pack;
  if (!isLithium(chemistry) || pack.smart?.autoStorage) return [];
  const worked = [...charges, ...flights];
  const limitPercent = rules.health.leakPercentAWeek;
  for (let i = rested.length - 1; i > 0 && now2 - rested[i].at < RECENT_DAYS * DAY_MS; i--) {
    const to = rested[i];
    const from = rested[i - 1];
    const days = (to.at - from.at) / DAY_MS;
    if (days < LEAST_DAYS) continue;
    if (worked.some(({ at, startedAt }) => at > from.at && startedAt <= to.at)) continue;
    const losses = lostCells(chemistry, from, to);
    const most = Math.max(...losses);
    const percentAWeek = (most - leakedPercent(to.at - from.at)) / days * 7;
    if (percentAWeek <= limitPercent) break;
    if (most > rules.unlogged.fellPercent) break;
    return [
      {
        rule: "shelf-loss",
        severity: "watch",
        cell: to.byCell && losses.length > 1 ? losses.indexOf(most) + 1 : null,
        percentAWeek,
        limitPercent,
        fromAt: from.at,
        toAt: to.at,
        records: [...from.records, ...to.records]
      }
    ];
  }
  return lossAgainAndAgain(chemistry, rested, worked, limitPercent, now2);
}
var REPEATED = 5;
var LEAST_REPEATED_DAYS = 2;
function lossAgainAndAgain(chemistry, rested, worked, limitPercent, now2) {
  const times = [];
  for (let i = rested.length - 1; i > 0 && times.length < REPEATED; i--) {
    const [from, to] = [rested[i - 1], rested[i]];
    const days = (to.at - from.at) / DAY_MS;
    if (now2 - to.at > RECENT_DAYS * DAY_MS) break;
    if (days < LEAST_REPEATED_DAYS || !to.byCell || to.cellsMv.length < 2) continue;
    if (from.cellsMv.length !== to.cellsMv.length) continue;
    if (worked.some(({ at, startedAt }) => at > from.at && startedAt <= to.at)) continue;
    const lost = to.cellsMv.map(
      (mv, c) => socPercent(chemistry, from.cellsMv[c]) - socPercent(chemistry, mv)
    );
    const losses = lost.map((one, c) => (one - median(lost.filter((_, other2) => other2 !== c))) / days * 7);
    times.push({ losses, from, to });
  }
  if (times.length < REPEATED) return [];
  const middles = times[0].losses.map((_, c) => median(times.map(({ losses }) => losses[c])));
  const percentAWeek = Math.max(...middles);
  if (percentAWeek <= limitPercent) return [];
  const records2 = times.flatMap(({ from, to }) => [...from.records, ...to.records]);
  return [
    {
      rule: "shelf-loss",
      severity: "watch",
      cell: middles.indexOf(percentAWeek) + 1,
      percentAWeek,
      limitPercent,
      fromAt: times.at(-1).from.at,
      toAt: times[0].to.at,
      records: [...new Set(records2)]
    }
  ];
}
function lostCells(chemistry, from, to) {
  if (from.cellsMv.length !== to.cellsMv.length) return [0];
  return to.cellsMv.map(
    (mv, i) => soc(chemistry, from.cellsMv[i], from.meterErrorMv).lowPercent - soc(chemistry, mv, to.meterErrorMv).highPercent
  );
}

// src/core/assess/rules/memoryUnread.ts
function memoryUnread({ history: { pack, memories } }) {
  if (!pack.smart) return [];
  const { notReadBack } = asSet(pack.smart, memories);
  if (!notReadBack || notReadBack.did === "read") return [];
  const { did, at, records: records2 } = notReadBack;
  return [{ rule: "memory-unread", severity: "note", did, at, records: records2 }];
}

// src/core/assess/rules/ownFaults.ts
function ownFaults({ history }) {
  const rise = latestFaultRise(history);
  if (!rise || history.inspections.some(({ at }) => at >= rise.to.at)) return [];
  const { from, to, holderId } = rise;
  return [
    {
      rule: "own-faults",
      severity: "note",
      faults: to.faults - from.faults,
      fromAt: from.at,
      toAt: to.at,
      holderId,
      records: [...from.records, ...to.records]
    }
  ];
}
function latestFaultRise(history) {
  const counts = history.counts.filter((one) => one.faults !== null);
  for (let i = counts.length - 1; i > 0; i -= 1) {
    const [from, to] = [counts[i - 1], counts[i]];
    if (to.faults > from.faults) return { from, to, holderId: holderThrough(history, from.at, to.at) };
  }
  return null;
}
function holderThrough({ takings }, fromAt, toAt) {
  const during = takings.filter(({ at, endedAt }) => at < toAt && (endedAt === null || endedAt > fromAt));
  const holders = new Set(during.map(({ holderId }) => holderId));
  return holders.size === 1 ? during[0].holderId : null;
}

// src/core/assess/memoryByRules.ts
function memoryByRules(pack, rules) {
  const { targetMv, bandLowMv, bandHighMv } = rules.storage[pack.chemistry];
  return {
    afterHours: allowance(pack, "high", rules),
    storageMv: targetMv,
    bandLowMv,
    bandHighMv,
    topMv: rules.topMv[pack.chemistry],
    chargeA: Math.min(rules.charge.homeC, pack.chargeC ?? 1) * (pack.capacityMah / 1e3)
  };
}

// src/core/assess/rules/smartSettings.ts
var ROUNDING3 = 0.01;
function smartSettings({ history, rules }) {
  const { pack, memories } = history;
  const { chemistry, smart } = pack;
  if (!smart || !isLithium(chemistry)) return [];
  const { storage, topMv, chargeA, read } = asSet(smart, memories);
  const wrong = [];
  const wanted = memoryByRules({ ...pack, chemistry }, rules);
  if (storage && !storage.isOn) wrong.push({ is: "off" });
  else if (storage?.afterHours != null && storage.afterHours > wanted.afterHours)
    wrong.push({ is: "late", afterHours: storage.afterHours, allowanceHours: wanted.afterHours });
  const { bandLowMv, bandHighMv, chargeA: limitA, topMv: limitMv } = wanted;
  if (storage?.isOn && storage.mv !== null && (storage.mv < bandLowMv || storage.mv > bandHighMv))
    wrong.push({ is: "storage-volts", mv: storage.mv, lowMv: bandLowMv, highMv: bandHighMv });
  if (chargeA !== null && chargeA > limitA * (1 + ROUNDING3))
    wrong.push({ is: "rate", amps: chargeA, limitA });
  if (topMv !== null && topMv > limitMv) wrong.push({ is: "top", mv: topMv, limitMv });
  if (wrong.length === 0) return [];
  return [{ rule: "smart-settings", severity: "note", wrong, records: read?.records ?? [] }];
}

// src/core/assess/rules/spreadRule.ts
var LITTLE = 0.2;
function spreadRule({ history, rules, rested, current }) {
  const { chemistry } = history.pack;
  if (!current?.byCell || !isLithium(chemistry)) return [];
  const { mv, lowestCell: lowestCell2, ...ends } = spread(current.cellsMv);
  const limits = rules.spread;
  if (mv <= limits.toleranceMv) return [];
  const socPercent2 = certainSocSpreadPercent(chemistry, ends, current.meterErrorMv);
  const balanced = balancedBefore(history, rested);
  const inCharge = socSpreadPercent(chemistry, ends);
  const much = inCharge > limits.watchSocPercent * LITTLE;
  const watched = mv > limits.watchMv && much || socPercent2 > limits.watchSocPercent;
  const gone = balanced && mv > limits.retireMv && inCharge > limits.watchSocPercent;
  const severity = gone ? "retire" : watched ? "watch" : "note";
  return [
    {
      rule: "spread",
      severity,
      mv,
      lowestCell: lowestCell2,
      socPercent: Math.max(socPercent2, 0),
      limits,
      balancedAt: balanced?.at ?? null,
      records: balanced ? [...balanced.records, ...current.records] : current.records
    }
  ];
}
function balancedBefore({ charges, flights }, rested) {
  const [before2, latest] = [rested.at(-2), rested.at(-1)];
  const charge = charges.findLast(({ at }) => at <= latest.at);
  if (charge?.mode !== "balance" || charge.ending !== "complete") return null;
  if (before2 && before2.at > charge.at) return null;
  return flights.some(({ at }) => at > charge.at && at <= latest.at) ? null : charge;
}

// src/core/assess/rules/storageBand.ts
function storageBand({
  history,
  rules,
  current,
  contents,
  storage,
  measured
}) {
  const { chemistry } = history.pack;
  if (storage.state === "self-storing") {
    const { since, bledAt, records: records2 } = storage;
    return [{ rule: "self-storing", severity: "note", since, bledAt, records: records2 }];
  }
  if (storage.state !== "high" && storage.state !== "low") return [];
  if (!contents || !isLithium(chemistry)) return [];
  const { bandLowMv, bandHighMv } = rules.storage[chemistry];
  const cellsMv = current?.cellsMv ?? contentsMv(chemistry, contents);
  const lowestMv = Math.min(...cellsMv);
  const mv = storage.state === "high" ? Math.max(...cellsMv) : lowestMv;
  const named = lowestMv < rules.floors[chemistry].rechargeSoonMv;
  const pack = { ...history.pack, capacityMah: measured.capacityMah };
  const job = named ? null : storageJob(pack, cellsMv, rules);
  const rule = `storage-${storage.state}`;
  const basis = current ? "read" : contents.basis;
  return [
    {
      rule,
      severity: "note",
      mv,
      basis,
      bandLowMv,
      bandHighMv,
      clock: storage,
      job,
      records: storage.records
    }
  ];
}

// src/core/assess/rules/storagePending.ts
function storagePending({ storage, rules }) {
  if (storage.state !== "pending") return [];
  const { by, since, records: records2 } = storage;
  const restedFrom = since + rules.restMinutes * MINUTE_MS;
  return [{ rule: "storage-pending", severity: "note", by, since, restedFrom, records: records2 }];
}

// src/core/assess/rules/swollen.ts
function swollen({ history, rules }) {
  const { inspections } = history;
  if (inspections.length === 0) return [];
  const baseline = inspections.find(({ thicknessMm: thicknessMm2 }) => thicknessMm2 !== null) ?? null;
  const limits = rules.swelling;
  const growth = ({ thicknessMm: thicknessMm2 }) => thicknessMm2 === null || !baseline ? null : thickerPercent(thicknessMm2, baseline.thicknessMm);
  const held = inspections.findLast((one) => isFelt(one) || (growth(one) ?? 0) >= limits.holdPercent);
  const measured = inspections.findLast(({ thicknessMm: thicknessMm2 }) => thicknessMm2 !== null);
  const watched = measured && (growth(measured) ?? 0) >= limits.watchPercent ? measured : null;
  const told4 = held ?? watched;
  if (!told4) return [];
  const severity = held ? "hold" : "watch";
  const { at, swelling, thicknessMm } = told4;
  const percent = growth(told4);
  const compared = percent !== null && told4 !== baseline;
  return [
    {
      rule: "swollen",
      severity,
      at,
      swelling: isFelt(told4) ? swelling === "none" ? null : swelling : null,
      thicknessMm,
      baselineMm: compared ? baseline.thicknessMm : null,
      percent: compared ? percent : null,
      limits,
      records: compared ? [...baseline.records, ...told4.records] : told4.records
    }
  ];
}
function isFelt({ swelling, items }) {
  if (swelling === "soft" || swelling === "hard") return true;
  return items.some(({ key, answer }) => key === "swelling" && answer === "fail");
}

// src/core/assess/rules/twoHands.ts
function twoHands({ history: { custody } }) {
  if (!custody?.alsoWith) return [];
  const { holderId, since, recordId, alsoWith } = custody;
  return [
    {
      rule: "two-hands",
      severity: "note",
      first: alsoWith.person,
      firstAt: alsoWith.since,
      second: holderId,
      secondAt: since,
      records: [alsoWith.recordId, recordId].filter((id) => id !== null)
    }
  ];
}

// src/core/assess/rules/unlogged.ts
function unlogged({ history, rules, rested }) {
  const { pack, charges, flights } = history;
  const [from, to] = rested.slice(-2);
  if (!from || !to || !isLithium(pack.chemistry) || charges.length + flights.length === 0) return [];
  const between = ({ at }) => at > from.at && at <= to.at;
  if (charges.some(between) || flights.some(between)) return [];
  const direction = certainRise(pack.chemistry, from, to) > rules.unlogged.rosePercent ? "charge" : !pack.smart?.autoStorage && certainRise(pack.chemistry, to, from) > rules.unlogged.fellPercent ? "use" : null;
  if (!direction) return [];
  return [
    {
      rule: "unlogged",
      severity: "note",
      direction,
      fromAt: from.at,
      toAt: to.at,
      fromMv: Math.min(...from.cellsMv),
      toMv: Math.min(...to.cellsMv),
      records: [...from.records, ...to.records]
    }
  ];
}
function certainRise(chemistry, from, to) {
  const before2 = soc(chemistry, Math.min(...from.cellsMv), from.meterErrorMv).highPercent;
  return soc(chemistry, Math.min(...to.cellsMv), to.meterErrorMv).lowPercent - before2;
}

// src/core/assess/rules/unmeasured.ts
function unmeasured({ storage, rules, latest }) {
  if (storage.state !== "unmeasured") return [];
  const { why, since, records: records2 } = storage;
  const lastReadAt = latest?.at ?? null;
  if (since === null)
    return [{ rule: "unmeasured", severity: "watch", why, since, lastReadAt, restedFrom: null, records: records2 }];
  const restedFrom = why === "used" ? since + rules.restMinutes * MINUTE_MS : since;
  return [{ rule: "unmeasured", severity: "note", why, since, lastReadAt, restedFrom, records: records2 }];
}

// src/core/assess/rules/weakCell.ts
function weakCell({ history, rules, rested }) {
  const weak = weakAfterUse(rested, history.flights, history.charges);
  const lines = rules.health.weakCellMv;
  const reached = weak && risenTo(weak.belowMv, lines);
  const severity = reached && chargeBelow(history.pack.chemistry, weak) <= rules.spread.watchSocPercent ? "note" : reached;
  if (!weak || !severity) return [];
  const { mv: _mv, ...told4 } = weak;
  return [{ rule: "weak-cell", severity, ...told4, lines }];
}
function chargeBelow(chemistry, { mv, belowMv }) {
  if (!isLithium(chemistry)) return 100;
  return socPercent(chemistry, mv + belowMv) - socPercent(chemistry, mv);
}

// src/core/assess/rules/weakestAgain.ts
function weakestAgain({ history, rules, rested }) {
  const { chemistry } = history.pack;
  if (!isLithium(chemistry)) return [];
  const limits = rules.health.recurrence;
  const again = recurrence(rested, history.charges, chemistry, rules.spread, limits);
  if (!again) return [];
  const severity = again.timesAgain >= limits.times ? "retire" : "watch";
  return [{ rule: "weakest-again", severity, ...again, limits }];
}

// src/core/assess/rules/wear.ts
function cycleCount({ history, rules }) {
  const { count: count2, guessed, records: records2 } = cycles(history, rules.flight.maxDodPercent);
  const limit = rules.health.cycles[history.pack.chemistry];
  return count2 >= limit ? [{ rule: "cycles", severity: "watch", count: count2, guessed, limit, records: records2 }] : [];
}
function age({ history, rules, now: now2 }) {
  const years = ageYears(history, now2);
  const { dutyClass } = history.pack;
  const limit = rules.health.ageYears[dutyClass];
  return years !== null && years >= limit ? [{ rule: "age", severity: "watch", years, limit, dutyClass, records: [] }] : [];
}

// src/core/assess/rules/wearsFaster.ts
var NEWS_DAYS2 = 120;
function wearsFaster({ history, rules, measured, now: now2 }) {
  return outlooksKept(history, measured, rules).flatMap((outlook) => {
    const { changed } = alarmsOf(outlook);
    const { lastAt } = outlook.wear;
    if (!changed || now2 - lastAt > NEWS_DAYS2 * DAY_MS) return [];
    const { at: since, how, seen: values } = changed;
    const records2 = outlook.measure === "capacity" ? measured.capacity.slice(-values).flatMap((point) => point.records) : history.resistances.slice(-values).flatMap((reading) => reading.records);
    return [
      {
        rule: "wears-faster",
        severity: "watch",
        measure: outlook.measure,
        how,
        since,
        values,
        lastAt,
        records: [...new Set(records2)]
      }
    ];
  });
}

// src/core/rules/presets.ts
var EVEN_KEEL = {
  preset: "even-keel",
  storage: {
    lipo: { targetMv: 3800, bandLowMv: 3700, bandHighMv: 3850 },
    lihv: { targetMv: 3850, bandLowMv: 3750, bandHighMv: 3900 },
    liion: { targetMv: 3680, bandLowMv: 3550, bandHighMv: 3800 },
    lifepo4: { targetMv: 3280, bandLowMv: 3220, bandHighMv: 3310 }
  },
  allowance: { highHours: 48, lowHours: 24, fieldHighHours: 336 },
  floors: {
    lipo: { rechargeSoonMv: 3500, overDischargeMv: 3200, damageMv: 3e3 },
    lihv: { rechargeSoonMv: 3500, overDischargeMv: 3200, damageMv: 3e3 },
    liion: { rechargeSoonMv: 3200, overDischargeMv: 2800, damageMv: 2500 },
    lifepo4: { rechargeSoonMv: 3e3, overDischargeMv: 2600, damageMv: 2e3 },
    nimh: { rechargeSoonMv: 1e3, overDischargeMv: null, damageMv: 900 }
  },
  topMv: { lipo: 4200, lihv: 4350, liion: 4200, lifepo4: 3600 },
  overfullHoldMv: 50,
  spread: { toleranceMv: 20, watchMv: 50, retireMv: 100, watchSocPercent: 5 },
  charge: {
    homeC: 1,
    fieldC: 2,
    afterRestC: 1,
    fieldHours: 12,
    balanceEvery: 1,
    endOverMv: 10,
    overNotePercent: 105,
    overHoldPercent: 120,
    nimhPercent: 160,
    tooFastPercent: 50,
    tooLongPercent: 200,
    coldC: 5,
    warmLandingMinutes: 30,
    stillHereMinutes: 20
  },
  flight: {
    landAtMv: { lipo: 3500, lihv: 3500, liion: 3100, lifepo4: 2900, nimh: 1e3 },
    maxDodPercent: 80,
    chargedPercent: 80,
    coldC: 10,
    outHours: 48
  },
  health: {
    weakCellMv: { watch: 100, retire: 200 },
    recurrence: { times: 3, inCharges: 5 },
    irGrowth: { watch: 1.5, retire: 2 },
    irSiblings: { watch: 1.3, retire: 2 },
    irJumpPercent: 30,
    capacityPercent: { watch: 80, retire: 70 },
    runTimeLossPercent: { watch: 20, retire: 40 },
    failedBalances: 3,
    fullDaysAYear: 30,
    leakPercentAWeek: 3,
    unknownDays: 90,
    cycles: { lipo: 300, lihv: 300, liion: 500, lifepo4: 1500, nimh: 500 },
    ageYears: { hard: 2, normal: 3, gentle: 5 }
  },
  heat: {
    useWatchC: 55,
    useHoldC: 60,
    chargeWatchC: 40,
    chargeHoldC: 45,
    nimhChargeC: 60,
    coolMinutes: 60
  },
  bleedDays: 6,
  unlogged: { rosePercent: 15, fellPercent: 25 },
  returnDays: 30,
  nimhTopUpDays: 90,
  shelfC: 20,
  afterCrash: "hold, inspect, watch",
  overDischarged: "retire",
  incidents: { watchMinutes: 60, overnightHours: 12 },
  recovery: { minutes: 30, currentC: 0.1, floorMv: 2500, restHours: 24 },
  endOfLife: { reboundHours: 24, confirmDays: 180, handOver: "drained" },
  idle: { everyDays: 30, doing: "read" },
  retirementNames: 1,
  inspectionDays: 60,
  seasonStartDays: 60,
  baselineDays: 14,
  arrivalMv: 100,
  swelling: { watchPercent: 5, holdPercent: 10 },
  stowage: { warmC: 30, mixing: "allowed" },
  checklists: DEFAULT_CHECKLISTS,
  restMinutes: 30
};
var LONG_SERVICE = {
  ...EVEN_KEEL,
  preset: "long-service",
  storage: { ...EVEN_KEEL.storage, lipo: { targetMv: 3800, bandLowMv: 3750, bandHighMv: 3850 } },
  allowance: { highHours: 24, lowHours: 12, fieldHighHours: 168 },
  topMv: { ...EVEN_KEEL.topMv, lipo: 4150 },
  charge: { ...EVEN_KEEL.charge, homeC: 0.5, fieldC: 1 },
  flight: { ...EVEN_KEEL.flight, landAtMv: { ...EVEN_KEEL.flight.landAtMv, lipo: 3700 }, maxDodPercent: 60 },
  afterCrash: "retire",
  idle: { everyDays: 30, doing: "cycle" },
  retirementNames: 2,
  inspectionDays: 30,
  seasonStartDays: 45,
  stowage: { warmC: 25, mixing: "kept apart" }
};
var READY_STATE = {
  ...EVEN_KEEL,
  preset: "ready-state",
  storage: { ...EVEN_KEEL.storage, lipo: { targetMv: 3850, bandLowMv: 3700, bandHighMv: 3900 } },
  allowance: { highHours: 168, lowHours: 48, fieldHighHours: 720 },
  charge: { ...EVEN_KEEL.charge, homeC: 1, fieldC: 3, balanceEvery: 5 },
  spread: { ...EVEN_KEEL.spread, toleranceMv: 30 },
  overDischarged: "supervised recovery",
  idle: { everyDays: 60, doing: "read" },
  inspectionDays: 90,
  seasonStartDays: 90
};
var PRESET_RULES = {
  "long-service": LONG_SERVICE,
  "even-keel": EVEN_KEEL,
  "ready-state": READY_STATE
};
var DEFAULT_PRESET = "even-keel";

// src/core/pack/pack.ts
var DUTY_CLASSES = ["hard", "normal", "gentle"];

// src/core/rules/fields.ts
var figure = (topic, title, path, unit, low, high, whole = true) => ({ topic, title, path, kind: "figure", unit, low, high, whole });
var choice = (topic, title, path, options) => ({
  topic,
  title,
  path,
  kind: "choice",
  options
});
var each = (chemistries, fields) => chemistries.flatMap((chemistry) => fields(chemistry, CHEMISTRY[chemistry].name));
var perChemistry = (chemistries, ...rows) => rows.flatMap((row) => each(chemistries, (of, name) => [row(of, name)]));
var FLOOR_UP_MV = 300;
var practice = PRESET_RULES[DEFAULT_PRESET];
var RULE_FIELDS = [
  ...perChemistry(
    LITHIUM_CHEMISTRIES,
    (of, name) => {
      const range = CHEMISTRY[of].storageRangeMv;
      return figure(
        "storage",
        `Storage target, ${name}`,
        `storage.${of}.targetMv`,
        "V",
        range.low,
        range.high
      );
    },
    (of, name) => figure(
      "storage",
      `Band from, ${name}`,
      `storage.${of}.bandLowMv`,
      "V",
      practice.floors[of].rechargeSoonMv,
      CHEMISTRY[of].storageRangeMv.high
    ),
    (of, name) => figure(
      "storage",
      `Band to, ${name}`,
      `storage.${of}.bandHighMv`,
      "V",
      CHEMISTRY[of].storageRangeMv.low,
      CHEMISTRY[of].fullMv - 100
    )
  ),
  figure("allowance", "Allowance above the band", "allowance.highHours", "h", 1, 336),
  figure("allowance", "Allowance above the band, field packs", "allowance.fieldHighHours", "h", 1, 1440),
  figure("allowance", "Allowance below the band", "allowance.lowHours", "h", 1, 168),
  figure("allowance", "Counts as rested after", "restMinutes", "min", 10, 240),
  ...perChemistry(
    CHEMISTRIES,
    (of, name) => floor("Recharge-soon floor", `floors.${of}.rechargeSoonMv`, name, practice.floors[of].rechargeSoonMv),
    (of, name) => floor("Damage floor", `floors.${of}.damageMv`, name, practice.floors[of].damageMv)
  ),
  ...perChemistry(
    LITHIUM_CHEMISTRIES,
    (of, name) => floor("Over-discharge line", `floors.${of}.overDischargeMv`, name, practice.floors[of].overDischargeMv)
  ),
  choice("over-discharge", "Over-discharged packs", "overDischarged", ["retire", "supervised recovery"]),
  figure("over-discharge", "Supervised recovery, at most", "recovery.minutes", "min", 5, 30),
  figure("over-discharge", "Supervised recovery, current up to", "recovery.currentC", "C", 0.02, 0.1, false),
  figure("over-discharge", "Supervised recovery, every cell above", "recovery.floorMv", "V", 2500, 3e3),
  figure("over-discharge", "Read again after a recovery", "recovery.restHours", "h", 24, 168),
  ...perChemistry(
    LITHIUM_CHEMISTRIES,
    (of, name) => figure(
      "full",
      `Top voltage, ${name}`,
      `topMv.${of}`,
      "V",
      CHEMISTRY[of].fullMv - 200,
      CHEMISTRY[of].fullMv
    )
  ),
  figure("full", "Held when above full by", "overfullHoldMv", "mV", 10, 50),
  figure("full", "Full-charge days in a year, caution", "health.fullDaysAYear", "days", 1, 365),
  figure("full", "A pack that stores itself takes", "bleedDays", "days", 1, 14),
  figure("full", "Shelf taken to be", "shelfC", "\xB0C", 0, 45),
  figure("spread", "Spread in tolerance", "spread.toleranceMv", "mV", 5, 50),
  figure("spread", "Spread for caution, over", "spread.watchMv", "mV", 10, 100),
  figure("spread", "Spread to retire for after balancing, over", "spread.retireMv", "mV", 20, 200),
  figure("spread", "Spread in charge for caution, over", "spread.watchSocPercent", "%", 1, 20),
  figure("spread", "Weak cell after use, caution", "health.weakCellMv.watch", "mV", 20, 200),
  figure("spread", "Weak cell after use, retire", "health.weakCellMv.retire", "mV", 40, 400),
  figure("spread", "Same cell weakest, caution after", "health.recurrence.times", "times", 1, 10),
  figure("spread", "Same cell weakest, within", "health.recurrence.inCharges", "charges", 2, 20),
  figure("spread", "Failed balance charges to retire for", "health.failedBalances", "times", 1, 10),
  figure("resistance", "Against its baseline, caution", "health.irGrowth.watch", "\xD7", 1.1, 3, false),
  figure("resistance", "Against its baseline, retire", "health.irGrowth.retire", "\xD7", 1.2, 5, false),
  figure("resistance", "Against its siblings, caution", "health.irSiblings.watch", "\xD7", 1.1, 3, false),
  figure("resistance", "Against its siblings, retire", "health.irSiblings.retire", "\xD7", 1.2, 5, false),
  figure("resistance", "A jump to measure again, over", "health.irJumpPercent", "%", 5, 100),
  figure("capacity", "Capacity against label, caution", "health.capacityPercent.watch", "%", 50, 99),
  figure("capacity", "Capacity against label, retire", "health.capacityPercent.retire", "%", 40, 95),
  figure("capacity", "Flight time lost, caution", "health.runTimeLossPercent.watch", "%", 5, 60),
  figure("capacity", "Flight time lost, retire", "health.runTimeLossPercent.retire", "%", 10, 80),
  ...perChemistry(
    CHEMISTRIES,
    (of, name) => figure("wear", `Cycles to review at, ${name}`, `health.cycles.${of}`, "cycles", 20, 5e3)
  ),
  ...DUTY_CLASSES.map(
    (duty) => figure("wear", `Age to review at, ${duty} duty`, `health.ageYears.${duty}`, "years", 0.5, 15, false)
  ),
  figure("heat", "In use, caution over", "heat.useWatchC", "\xB0C", 40, 60),
  figure("heat", "In use, hold over", "heat.useHoldC", "\xB0C", 45, 65),
  figure("heat", "Charging, caution over", "heat.chargeWatchC", "\xB0C", 30, 45),
  figure("heat", "Charging, hold over", "heat.chargeHoldC", "\xB0C", 35, 50),
  figure("heat", "NiMH charging, stop over", "heat.nimhChargeC", "\xB0C", 45, 65),
  figure("heat", "May take to cool after a use", "heat.coolMinutes", "min", 15, 120),
  figure("charging", "Charge rate at home", "charge.homeC", "C", 0.1, 3, false),
  figure("charging", "Charge rate in the field", "charge.fieldC", "C", 0.1, 6, false),
  figure("charging", "First charge after a long rest, up to", "charge.afterRestC", "C", 0.1, 1, false),
  figure("charging", "Fly or drain after a field charge within", "charge.fieldHours", "h", 2, 48),
  figure("charging", "Balance every so many charges", "charge.balanceEvery", "charges", 1, 5),
  figure("charging", "End cell above full, caution over", "charge.endOverMv", "mV", 0, 20),
  figure("charging", "Put in of the room there was, note over", "charge.overNotePercent", "%", 101, 115),
  figure("charging", "Put in of the room there was, hold over", "charge.overHoldPercent", "%", 110, 150),
  figure("charging", "Put into a NiMH pack of its label, caution over", "charge.nimhPercent", "%", 120, 250),
  figure("charging", "Too fast under, of the expected minutes", "charge.tooFastPercent", "%", 20, 90),
  figure("charging", "Too long over, of the expected minutes", "charge.tooLongPercent", "%", 120, 400),
  figure("charging", "Too cold to charge below", "charge.coldC", "\xB0C", 0, 15),
  figure("charging", "After a warm landing wait", "charge.warmLandingMinutes", "min", 0, 120),
  figure("charging", "Ask \u201Cstill here?\u201D at a charge every", "charge.stillHereMinutes", "min", 5, 60),
  ...perChemistry(
    CHEMISTRIES,
    (of, name) => figure(
      "flying",
      `Land at, loaded, ${name}`,
      `flight.landAtMv.${of}`,
      "V",
      practice.flight.landAtMv[of],
      CHEMISTRY[of].nominalMv + 100
    )
  ),
  figure("flying", "Deepest use", "flight.maxDodPercent", "%", 20, 90),
  figure("flying", "Counts as charged from", "flight.chargedPercent", "%", 50, 98),
  figure("flying", "Cold below, outside", "flight.coldC", "\xB0C", 0, 20),
  figure("flying", "A pack out is wanted back after", "flight.outHours", "h", 1, 720),
  figure("idle", "Idle lithium, every", "idle.everyDays", "days", 7, 180),
  figure("idle", "Nobody knows after, without a measurement", "health.unknownDays", "days", 30, 365),
  figure("idle", "Lost on the shelf in a week, caution over", "health.leakPercentAWeek", "%", 1, 10, false),
  figure("idle", "Risen with nothing logged, over", "unlogged.rosePercent", "%", 5, 50),
  figure("idle", "Fallen with nothing logged, over", "unlogged.fellPercent", "%", 5, 60),
  choice("idle", "Idle lithium, what", "idle.doing", ["read", "cycle"]),
  figure("idle", "Top a NiMH pack up every", "nimhTopUpDays", "days", 14, 365),
  figure("inspection", "Inspect every", "inspectionDays", "days", 7, 365),
  figure("inspection", "Season-start inspection after a rest of", "seasonStartDays", "days", 14, 365),
  figure("inspection", "Thicker than its baseline, caution from", "swelling.watchPercent", "%", 1, 15, false),
  figure("inspection", "Thicker than its baseline, hold from", "swelling.holdPercent", "%", 2, 20, false),
  figure("inspection", "Baseline complete after receipt within", "baselineDays", "days", 1, 60),
  figure("inspection", "New packs outside their band go back from", "arrivalMv", "mV", 0, 400),
  figure("inspection", "A seller takes a pack back within", "returnDays", "days", 7, 90),
  figure("stowage", "Too warm for a charged pack from", "stowage.warmC", "\xB0C", 20, 40),
  choice("stowage", "Chemistries in one container", "stowage.mixing", ["allowed", "kept apart"]),
  figure("incidents", "Quarantine after a shock", "incidents.watchMinutes", "min", 30, 240),
  figure("incidents", "Outdoors after an abnormal charge", "incidents.overnightHours", "h", 12, 72),
  choice("decisions", "After a crash without deformation", "afterCrash", ["retire", "hold, inspect, watch"]),
  figure("decisions", "Names to retire a pack", "retirementNames", "names", 1, 2),
  figure("end-of-life", "Read again after the last discharge", "endOfLife.reboundHours", "h", 24, 168),
  figure("end-of-life", "Ask a recycler again after", "endOfLife.confirmDays", "days", 30, 730),
  choice("end-of-life", "A sound pack is handed over", "endOfLife.handOver", [
    "drained",
    "drained or at storage charge"
  ])
];
function floor(title, path, name, practiceMv) {
  const topic = title === "Over-discharge line" ? "over-discharge" : "floors";
  return figure(topic, `${title}, ${name}`, path, "V", practiceMv, practiceMv + FLOOR_UP_MV);
}
function withRuleValue(rules, field, value) {
  const [first, ...rest] = field.path.split(".");
  return withValue2(rules, first, rest, value);
}
function withValue2(at, key, rest, value) {
  const [next, ...further] = rest;
  const inner = at[key];
  return { ...at, [key]: next === void 0 ? value : withValue2(inner, next, further, value) };
}

// src/core/assess/rules/wrongSetting.ts
function wrongSetting(file2) {
  const { pack, charges } = file2.history;
  const isDangerous = (charge) => slipsOf(pack, charge).some((slip) => ruins(pack.chemistry, charge.mode, slip));
  const dangerous = byAnswer(file2, "wrong-setting", charges.filter(isDangerous));
  const latest = charges.at(-1);
  const milder = latest && !isDangerous(latest) ? [latest] : [];
  return [
    ...told3(pack, dangerous.fresh, "hold"),
    ...told3(pack, dangerous.old, "hold"),
    ...told3(pack, milder, "watch")
  ];
}
function told3(pack, charges, severity) {
  const charge = charges.at(-1);
  const slips = charge ? slipsOf(pack, charge) : [];
  if (!charge || slips.length === 0) return [];
  const records2 = charges.flatMap((one) => one.records);
  return [{ rule: "wrong-setting", severity, at: charge.at, mode: charge.mode, slips, records: records2 }];
}
function slipsOf(pack, { settings, mode }) {
  const { fullMv } = CHEMISTRY[pack.chemistry];
  const { chemistry, cells, topMv, currentA } = settings;
  const labelA = pack.chargeC === null ? null : pack.chargeC * pack.capacityMah / 1e3;
  const slips = [];
  if (chemistry !== null && chemistry !== pack.chemistry)
    slips.push({ of: "chemistry", set: chemistry, wanted: pack.chemistry });
  if (cells !== null && cells !== pack.series) slips.push({ of: "cells", set: cells, wanted: pack.series });
  if (mode === "discharge") return slips;
  if (topMv !== null && fullMv !== null && topMv > fullMv)
    slips.push({ of: "top", set: topMv, wanted: fullMv });
  if (currentA !== null && labelA !== null && currentA > labelA * ROUNDING4)
    slips.push({ of: "current", set: currentA, wanted: labelA });
  return slips;
}
var ROUNDING4 = 1.005;
var EMPTY_MV = PRESET_RULES[DEFAULT_PRESET].floors;
function ruins(own, mode, slip) {
  const filling = mode !== "discharge";
  switch (slip.of) {
    case "chemistry": {
      if (mode === "discharge") return EMPTY_MV[slip.set].rechargeSoonMv < EMPTY_MV[own].rechargeSoonMv;
      const [set, full] = [CHEMISTRY[slip.set].fullMv, CHEMISTRY[own].fullMv];
      return set === null || full === null || set > full;
    }
    case "cells":
      if (mode === "storage") return true;
      return filling ? slip.set > slip.wanted : slip.set < slip.wanted;
    case "top":
      return true;
    case "current":
      return false;
    default:
      return slip;
  }
}

// src/core/assess/judges.ts
var JUDGES = {
  incident,
  "second-name": secondName,
  recovery,
  "held-by-hand": heldByHand,
  swollen,
  "inspection-failed": inspectionFailed,
  "over-discharged": overDischarged,
  "damage-floor": damageFloor,
  overfull,
  "wrong-setting": wrongSetting,
  "charge-implausible": chargeImplausible,
  "hot-use": hotUse,
  "hot-charge": hotCharge,
  "over-discharge-event": overDischargeEvent,
  "recharge-soon": rechargeSoon,
  cooling,
  unmeasured,
  "not-known": notKnown,
  "field-charged": fieldCharged,
  "self-storing": storageBand,
  "storage-high": "self-storing",
  "storage-low": "self-storing",
  "storage-pending": storagePending,
  spread: spreadRule,
  "weak-cell": weakCell,
  "cell-drift": cellDrift2,
  "weakest-again": weakestAgain,
  "charge-failed": chargeFailed,
  "shelf-loss": shelfLoss,
  "resistance-growth": resistanceGrowth,
  "resistance-siblings": resistanceSiblings,
  "resistance-jump": resistanceJump,
  capacity,
  "run-time": runTime,
  "wears-faster": wearsFaster,
  "not-as-delivered": notAsDelivered,
  "long-full": longFull,
  cycles: cycleCount,
  age,
  "landed-low": landedLow,
  "two-hands": twoHands,
  "deep-use": deepUse,
  "charge-habits": chargeHabits,
  "balance-due": balanceDue,
  "smart-settings": smartSettings,
  "memory-unread": memoryUnread,
  "own-faults": ownFaults,
  "cold-use": coldUse,
  "not-rested": notRested,
  unlogged,
  "inspection-asked": inspectionAsked,
  "long-rest": longRest,
  "baseline-missing": baselineMissing,
  "nimh-top-up": nimhTopUp,
  "inspection-due": inspectionDue,
  idle
};
var RULES = Object.keys(RULE_FACTS).flatMap((id) => {
  const judge = JUDGES[id];
  const { takesOut, timed } = RULE_FACTS[id];
  return typeof judge === "string" ? [] : [{ judge, mayTakeOut: takesOut !== void 0, timed: timed === true }];
});

// src/core/assess/due.ts
function dueTasks(file2) {
  const reading = file2.rules.idle.doing === "cycle" ? "cycle" : "re-read";
  const seasonAt = seasonStartDueAt(file2);
  const inspectAt = inspectionDueAt(file2);
  const covered = seasonAt !== null && inspectAt !== null && seasonAt <= inspectAt;
  return [
    ...task("inspect-season", seasonAt, "long-rest"),
    ...task("complete-baseline", baselineDueAt(file2), "baseline-missing"),
    ...task("inspect", covered ? null : inspectAt, "inspection-due"),
    ...task("top-up", topUpDueAt(file2), "nimh-top-up"),
    ...task(reading, idleDueAt(file2), "idle")
  ].sort((a, b) => a.dueAt - b.dueAt);
}
function task(kind, dueAt, because) {
  return dueAt === null ? [] : [{ do: kind, dueAt, because }];
}

// src/core/assess/steps.ts
function stepsFor(file2, findings, needs, harm) {
  const { life } = file2.history;
  if (!isInService(life)) return endStep(file2, findings, harm);
  const held = findings.find(speaksAgainstUse);
  if (held) return [heldStep(file2, held, findings.filter(speaksAgainstUse), needs)];
  const steps = findings.flatMap((finding3) => stepOf(finding3, file2));
  for (const { do: task2, dueAt, because } of dueTasks(file2)) steps.push({ do: task2, dueAt, because });
  const pressing = steps.sort(byPressure);
  return pressing.filter((step, i) => pressing.findIndex((other2) => other2.do === step.do) === i);
}
function heldStep({ now: now2 }, worst2, held, needs) {
  const by = (rule) => held.find((finding3) => finding3.rule === rule);
  if (by("second-name")) return { do: "second-name", dueAt: null, because: "second-name" };
  const recovery2 = held.find((finding3) => finding3.rule === "recovery");
  if (recovery2?.how === "running")
    return { do: "attend-recovery", dueAt: recovery2.endsAt, because: "recovery" };
  const begun2 = by("incident") ?? by("held-by-hand");
  if (!begun2) return { do: "set-apart", dueAt: null, because: worst2.rule };
  const because = begun2.rule;
  const watched = held.flatMap(
    (finding3) => finding3.rule === "incident" && finding3.watchUntil !== null ? [finding3.watchUntil] : []
  );
  const until = Math.max(...watched, 0);
  if (now2 < until) return { do: "keep-off", dueAt: until, because };
  const lacks = (need) => needs.some((one) => one.need === need && !one.met);
  if (lacks("nothing-releases")) return { do: "decide", dueAt: null, because };
  if (needs.some((one) => one.need === "inspection" && one.found === "none yet"))
    return { do: "inspect-held", dueAt: until || null, because };
  if (lacks("reading")) return { do: "read-held", dueAt: null, because };
  return { do: "decide", dueAt: null, because };
}
var BEFORE_DISCHARGE = /* @__PURE__ */ new Set(["retired", "marked"]);
function endStep(file2, findings, harm) {
  const { rules, now: now2 } = file2;
  const { life } = file2.history;
  const step = (what, dueAt = life.since) => [
    { do: what, dueAt, because: null }
  ];
  const watched = watchedUntil(findings, rules);
  if (BEFORE_DISCHARGE.has(life.state) && now2 < watched) return step("keep-off", watched);
  switch (life.state) {
    case "in-service":
    case "retiring":
    case "recycled":
      return [];
    case "retired":
      return step("mark-red");
    case "marked":
      return step(harm.length > 0 ? "pack-apart" : "drain");
    case "discharging":
      return step("verify-empty");
    case "resting":
      return step("verify-again", (life.since ?? 0) + rules.endOfLife.reboundHours * HOUR_MS);
    case "flat":
    case "unsafe":
      return step("insulate");
    case "insulated":
      return step("bin");
    case "binned":
      return step("consign");
    case "consigned":
      return step("hand-over");
    default:
      return life.state;
  }
}
function stepOf(finding3, file2) {
  const because = finding3.rule;
  switch (finding3.rule) {
    case "unmeasured":
      return [{ do: "measure", dueAt: finding3.restedFrom ?? file2.history.receivedAt, because }];
    case "not-known":
      return [{ do: "measure", dueAt: finding3.since + finding3.afterDays * DAY_MS, because }];
    case "cooling":
      return [{ do: "feel-again", dueAt: finding3.againFrom, because }];
    case "field-charged":
      return [{ do: "fly-or-drain", dueAt: finding3.dueAt, because }];
    case "self-storing":
      return [{ do: "measure-rested", dueAt: finding3.bledAt, because }];
    case "smart-settings":
      return [{ do: "set-smart", dueAt: null, because }];
    case "memory-unread":
      return [{ do: "read-memory", dueAt: null, because }];
    case "own-faults":
      return [{ do: "inspect", dueAt: finding3.toAt, because }];
    case "balance-due":
      return [{ do: "balance", dueAt: null, because }];
    case "wears-faster":
      return [{ do: "measure-again", dueAt: null, because }];
    case "storage-pending":
      return [{ do: "measure-rested", dueAt: finding3.restedFrom, because }];
    case "not-rested":
      return [{ do: "measure-rested", dueAt: finding3.restedFrom, because }];
    case "recharge-soon":
      if (finding3.job?.inTheWay) return [{ do: "balance", dueAt: finding3.low.at, because }];
      if (finding3.basis === "used") return [];
      return [{ do: finding3.job ? "store-up-now" : "top-up", dueAt: finding3.low.at, because }];
    case "storage-high":
      return [{ do: finding3.job?.inTheWay ? "balance" : "store-down", dueAt: finding3.clock.dueAt, because }];
    case "storage-low":
      return [{ do: finding3.job?.inTheWay ? "balance" : "store-up", dueAt: finding3.clock.dueAt, because }];
    case "spread":
      return [{ do: "balance", dueAt: null, because }];
    case "overfull":
      return [{ do: "store-down", dueAt: finding3.at, because }];
    case "over-discharge-event":
      return finding3.readSince || file2.current === null ? [] : [{ do: "store-up-now", dueAt: finding3.low.at, because }];
    case "charge-failed":
      return [{ do: "balance", dueAt: null, because }];
    case "resistance-jump":
      return [{ do: "measure-resistance", dueAt: null, because }];
    case "weak-cell":
    case "cell-drift":
    case "weakest-again":
    case "resistance-growth":
    case "resistance-siblings":
    case "capacity":
    case "run-time":
    case "long-full":
    case "shelf-loss":
    case "cycles":
    case "age":
      return [{ do: "review", dueAt: null, because }];
    case "wrong-setting":
    case "charge-implausible":
    case "hot-charge":
      return [{ do: "check-charger", dueAt: null, because }];
    case "hot-use":
      return [{ do: "review", dueAt: null, because }];
    case "inspection-failed":
      return [{ do: "mend", dueAt: null, because }];
    case "swollen":
      return [{ do: "review", dueAt: null, because }];
    case "not-as-delivered":
      return [{ do: "send-back", dueAt: finding3.at, because }];
    case "inspection-asked":
      return [{ do: "inspect", dueAt: finding3.at, because }];
    case "incident":
    case "held-by-hand":
    case "recovery":
    case "second-name":
      return [{ do: "review", dueAt: null, because }];
    case "long-rest":
    case "baseline-missing":
    case "inspection-due":
    case "landed-low":
    case "two-hands":
    case "deep-use":
    case "cold-use":
    case "charge-habits":
    case "unlogged":
    case "nimh-top-up":
    case "damage-floor":
    case "over-discharged":
    case "idle":
      return [];
    default:
      return finding3;
  }
}
function byPressure(a, b) {
  return pressureClass(a) - pressureClass(b) || (a.dueAt ?? 0) - (b.dueAt ?? 0) || STEP_KINDS.indexOf(a.do) - STEP_KINDS.indexOf(b.do);
}
function pressureClass(step) {
  if (step.because !== null && RULE_FACTS[step.because].asks === "routine") return 3;
  if (step.do === "store-up-now" || step.do === "top-up") return 0;
  return step.dueAt === null ? 2 : 1;
}

// src/core/assess/assess.ts
var timeless2 = /* @__PURE__ */ new WeakMap();
function findingsOf(file2) {
  const { history, rules } = file2;
  let kept2 = timeless2.get(history);
  if (kept2?.rules !== rules) {
    kept2 = {
      rules,
      found: new Map(RULES.filter(({ timed }) => !timed).map(({ judge }) => [judge, judge(file2)]))
    };
    timeless2.set(history, kept2);
  }
  const { found } = kept2;
  return RULES.flatMap(({ judge }) => found.get(judge) ?? judge(file2));
}
function assess(history, rules, now2) {
  const file2 = caseFile(history, rules, now2);
  const weighed = [...answered(file2, findingsOf(file2))].sort(worstFirst);
  const { life } = history;
  const verdict = verdictOf(life, weighed);
  const findings = isOutOfUse(verdict) ? weighed.filter(({ rule }) => RULE_FACTS[rule].asks === void 0) : weighed;
  const decides = isOutOfUse(verdict) && isInService(life);
  const needs = decides ? releaseNeeds(file2, findings) : [];
  const harm = harmOf(findings);
  return {
    verdict,
    mayFly: isOutOfUse(verdict) ? "no" : mayFly(findings),
    charged: chargedOf(file2),
    findings,
    storage: file2.storage,
    steps: stepsFor(file2, findings, needs, harm),
    due: isOutOfUse(verdict) ? [] : dueTasks(file2),
    life,
    watch: watchOf(file2, findings),
    outSince: decides ? outSince(history, findings) : null,
    needs,
    harm,
    latest: file2.latest,
    contents: file2.contents,
    capacityMah: file2.measured.capacityMah
  };
}
var VERDICT_OF = {
  note: "fit",
  watch: "watch",
  hold: "hold",
  retire: "retire-advised"
};
function verdictOf(life, findings) {
  if (life.state === "recycled") return "recycled";
  return isInService(life) ? VERDICT_OF[findings[0]?.severity ?? "note"] : "retired";
}
function mayFly(findings) {
  const doubtful = (finding3) => finding3.rule === "charge-implausible" && finding3.oddity === "too-fast" && !finding3.answered;
  if (findings.some((finding3) => RULE_FACTS[finding3.rule].beforeFlying === "measure" || doubtful(finding3)))
    return "measure-first";
  return findings.some(({ rule }) => RULE_FACTS[rule].beforeFlying === "look") ? "inspect-first" : "yes";
}
function watchOf({ history, now: now2 }, findings) {
  const serving = isInService(history.life);
  const watched = findings.flatMap(
    (finding3) => finding3.rule === "incident" && finding3.watchUntil !== null && speaksAgainstUse(finding3) ? [{ incidentId: finding3.incidentId, from: finding3.at, until: finding3.watchUntil }] : []
  );
  const open = watched.filter(
    ({ until }) => serving ? !history.inspections.some(({ at }) => at >= until) : now2 < until
  );
  return open.sort((a, b) => b.until - a.until)[0] ?? null;
}
function outSince(history, findings) {
  const times = timesOf(history);
  const starts = findings.filter(speaksAgainstUse).map(({ records: records2 }) => {
    const known2 = records2.flatMap((id) => times.get(id) ?? []);
    return known2.length > 0 ? Math.max(...known2) : history.lastRecordAt ?? 0;
  });
  return starts.length > 0 ? Math.min(...starts) : null;
}
function worstFirst(a, b) {
  return SEVERITIES.indexOf(b.severity) - SEVERITIES.indexOf(a.severity);
}

// src/server/calendar/routes.ts
import { Router } from "express";

// src/server/platform/http.ts
import { z } from "zod";

// src/server/platform/shared.ts
import { IsolationLevel } from "@mikro-orm/postgresql";
import { promisify } from "node:util";
import { brotliCompress, constants, gzip } from "node:zlib";
var MOST_BYTES = 32 * 1024 * 1024;
var brotli = promisify(brotliCompress);
var zipped = promisify(gzip);

// src/server/calendar/service.ts
import ical, { ICalCalendarMethod } from "ical-generator";

// src/server/people/entities.ts
import { defineEntity, p } from "@mikro-orm/postgresql";
var Person = defineEntity({
  name: "Person",
  tableName: "person",
  properties: {
    id: p.uuid().primary().$type(),
    name: p.text(),
    login: p.text(),
    role: p.text().$type(),
    passwordHash: p.text().nullable(),
    active: p.boolean(),
    version: p.integer().version()
  }
});

// src/server/platform/columns.ts
import { Type, p as p2 } from "@mikro-orm/postgresql";
var InstantType = class extends Type {
  convertToDatabaseValue(value) {
    return value === null || value === void 0 ? null : new Date(value).toISOString();
  }
  convertToJSValue(value) {
    return value === null || value === void 0 ? null : new Date(value).getTime();
  }
  getColumnType() {
    return "timestamptz";
  }
};
var instantColumn = () => p2.type(InstantType).$type();
function asInstant(expression) {
  return `round(extract(epoch from ${expression}) * 1000)::float8`;
}
function timestamp(at) {
  return at === null ? null : new Date(at).toISOString();
}

// src/server/calendar/service.ts
var LASTS_MS = 30 * MINUTE_MS;

// src/server/charging/routes.ts
import { Router as Router2 } from "express";

// src/server/charging/attendance.ts
import { v7 as newId } from "uuid";

// src/server/platform/live.ts
import { Client } from "pg";
var MOST_UNREAD_BYTES = 256 * 1024;

// src/server/charging/attendance.ts
var COLUMNS = `id, version, person_id as "personId", ${asInstant("from_at")} as "from", ${asInstant("to_at")} as "to"`;

// src/server/ledger/hash.ts
import { stringify } from "safe-stable-stringify";
var FIRST_LINK = "0".repeat(64);

// src/server/ledger/rows.ts
var RECORD_COLUMNS = `pack_id, seq, id, kind, ${asInstant("at")} as at, ${asInstant("recorded_at")} as recorded_at, by, payload,
  supersedes, rules_version, prev_hash, hash`;
async function recordsOf(em, packId, afterSeq = 0) {
  const rows = await em.execute(
    `select ${RECORD_COLUMNS} from record where pack_id = ? and seq > ? order by seq`,
    [packId, afterSeq]
  );
  return rows.map(chainedRecord);
}
async function recordsOfMany(em, ids) {
  const rows = await em.execute(
    `select ${RECORD_COLUMNS} from record where pack_id = any(?::uuid[]) order by pack_id, seq`,
    [`{${ids.join(",")}}`]
  );
  const byPack = /* @__PURE__ */ new Map();
  for (const row of rows) {
    const { record } = chainedRecord(row);
    const known2 = byPack.get(record.packId);
    if (known2) known2.push(record);
    else byPack.set(record.packId, [record]);
  }
  return byPack;
}
function chainedRecord(row) {
  const record = {
    id: row.id,
    packId: row.pack_id,
    seq: row.seq,
    kind: row.kind,
    at: row.at,
    recordedAt: row.recorded_at,
    by: row.by,
    payload: row.payload,
    supersedes: row.supersedes,
    rulesVersion: row.rules_version
  };
  return { record, prevHash: row.prev_hash, hash: row.hash };
}
var FACTS_OF = `select p.id, p.field_pack, p.smart, ${asInstant("p.in_service_at")} as in_service_at, t.chemistry, t.series,
         t.parallel, t.capacity_mah, t.continuous_c, t.burst_c, t.charge_c, t.duty_class
    from pack p join pack_type t on t.id = p.type_id`;
var TEMPERATURES = `select place_id as "placeId", ${asInstant("since")} as since, celsius
  from place_temperature order by since, place_id`;
async function placeTemperatures(em) {
  return em.execute(TEMPERATURES);
}
async function allFacts(em, ids) {
  const rows = await em.execute(`${FACTS_OF} where p.id = any(?::uuid[]) order by p.id`, [
    `{${ids.join(",")}}`
  ]);
  return rows.map(factsOf);
}
function factsOf(row) {
  return {
    id: row.id,
    fieldPack: row.field_pack,
    smart: row.smart,
    inServiceAt: row.in_service_at,
    chemistry: row.chemistry,
    series: row.series,
    parallel: row.parallel,
    capacityMah: row.capacity_mah,
    continuousC: row.continuous_c,
    burstC: row.burst_c,
    chargeC: row.charge_c,
    dutyClass: row.duty_class
  };
}

// src/server/ledger/rulesInForce.ts
var NEWEST_RULES = `select version, rules::text as rules, ${asInstant("adopted_at")} as adopted_at
  from rule_set order by version desc limit 1`;
async function layDownFirstRules(em, now2) {
  await em.execute(
    `insert into rule_set (version, rules, adopted_at, adopted_by, reason) values (1, ?::jsonb, ?, null, ?)
     on conflict (version) do nothing`,
    [JSON.stringify(PRESET_RULES[DEFAULT_PRESET]), timestamp(now2), "The register\u2019s first rules"]
  );
}

// src/server/ledger/keptLedgers.ts
import { LRUCache } from "lru-cache";
var MOST_RECORDS = 5e4;
var KeptLedgers = class {
  #kept;
  constructor(mostRecords = MOST_RECORDS) {
    this.#kept = new LRUCache({
      maxSize: mostRecords,
      sizeCalculation: ({ records: records2 }) => Math.max(1, records2.length)
    });
  }
  /** All records of a pack up to this head, in the order they arrived. */
  async upTo(em, packId, head) {
    if (!head) return [];
    const kept2 = this.#kept.get(packId);
    if (kept2?.hash === head.hash && kept2.records.length === head.seq) return kept2.records;
    const isBehind = kept2 !== void 0 && kept2.records.length < head.seq;
    const since = isBehind ? await recordsOf(em, packId, kept2.records.length) : [];
    const follows = since[0]?.prevHash === kept2?.hash;
    const chained = isBehind && follows ? since : await recordsOf(em, packId);
    const before2 = isBehind && follows ? kept2.records : [];
    const records2 = [...before2, ...chained.map(({ record }) => record)];
    this.#kept.set(packId, { records: records2, hash: chained.at(-1).hash });
    return records2;
  }
  /** Begins again with nothing, like a process that was just started. */
  clear() {
    this.#kept.clear();
  }
  /** Keeps what was written after these records. Should the transaction come to nothing, its head is never asked for. */
  add(packId, before2, fresh) {
    const records2 = [...before2, ...fresh.map(({ record }) => asStored(record))];
    this.#kept.set(packId, { records: records2, hash: fresh.at(-1).hash });
  }
};
function asStored(record) {
  return { ...record, payload: JSON.parse(JSON.stringify(record.payload)) };
}
var kept = new KeptLedgers();

// src/server/flying/entities.ts
import { defineEntity as defineEntity2, p as p3 } from "@mikro-orm/postgresql";
var Craft = defineEntity2({
  name: "Craft",
  tableName: "craft",
  properties: {
    id: p3.uuid().primary().$type(),
    name: p3.text(),
    inUse: p3.boolean(),
    facts: p3.json().$type(),
    version: p3.integer().version()
  }
});

// src/server/flying/craft.ts
import { v7 as newId2 } from "uuid";

// src/server/flying/days.ts
import { v7 as newId3 } from "uuid";
var DAY_COLUMNS = `id, version, ${asInstant("at")} as at, place, craft, wants, people as "personIds",
  hand_out as "handOut", cancelled`;

// src/server/register/entities.ts
import { defineEntity as defineEntity3, p as p4 } from "@mikro-orm/postgresql";
var PackType = defineEntity3({
  name: "PackType",
  tableName: "pack_type",
  properties: {
    id: p4.uuid().primary().$type(),
    name: p4.text(),
    chemistry: p4.text().$type(),
    series: p4.integer(),
    parallel: p4.integer(),
    capacityMah: p4.integer(),
    continuousC: p4.double().nullable().$type(),
    burstC: p4.double().nullable().$type(),
    chargeC: p4.double().nullable().$type(),
    connector: p4.text().nullable(),
    balancePlug: p4.text().nullable(),
    massG: p4.double().nullable().$type(),
    price: p4.double().nullable().$type(),
    dutyClass: p4.text().$type(),
    version: p4.integer().version()
  }
});
var Place = defineEntity3({
  name: "Place",
  tableName: "place",
  properties: {
    id: p4.uuid().primary().$type(),
    name: p4.text(),
    kind: p4.text().$type(),
    fireResistant: p4.boolean(),
    metal: p4.text().$type(),
    code: p4.text().nullable().$type(),
    codeKey: p4.text().nullable().$type(),
    capacity: p4.integer().nullable().$type(),
    slots: p4.integer(),
    celsius: p4.double().nullable().$type(),
    map: p4.json().nullable().$type(),
    setApart: p4.boolean(),
    limitKg: p4.double().nullable().$type(),
    limitWh: p4.double().nullable().$type(),
    version: p4.integer().version()
  }
});
var Recycler = defineEntity3({
  name: "Recycler",
  tableName: "recycler",
  properties: {
    id: p4.uuid().primary().$type(),
    name: p4.text(),
    contact: p4.text().nullable().$type(),
    chemistries: p4.json().$type(),
    takesDamaged: p4.boolean(),
    takesCharged: p4.boolean(),
    limitKg: p4.double().nullable().$type(),
    confirmedAt: instantColumn().nullable().$type(),
    active: p4.boolean(),
    version: p4.integer().version()
  }
});
var Instrument = defineEntity3({
  name: "Instrument",
  tableName: "instrument",
  properties: {
    id: p4.uuid().primary().$type(),
    name: p4.text(),
    errorMv: p4.integer(),
    version: p4.integer().version()
  }
});
var Equipment = defineEntity3({
  name: "Equipment",
  tableName: "equipment",
  properties: {
    id: p4.uuid().primary().$type(),
    name: p4.text(),
    inUse: p4.boolean(),
    facts: p4.json().$type(),
    version: p4.integer().version()
  }
});

// src/server/register/places.ts
import { v7 as newId4 } from "uuid";

// src/server/packs/entities.ts
import { defineEntity as defineEntity4, p as p5 } from "@mikro-orm/postgresql";
var Pack = defineEntity4({
  name: "Pack",
  tableName: "pack",
  properties: {
    id: p5.uuid().primary().$type(),
    tag: p5.text(),
    tagKey: p5.text(),
    typeId: p5.uuid().$type(),
    owner: p5.text().nullable(),
    homePlaceId: p5.uuid().nullable().$type(),
    inServiceAt: instantColumn().nullable().$type(),
    fieldPack: p5.boolean(),
    smart: p5.json().nullable().$type(),
    deliveryId: p5.uuid().nullable().$type(),
    version: p5.integer().version()
  }
});
var PackTag = defineEntity4({
  name: "PackTag",
  tableName: "pack_tag",
  properties: {
    key: p5.text().primary(),
    tag: p5.text(),
    packId: p5.uuid().$type(),
    since: instantColumn(),
    until: instantColumn().nullable().$type()
  }
});

// src/server/packs/rows.ts
var PACK_ROW_COLUMNS = `
  p.id, p.tag, p.type_id as "typeId", p.owner, p.home_place_id as "homePlaceId", p.field_pack as "fieldPack",
  s.place_id as "placeId", s.slot, s.holder_id as "holderId", ${asInstant("s.received_at")} as "receivedAt",
  ${asInstant("s.used_at")} as "usedAt", s.tasks, s.verdict, s.may_fly as "mayFly", s.charged, s.basis,
  s.cells_mv as "cellsMv", s.by_cell as "byCell", ${asInstant("s.read_at")} as "readAt", s.soc_percent as "socPercent",
  s.storage, ${asInstant("s.since")} as since, ${asInstant("s.due_at")} as "dueAt",
  s.allowance_hours as "allowanceHours", s.life, ${asInstant("s.out_since")} as "outSince",
  ${asInstant("s.watch_from")} as "watchFrom", ${asInstant("s.watch_until")} as "watchUntil", p.delivery_id as "deliveryId",
  p.smart is not null as smart, coalesce((s.flying ->> 'cycles')::float8, 0) as cycles,
  coalesce((s.bench ->> 'capacityMah')::float8, 0) as "capacityMah", s.flying -> 'out' as out, s.flying -> 'owed' as owed, s.seq, p.version`;
function stepColumn(which) {
  return `case when s.${which}_do is null then null
    else json_build_object('do', s.${which}_do, 'dueAt', ${asInstant(`s.${which}_due_at`)}) end as next`;
}

// src/server/register/places.ts
var ALWAYS = Date.UTC(2e3, 0, 1);

// src/server/register/recyclers.ts
import { v7 as newId5 } from "uuid";

// src/server/charging/service.ts
var JOB_COLUMNS = `j.id, j.state, j.kind as "do", j.equipment_id as "equipmentId", j.channel, j.board_id as "boardId",
  j.adapter_id as "adapterId", j.setting, ${asInstant("j.start_at")} as start, ${asInstant("j.end_at")} as "end",
  j.peak_w as "peakW", j.locked, j.reason, ${asInstant("j.flight_at")} as "flightAt", j.started_by as "startedBy",
  j.attendant_id as "attendantId", ${asInstant("j.seen_at")} as "seenAt", j.gate,
  (select json_agg(p.pack_id order by p.slot) from charge_job_pack p where p.job_id = j.id) as "packIds"`;
var SENT_LATE_MS = 15 * MINUTE_MS;

// src/server/devices/devices.ts
var COLUMNS2 = `d.id, d.version, d.name, d.kind, d.instrument_id as "instrumentId", d.equipment_id as "equipmentId", d.patterns,
  d.made_by as "madeBy", ${asInstant("d.made_at")} as "madeAt", ${asInstant("d.ended_at")} as "endedAt", d.hash is not null as "hasKey",
  coalesce(s.is_open, false) as "isOpen", coalesce(s.can_stop, false) as "canStop", coalesce(s.can_write, false) as "canWrite", ${asInstant("s.seen_at")} as "seenAt", s.software,
  s.taken_by as "takenBy", s.taken_page as "takenPage", s.meter, s.memory, coalesce(s.channels, '{}') as channels, s.problem`;

// src/server/devices/door.ts
import { WebSocketServer } from "ws";

// src/server/devices/conversation.ts
import { v7 as newId7 } from "uuid";
import { z as z2 } from "zod";

// src/server/devices/curves.ts
import { v7 as newId6 } from "uuid";

// src/server/devices/door.ts
var LARGEST_MESSAGE = 64 * 1024;

// src/server/devices/routes.ts
import { Router as Router3 } from "express";

// src/server/exchange/routes.ts
import { Router as Router4 } from "express";

// src/server/platform/csv.ts
import Papa from "papaparse";

// src/server/exchange/imports.ts
import { v7 as newId8 } from "uuid";
var IMPORT_COLUMNS = `i.id, i.kind, i.file_name as "fileName", i.digest, i.columns_key as "columnsKey", i.reading, i.lines, i.refused,
  i.by, ${asInstant("i.started_at")} as "startedAt", ${asInstant("i.ended_at")} as "endedAt",
  i.taken_back_by as "takenBackBy", ${asInstant("i.taken_back_at")} as "takenBackAt",
  (select count(*)::int from import_pack n where n.import_id = i.id) as packs,
  (select count(*)::int from import_record n where n.import_id = i.id) as records`;

// src/server/platform/pdf.ts
import { createRequire } from "node:module";
var files = createRequire(import.meta.url);
var face = (family, weight) => files.resolve(
  `@fontsource/atkinson-hyperlegible-${family}/files/atkinson-hyperlegible-${family}-latin-${weight}-normal.woff`
);
var FACES = [face("mono", 400), face("mono", 700), face("next", 400), face("next", 700)];

// src/server/exchange/writeArchive.ts
import { IsolationLevel as IsolationLevel2 } from "@mikro-orm/postgresql";

// src/server/exchange/routes.ts
var EARLIEST = Date.UTC(2e3, 0, 1);

// src/server/flying/routes.ts
import { Router as Router5 } from "express";

// src/server/incidents/routes.ts
import { Router as Router6 } from "express";

// src/server/labels/routes.ts
import { Router as Router7 } from "express";

// src/server/labels/sheet.ts
var PT_PER_MM = 72 / 25.4;

// src/server/ledger/routes.ts
import { Router as Router8 } from "express";

// src/server/packs/routes.ts
import { Router as Router9 } from "express";

// src/server/packs/histories.ts
var PAGE_RECORDS = 8e3;
var MOST_PACKS = 100;
async function histories(em, after3, named) {
  const which = named ? "and pack_id = any(?::uuid[])" : "and not empty";
  const params = named ? [`{${named.join(",")}}`] : [];
  const [counted] = await em.execute(
    `select count(*)::int as total from pack_state where true ${which}`,
    params
  );
  const candidates = await em.execute(
    `select pack_id as id, seq as records from pack_state where (?::uuid is null or pack_id > ?::uuid) ${which}
      order by pack_id limit ${MOST_PACKS}`,
    [after3, after3, ...params]
  );
  const ids = [];
  let records2 = 0;
  for (const candidate of candidates) {
    if (ids.length > 0 && records2 + candidate.records > PAGE_RECORDS) break;
    ids.push(candidate.id);
    records2 += candidate.records;
  }
  const facts2 = await allFacts(em, ids);
  const byPack = await recordsOfMany(em, ids);
  return {
    placeTemperatures: await placeTemperatures(em),
    packs: facts2.map((pack) => ({ facts: pack, records: byPack.get(pack.id) ?? [] })),
    next: ids.length < candidates.length || candidates.length === MOST_PACKS ? ids.at(-1) : null,
    total: counted.total
  };
}

// src/server/people/routes.ts
import { Router as Router10 } from "express";
import { v7 as newId9 } from "uuid";

// src/server/people/passwords.ts
import { hash, verify } from "@node-rs/argon2";

// src/server/people/keyRoutes.ts
import { Router as Router11 } from "express";

// src/server/people/keys.ts
var COLUMNS3 = `k.id, k.name, k.role, k.person_id as "personId", ${asInstant("k.made_at")} as "madeAt", ${asInstant("k.ends_at")} as "endsAt",
  ${asInstant("k.ended_at")} as "endedAt", ${asInstant("k.used_at")} as "usedAt"`;

// src/server/people/sessionRoutes.ts
import { Router as Router12 } from "express";
import { v7 as newId10 } from "uuid";

// src/server/people/sessions.ts
import connectPgSimple from "connect-pg-simple";
import session from "express-session";
var LASTS_MS2 = 14 * 24 * 60 * 60 * 1e3;
var PRUNE_SECONDS = 15 * 60;
var TOUCHED_EVERY_MS = 60 * 60 * 1e3;

// src/server/people/throttle.ts
import { RateLimiterPostgres, RateLimiterRes } from "rate-limiter-flexible";
var WINDOW_SECONDS = 15 * 60;

// src/server/platform/web.ts
import express from "express";
import staticPacked from "express-static-gzip";

// src/server/photos/routes.ts
import express2, { Router as Router13 } from "express";

// src/server/recycling/routes.ts
import { Router as Router14 } from "express";

// src/server/rounds/service.ts
var ROUND_COLUMNS = `r.id, r.kind, r.title, r.checklist, r.place_id as "placeId", ${asInstant("r.flies_at")} as "fliesAt",
  r.started_by as "startedBy", ${asInstant("r.started_at")} as "startedAt", ${asInstant("r.closed_at")} as "closedAt",
  (select count(*)::int from round_row w where w.round_id = r.id) as packs,
  (select count(*)::int from round_row w where w.round_id = r.id and w.outcome is not null) as worked`;
var ROW_COLUMNS = `pack_id as "packId", outcome, by, ${asInstant("at")} as at, reason`;

// src/server/today/service.ts
var HELD = `s.verdict in ('hold', 'retire-advised')`;
var LEFT = `s.verdict in ('retired', 'recycled')`;
var OUT_OF_BAND = `s.storage in ('high', 'low') and not (${HELD}) and not (${LEFT})`;
var TO_MEASURE = `s.read_do in ('measure', 'measure-rested') and s.read_due_at <= ? and s.storage not in ('high', 'low') and not (${HELD}) and not (${LEFT})`;
var WANTED_BACK = `s.holder_id is not null and not (${LEFT}) and (
  (s.flying #>> '{out,wantedBackAt}')::float8 <= ? or s.findings @> '[{"rule": "two-hands"}]')`;
var MOST_WAITING = 500;
var OWN_STORAGE_OFF = {
  sql: `select p.id, p.tag from at s join pack p on p.id = s.pack_id
         where p.smart is not null and s.findings @> '[{"rule": "smart-settings", "wrong": [{"is": "off"}]}]' and not (${LEFT})
         order by p.tag_key limit ${MOST_WAITING}`,
  params: [],
  list: true
};
var UNEXPLAINED = {
  sql: `select p.id as "packId", p.tag, f ->> 'direction' as direction, (f ->> 'fromAt')::float8 as "fromAt",
               (f ->> 'toAt')::float8 as "toAt", (f ->> 'fromMv')::int as "fromMv", (f ->> 'toMv')::int as "toMv",
               (select r.payload ->> 'holderId' from record r
                 where r.pack_id = p.id and r.kind = 'moved' and r.payload ->> 'holderId' is not null
                   and r.at <= to_timestamp((f ->> 'toAt')::float8 / 1000)
                 order by r.at desc, r.seq desc limit 1) as "holderId"
          from at s join pack p on p.id = s.pack_id
         cross join lateral jsonb_array_elements(s.findings) f
         where s.findings @> '[{"rule": "unlogged"}]' and f ->> 'rule' = 'unlogged' and not (${LEFT})
         order by (f ->> 'toAt')::float8 desc, p.tag_key limit ${TODAY_LIMIT}`,
  params: [],
  list: true
};

// src/server/recycling/service.ts
var BOARD_COLUMNS = `p.id, p.tag, p.type_id as "typeId", s.life, ${asInstant("s.life_since")} as since, ${stepColumn("next")},
  s.place_id as "placeId", coalesce(t.mass_g, 0) as "massG", t.chemistry, t.series, t.name as "typeName",
  t.capacity_mah as "capacityMah", s.apart, s.leaves_charged as charged, s.consignment_id as "consignmentId", s.seq`;
var CONSIGNMENT_COLUMNS = `c.id, c.recycler_id as "recyclerId", c.opened_by as "openedBy", ${asInstant("c.opened_at")} as "openedAt",
  ${asInstant("c.closed_at")} as "closedAt"`;

// src/server/register/routes.ts
import { Router as Router15 } from "express";
import { v7 as newId12 } from "uuid";

// src/server/register/equipment.ts
import { v7 as newId11 } from "uuid";

// src/server/reports/routes.ts
import { Router as Router16 } from "express";

// src/server/rounds/routes.ts
import { Router as Router17 } from "express";

// src/server/rules/routes.ts
import { Router as Router18 } from "express";

// src/server/today/routes.ts
import { Router as Router19 } from "express";

// src/server/app.ts
var ENTITIES = [Person, PackType, Place, Instrument, Recycler, Equipment, Craft, Pack, PackTag];
async function openRegister(databaseUrl, now2 = Date.now()) {
  const database = await openDatabase(databaseUrl, ENTITIES);
  await layDownFirstRules(database.entities(), now2);
  return database;
}

// src/core/whatif/compare.ts
function effectOn(history, before2, after3, now2) {
  const one = assess(history, before2, now2);
  const other2 = assess(history, after3, now2);
  const clock = [clockOf(one, now2), clockOf(other2, now2)];
  if (one.verdict === other2.verdict && clock[0] === clock[1]) return null;
  return { packId: history.pack.id, verdict: [one.verdict, other2.verdict], clock };
}
function clockOf({ storage, verdict }, now2) {
  if (isOutOfUse(verdict)) return "still";
  if (storage.state !== "high" && storage.state !== "low") return "still";
  return isOverdue(storage, now2) ? "overdue" : "running";
}

// scripts/tmp/hist.ts
var db = await openRegister(process.env.DATABASE_URL.replace(/\/[^/]*$/, "/malle_bench_large"));
var after2 = null;
var T = { sql: 0, str: 0, parse: 0, fold: 0, effect: 0 };
var packs = 0;
var records = 0;
var bytes = 0;
var before = PRESET_RULES["even-keel"] ?? Object.values(PRESET_RULES)[1];
var other = withRuleValue(before, { path: "spread.watchMv" }, 10);
var now = Date.UTC(2026, 2, 2, 18, 40);
do {
  let t = performance.now();
  const lap = (k) => {
    const n = performance.now();
    T[k] += n - t;
    t = n;
  };
  const a = await histories(db.entities(), after2, null);
  lap("sql");
  const s = JSON.stringify(a);
  lap("str");
  bytes += s.length;
  const b = JSON.parse(s);
  lap("parse");
  const hs = b.packs.map((p6) => fold({ ...p6.facts, placeTemperatures: b.placeTemperatures }, p6.records));
  lap("fold");
  for (const h of hs) effectOn(h, before, other, now);
  lap("effect");
  packs += hs.length;
  records += b.packs.reduce((s2, p6) => s2 + p6.records.length, 0);
  after2 = a.next;
} while (after2 && packs < 1500);
console.log(packs, records, bytes, Object.fromEntries(Object.entries(T).map(([k, v]) => [k, (v / packs).toFixed(2) + " ms/pack"])));
await db.close();
