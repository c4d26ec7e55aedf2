import type { Entities } from '../platform/database';

/** What is done around a statement: `run` runs it. */
export type Around = (sql: string, run: () => Promise<unknown>) => Promise<unknown>;

/** What is used of a connection, and of the pool that it is from. */
interface Connection {
  readonly own?: Connection;
  query(statement: { readonly text: string }): Promise<unknown>;
}

interface ConnectionPool {
  acquireConnection(): Promise<Connection>;
  releaseConnection(connection: Connection): Promise<void>;
}

/** The same register, with something done around every statement in SQL: executed or prepared, within a transaction or without. */
export function watched(em: Entities, around: Around): Entities {
  const watchedPool = (pool: ConnectionPool): ConnectionPool => ({
    acquireConnection: async () => {
      const own = await pool.acquireConnection();
      return { own, query: (statement) => around(statement.text, () => own.query(statement)) };
    },
    releaseConnection: ({ own }) => pool.releaseConnection(own!),
  });
  const withClient = <Owner extends object>(owner: Owner): Owner =>
    new Proxy(owner, {
      get: (target, name) => {
        const value: unknown = Reflect.get(target, name);
        return name === 'client' ? watchedPool(value as ConnectionPool) : value;
      },
    });
  return new Proxy(em, {
    get: (target, name) => {
      if (name === 'transactional')
        return (work: (tx: Entities) => Promise<unknown>) =>
          target.transactional((tx) => work(watched(tx, around)));
      if (name === 'getConnection')
        return () => ({ getKnex: () => withClient(target.getConnection().getKnex()) });
      if (name === 'getTransactionContext')
        return () => {
          const transaction = target.getTransactionContext<object>();
          return transaction && withClient(transaction);
        };
      if (name === 'execute')
        return (sql: string, params: unknown[]) => around(sql, () => target.execute(sql, params));
      return Reflect.get(target, name) as unknown;
    },
  });
}
