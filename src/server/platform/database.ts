import type { ClientBase } from 'pg';
import { MikroORM } from './orm';
import type { EntitySchema, SqlEntityManager } from '@mikro-orm/postgresql';
import { connectionTo } from './hosts';
import { MIGRATION_NAMES } from './migrations/names';

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

/** Opens the database, its tables up to date. What changes tables is loaded where there is something to change: a fifth of a start. */
export async function openDatabase(url: string, entities: EntitySchema[]): Promise<Database> {
  const orm = await MikroORM.init({ ...connection(url, 10), entities });
  try {
    if (!(await isUpToDate(orm))) await (await import('./migrations')).migrate(connection(url, 2));
  } catch (error) {
    await orm.close(true);
    throw error;
  }
  return opened(url, orm);
}

/** Whether every migration was run here; those of a newer version of Malle do not matter. */
async function isUpToDate(orm: MikroORM): Promise<boolean> {
  const em = orm.em.fork();
  const [table]: { is: boolean }[] = await em.execute(
    `select to_regclass('mikro_orm_migrations') is not null as "is"`,
  );
  if (!table!.is) return false;
  const done: { name: string }[] = await em.execute('select name from mikro_orm_migrations');
  const names = new Set(done.map(({ name }) => name));
  return MIGRATION_NAMES.every((name) => names.has(name));
}

const inWorkers = new Map<string, Promise<Database>>();

/** The register for a worker that only asks in SQL, two things at once at most: its tables are as they must be already. Opened once. */
export function openInWorker(url: string): Promise<Database> {
  const known = inWorkers.get(url);
  if (known) return known;
  const made = MikroORM.init({ ...connection(url, 2), entities: [] }).then((orm) => opened(url, orm));
  inWorkers.set(url, made);
  // The next one tries again when the database was not there.
  made.catch(() => inWorkers.delete(url));
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

/** Names of statements that a connection knows by them; past so many, one is told as often as it is run. */
const names = new Map<string, string>();
const MOST_NAMES = 200;

/**
 * Runs a statement that is run again and again, within the transaction if there is one. A connection is told it once: after that its parameters alone are
 * sent, each as it is, and the database neither parses nor plans it anew.
 */
export async function executePrepared<Row>(em: Entities, { sql, params }: Statement): Promise<Row[]> {
  const name = nameOf(sql);
  const client = (em.getTransactionContext<UsedByKnex>() ?? em.getConnection().getKnex())
    .client as ConnectionPool;
  const connection = await client.acquireConnection();
  try {
    let i = 0;
    const text = sql.replace(/\?/g, () => `$${(i += 1)}`);
    return (await connection.query({ ...(name === undefined ? {} : { name }), text, values: params }))
      .rows as Row[];
  } catch (error) {
    throw em.getDriver().convertException(error as Error);
  } finally {
    await client.releaseConnection(connection);
  }
}

interface UsedByKnex {
  readonly client: unknown;
}

/** What is used of Knex's client; that of a transaction hands out its own connection. */
interface ConnectionPool {
  acquireConnection(): Promise<ClientBase>;
  releaseConnection(connection: ClientBase): Promise<void>;
}

function nameOf(sql: string): string | undefined {
  const known = names.get(sql);
  if (known !== undefined || names.size >= MOST_NAMES) return known;
  const name = `malle_${names.size}`;
  names.set(sql, name);
  return name;
}
