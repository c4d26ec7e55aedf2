import { Migration } from '@mikro-orm/migrations';

/**
 * Craft and what was done to them; who flies on a day, and which packs are taken along. What flying asks of a pack lies beside its state;
 * judging anew fills it in.
 */
export class Flying extends Migration {
  override up(): void {
    for (const statement of STATEMENTS) this.addSql(statement);
  }
}

const STATEMENTS = [
  `create table craft (
     id uuid primary key, name text not null unique, in_use boolean not null, facts jsonb not null, version int not null default 1
   )`,
  `create table craft_change (
     craft_id uuid not null references craft, seq int not null, at timestamptz not null, recorded_at timestamptz not null,
     by uuid not null references person, what text not null, new_baseline boolean not null, primary key (craft_id, seq)
   )`,
  `alter table flying_day add column people jsonb not null default '[]', add column hand_out jsonb not null default '[]'`,
  `alter table pack_state add column flying jsonb not null default '{}'`,
  `update pack_state set rules_version = 0`,
];
