import { Migration } from '@mikro-orm/migrations';

/**
 * What a pack holds is carried from the last thing that happened to it, and what is said of it changes with time alone: a row
 * holds what it becomes, and from when on. Registers from before are judged anew, and their history of house rules says why.
 */
export class VerdictsThatStayTrue extends Migration {
  override up(): void {
    for (const statement of STATEMENTS) this.addSql(statement);
  }
}

const WHY =
  'Malle itself changed; the house rules did not. What a pack holds now follows from the last thing that happened to it, a charge ' +
  'is judged by what it did, nothing stays known for ever, and one measurement condemns no pack. Every pack was judged anew.';

const STATEMENTS = [
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
   $$`,
];
