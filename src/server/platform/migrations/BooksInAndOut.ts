import { Migration } from '@mikro-orm/migrations';

/** What is brought in from a club's own books and can be taken back, keys for scripts, and the safety officer's role. */
export class BooksInAndOut extends Migration {
  override up(): void {
    for (const statement of STATEMENTS) this.addSql(statement);
  }
}

const STATEMENTS = [
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
   $$`,
];
