import type { Entities } from '../platform/database';
import { announce } from '../platform/live';
import { isUniqueViolation, refusedField } from '../platform/problems';

/** Writes what was changed in one of the small tables and tells everybody. */
export async function store(em: Entities): Promise<void> {
  await write(em);
  await announce(em, { about: 'register' });
}

/** Writes it, for a caller who has more to do before anybody is told; a name taken already is refused at its field. */
export async function write(em: Entities): Promise<void> {
  try {
    await em.flush();
  } catch (error) {
    if (isUniqueViolation(error)) throw refusedField('name', 'There is one of this name already.');
    throw error;
  }
}
