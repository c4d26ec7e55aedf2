import { Migration } from '@mikro-orm/migrations';

/** Smart packs: readers of their memories, what a reader said, and what it can write; judged by what a memory says from now on. */
export class PacksThatRemember extends Migration {
  override up(): void {
    for (const statement of STATEMENTS) this.addSql(statement);
  }
}

const STATEMENTS = [
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
  `update pack_state set rules_version = 0`,
];
