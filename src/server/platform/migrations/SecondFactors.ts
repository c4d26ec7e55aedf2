import { Migration } from '@mikro-orm/migrations';

/** More than a password to come in with, and less than one where several people stand at one bench. */
export class SecondFactors extends Migration {
  override up(): void {
    for (const statement of STATEMENTS) this.addSql(statement);
  }
}

const STATEMENTS = [
  // Codes that a phone makes. They are asked for once one of them was given: `proven_at` null until then. A code is good once: the step of
  // half a minute it was made for stands in `last_step`, and no earlier one counts again.
  `create table one_time_code (
     person_id uuid primary key references person (id), secret text not null,
     proven_at timestamptz, last_step bigint not null default 0
   )`,
  `create table spare_code (
     person_id uuid not null references person (id), hash text not null, primary key (person_id, hash)
   )`,
  `create table passkey (
     id text primary key, person_id uuid not null references person (id), name text not null,
     public_key bytea not null, counter bigint not null, transports jsonb not null,
     made_at timestamptz not null, used_at timestamptz
   )`,
  `create index passkey_person on passkey (person_id)`,
  // What is to be signed, once and within minutes; of nobody where somebody comes in by a passkey.
  `create table passkey_challenge (
     challenge text primary key, person_id uuid references person (id), ends_at timestamptz not null
   )`,
  // A browser that several people use: it shows the secret of which the hash is here.
  `create table shared_bench (
     id uuid primary key, name text not null, hash text not null unique,
     made_by uuid not null references person (id), made_at timestamptz not null, ended_at timestamptz
   )`,
  `create table bench_pass (
     person_id uuid primary key references person (id), pin_hash text, badge_hash text unique
   )`,
];
