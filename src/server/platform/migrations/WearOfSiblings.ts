import { Migration } from '@mikro-orm/migrations';

/** What a pack has shown of its wear lies beside its state, for others of its type to learn from. Judging anew fills it in. */
export class WearOfSiblings extends Migration {
  override up(): void {
    this.addSql(`alter table pack_state add column wear jsonb not null default '[]'`);
    this.addSql(`update pack_state set rules_version = 0`);
  }
}
