import { Migrator } from '@mikro-orm/migrations';
import type { Migration } from '@mikro-orm/migrations';
import { MikroORM } from '../orm';
import type { Constructor, Options } from '@mikro-orm/postgresql';
import { Accounts } from './Accounts';
import { BooksInAndOut } from './BooksInAndOut';
import { Charging } from './Charging';
import { Checkpoints } from './Checkpoints';
import { Flying } from './Flying';
import { FirstRegister } from './FirstRegister';
import { InspectionsAndRounds } from './InspectionsAndRounds';
import { Instruments } from './Instruments';
import { LighterStates } from './LighterStates';
import { PackedLedgers } from './PackedLedgers';
import { PacksThatRemember } from './PacksThatRemember';
import { IncidentsAndDisposal } from './IncidentsAndDisposal';
import { RegisterLog } from './RegisterLog';
import { SecondFactors } from './SecondFactors';
import { VerdictsThatStayTrue } from './VerdictsThatStayTrue';
import { WearOfSiblings } from './WearOfSiblings';
import { WholeJudgement } from './WholeJudgement';
import { WrittenLate } from './WrittenLate';
import { MIGRATION_NAMES } from './names';

const CLASSES: Readonly<Record<(typeof MIGRATION_NAMES)[number], Constructor<Migration>>> = {
  '001_first_register': FirstRegister,
  '002_whole_judgement': WholeJudgement,
  '003_inspections_and_rounds': InspectionsAndRounds,
  '004_when_it_goes_wrong': IncidentsAndDisposal,
  '005_verdicts_that_stay_true': VerdictsThatStayTrue,
  '006_wear_of_siblings': WearOfSiblings,
  '007_books_in_and_out': BooksInAndOut,
  '008_charging': Charging,
  '009_flying': Flying,
  '010_instruments': Instruments,
  '011_packs_that_remember': PacksThatRemember,
  '012_accounts': Accounts,
  '013_register_log': RegisterLog,
  '014_checkpoints': Checkpoints,
  '015_second_factors': SecondFactors,
  '016_written_late': WrittenLate,
  '017_packed_ledgers': PackedLedgers,
  '018_lighter_states': LighterStates,
};

const MIGRATION_LOCK = 0x6d616c6c;
/** What PostgreSQL says of it. */
const INSUFFICIENT_PRIVILEGE = '42501';
const OWNER_NEEDED =
  'The tables of this register are missing or older than this server, and its role may not change them. Run "npm run migrate" with the DATABASE_URL of their owner.';

/**
 * Brings a register's tables up to date, in one transaction. Processes that start together wait for each other here.
 * @throws where the role may not change tables
 */
export async function migrate(connection: Options): Promise<void> {
  const orm = await MikroORM.init({
    ...connection,
    entities: [],
    extensions: [Migrator],
    migrations: {
      migrationsList: MIGRATION_NAMES.map((name) => ({ name, class: CLASSES[name] })),
      snapshot: false,
      allOrNothing: true,
      transactional: true,
      silent: true,
    },
  });
  try {
    await orm.em.fork().transactional(async (tx) => {
      await tx.execute('select pg_advisory_xact_lock(?)', [MIGRATION_LOCK]);
      await orm.migrator.up().catch((error: unknown) => {
        const mayNot = (error as { code?: string }).code === INSUFFICIENT_PRIVILEGE;
        throw mayNot ? new Error(OWNER_NEEDED, { cause: error }) : error;
      });
    });
  } finally {
    await orm.close(true);
  }
}
