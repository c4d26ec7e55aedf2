import { Migration } from '@mikro-orm/migrations';

/**
 * What a pack has shown of its wear lies beside its state, for others of its type to learn from. Judging anew fills it in, and what
 * judging anew changes of a verdict is written down beside the rules that changed it. The function that picks what holds at a moment gets
 * the name of what it gives back: no second judgement is left in the database.
 */
export class WearOfSiblings extends Migration {
  override up(): void {
    this.addSql(`alter table pack_state add column wear jsonb not null default '[]'`);
    this.addSql(
      `create table verdict_move (
         rules_version int not null references rule_set, pack_id uuid not null references pack,
         was text not null, became text not null, primary key (rules_version, pack_id))`,
    );
    this.addSql('alter function pack_standing(timestamptz) rename to pack_state_at');
    this.addSql(`update pack_state set rules_version = 0`);
  }
}
