import { Migration } from '@mikro-orm/migrations';
import { COMPRESSED_QUICKLY } from './quickCompression';

/** What every record writes anew is compressed the quick way: of writing a state with its whole future, half the database's time went into that. */
export class LighterStates extends Migration {
  override up(): void {
    this.addSql(COMPRESSED_QUICKLY);
  }
}
