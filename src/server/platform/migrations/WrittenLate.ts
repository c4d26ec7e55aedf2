import { Migration } from '@mikro-orm/migrations';

/** Every pack is judged anew: a rule looks at when things were written down. */
export class WrittenLate extends Migration {
  override up(): void {
    this.addSql(`update pack_state set rules_version = 0`);
  }
}
