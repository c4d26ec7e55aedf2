import { Migration } from '@mikro-orm/migrations';

/** Accounts that are their owners': links for a first or new password, and sessions that end when they must. */
export class Accounts extends Migration {
  override up(): void {
    for (const statement of STATEMENTS) this.addSql(statement);
  }
}

const STATEMENTS = [
  // Sessions that began before this moment are over, whichever process still remembers one.
  `alter table person add column access_from timestamptz`,
  // One link a person: a newer one ends the older.
  `create table sign_in_link (
     person_id uuid primary key references person (id), hash text not null unique,
     made_by uuid references person (id), ends_at timestamptz not null
   )`,
  `create index user_session_person on user_session ((sess ->> 'personId'))`,
];
