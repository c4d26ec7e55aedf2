import { createRequire } from 'node:module';
import type { MikroORM as Orm } from '@mikro-orm/postgresql';

/**
 * The database package, required rather than imported: to import it Node.js reads each of its files twice, the first time only for the
 * names in it, which is half a second and ten megabytes of every start.
 */
export const { MikroORM, IsolationLevel, Type, defineEntity, p } = createRequire(import.meta.url)(
  '@mikro-orm/postgresql',
) as typeof import('@mikro-orm/postgresql');
export type MikroORM = Orm;
