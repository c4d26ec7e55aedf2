import { Migration } from '@mikro-orm/migrations';

/**
 * What is read often is read sooner. The beginning of a pack's ledger stands a second time, as one compressed text: the ledger itself is the records, and
 * this table may be emptied at any time, which costs nothing but time. The states of some packs are found without laying out those of all.
 */
export class PackedLedgers extends Migration {
  override up(): void {
    for (const statement of STATEMENTS) this.addSql(statement);
  }
}

const STATEMENTS = [
  `create table packed_ledger (
     pack_id uuid primary key references pack on delete cascade,
     seq int not null check (seq > 0),
     hash text not null,
     records bytea not null
   )`,
  // Compressed once is enough.
  `alter table packed_ledger alter column records set storage external`,
  // Of some packs, or of all. A condition on what this returns would be looked at only once every row that time has changed was made.
  `drop function pack_state_at(timestamptz)`,
  `create function pack_state_at(moment timestamptz, ids uuid[] default null) returns setof pack_state language sql stable as $$
     select s.* from pack_state s
      where (ids is null or s.pack_id = any(ids)) and (s.changes_at is null or s.changes_at > moment) and not s.empty
     union all
     select told.*
       from pack_state s
      cross join lateral (
        select value -> 'row' as changed from jsonb_array_elements(s.lapses)
         where (value ->> 'at')::float8 <= extract(epoch from moment) * 1000
         order by (value ->> 'at')::float8 desc limit 1
      ) lapsed
      cross join lateral jsonb_populate_record(s, lapsed.changed) told
      where (ids is null or s.pack_id = any(ids)) and s.changes_at <= moment and not s.empty
   $$`,
];
