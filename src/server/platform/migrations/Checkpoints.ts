import { Migration } from '@mikro-orm/migrations';

/** What the register held at a moment, signed: so that what a database's own superuser changes is found out. Append-only, like the ledger. */
export class Checkpoints extends Migration {
  override up(): void {
    for (const statement of STATEMENTS) this.addSql(statement);
  }
}

const STATEMENTS = [
  `create table checkpoint (
     number int primary key check (number > 0),
     at timestamptz not null,
     statement text not null,
     key text not null,
     signature text not null
   )`,
  // Only what is new or changed since the checkpoint before; digest null for what is no longer there.
  `create table checkpoint_leaf (
     name text not null,
     number int not null references checkpoint,
     digest text,
     primary key (name, number)
   )`,
  ...['checkpoint', 'checkpoint_leaf'].flatMap((table) => [
    `create trigger ${table}_is_append_only before update or delete on ${table}
       for each row execute function refuse_ledger_change()`,
    `create trigger ${table}_is_never_emptied before truncate on ${table}
       for each statement execute function refuse_ledger_change()`,
  ]),
];
