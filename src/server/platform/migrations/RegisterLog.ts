import { Migration } from '@mikro-orm/migrations';

/** What changes and is no pack's record: people, names, types, places, rules, keys, sign-ins, exports. Append-only and chained, like the ledger. */
export class RegisterLog extends Migration {
  override up(): void {
    for (const statement of STATEMENTS) this.addSql(statement);
  }
}

const STATEMENTS = [
  `create table register_log (
     seq bigint primary key check (seq > 0),
     at timestamptz not null,
     by uuid references person,
     through text,
     did text not null,
     subject text not null,
     subject_id text,
     name text,
     changes jsonb not null,
     prev_hash text not null,
     hash text not null
   )`,
  `create index register_log_by on register_log (by, seq)`,
  `create index register_log_subject on register_log (subject, subject_id, seq)`,
  `create trigger register_log_is_append_only before update or delete on register_log
     for each row execute function refuse_ledger_change()`,
  `create trigger register_log_is_never_emptied before truncate on register_log
     for each statement execute function refuse_ledger_change()`,
];
