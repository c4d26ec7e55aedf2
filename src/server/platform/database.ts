import { MikroORM } from '@mikro-orm/postgresql';
import type { EntitySchema, SqlEntityManager } from '@mikro-orm/postgresql';
import { Migrator } from '@mikro-orm/migrations';
import { connectionTo } from './hosts';
import { Accounts } from './migrations/Accounts';
import { BooksInAndOut } from './migrations/BooksInAndOut';
import { Charging } from './migrations/Charging';
import { Checkpoints } from './migrations/Checkpoints';
import { Flying } from './migrations/Flying';
import { FirstRegister } from './migrations/FirstRegister';
import { InspectionsAndRounds } from './migrations/InspectionsAndRounds';
import { Instruments } from './migrations/Instruments';
import { PacksThatRemember } from './migrations/PacksThatRemember';
import { IncidentsAndDisposal } from './migrations/IncidentsAndDisposal';
import { RegisterLog } from './migrations/RegisterLog';
import { SecondFactors } from './migrations/SecondFactors';
import { VerdictsThatStayTrue } from './migrations/VerdictsThatStayTrue';
import { WearOfSiblings } from './migrations/WearOfSiblings';
import { WholeJudgement } from './migrations/WholeJudgement';
import { WrittenLate } from './migrations/WrittenLate';

/** One unit of work: its own identity map, its own transaction. */
export type Entities = SqlEntityManager;

/** SQL with its parameters, to stand alone or within another statement. */
export interface Statement {
  readonly sql: string;
  readonly params: unknown[];
}

export interface Database {
  readonly url: string;
  entities(): Entities;
  close(): Promise<void>;
}

/** Every migration, in order. Listed rather than found, so that what runs is what was reviewed. */
const MIGRATIONS = [
  { name: '001_first_register', class: FirstRegister },
  { name: '002_whole_judgement', class: WholeJudgement },
  { name: '003_inspections_and_rounds', class: InspectionsAndRounds },
  { name: '004_when_it_goes_wrong', class: IncidentsAndDisposal },
  { name: '005_verdicts_that_stay_true', class: VerdictsThatStayTrue },
  { name: '006_wear_of_siblings', class: WearOfSiblings },
  { name: '007_books_in_and_out', class: BooksInAndOut },
  { name: '008_charging', class: Charging },
  { name: '009_flying', class: Flying },
  { name: '010_instruments', class: Instruments },
  { name: '011_packs_that_remember', class: PacksThatRemember },
  { name: '012_accounts', class: Accounts },
  { name: '013_register_log', class: RegisterLog },
  { name: '014_checkpoints', class: Checkpoints },
  { name: '015_second_factors', class: SecondFactors },
  { name: '016_written_late', class: WrittenLate },
];

/** Opens the database and brings its tables up to date. Processes starting together wait for each other here. */
export async function openDatabase(url: string, entities: EntitySchema[]): Promise<Database> {
  const orm = await MikroORM.init({
    ...connection(url, 10),
    entities,
    extensions: [Migrator],
    migrations: {
      migrationsList: MIGRATIONS,
      snapshot: false,
      allOrNothing: true,
      transactional: true,
      silent: true,
    },
  });
  try {
    await migrate(orm);
  } catch (error) {
    await orm.close(true);
    throw error;
  }
  return opened(url, orm);
}

const readers = new Map<string, Promise<Database>>();

/** The register for a worker that only asks in SQL: its tables are as they must be already. Opened once. */
export function openToRead(url: string): Promise<Database> {
  const known = readers.get(url);
  if (known) return known;
  const made = MikroORM.init({ ...connection(url, 1), entities: [] }).then((orm) => opened(url, orm));
  readers.set(url, made);
  // The next one tries again when the database was not there.
  made.catch(() => readers.delete(url));
  return made;
}

function connection(url: string, most: number) {
  const { connectionString, ...rest } = connectionTo(url);
  return {
    clientUrl: connectionString,
    driverOptions: { connection: rest },
    discovery: { warnWhenNoEntities: false },
    pool: { min: 0, max: most },
    debug: false,
    logger: () => undefined,
  };
}

function opened(url: string, orm: MikroORM): Database {
  return { url, entities: () => orm.em.fork(), close: () => orm.close(true) };
}

const MIGRATION_LOCK = 0x6d616c6c;
/** What PostgreSQL says of it. */
const INSUFFICIENT_PRIVILEGE = '42501';
const OWNER_NEEDED =
  'The tables of this register are missing or older than this server, and its role may not change them. Run "npm run migrate" with the DATABASE_URL of their owner.';

async function migrate(orm: MikroORM): Promise<void> {
  const em = orm.em.fork();
  await em.transactional(async (tx) => {
    await tx.execute('select pg_advisory_xact_lock(?)', [MIGRATION_LOCK]);
    await orm.migrator.up().catch((error: unknown) => {
      const mayNot = (error as { code?: string }).code === INSUFFICIENT_PRIVILEGE;
      throw mayNot ? new Error(OWNER_NEEDED, { cause: error }) : error;
    });
  });
}
