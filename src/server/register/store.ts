import type { Entities } from '../platform/database';
import { announce } from '../platform/live';
import { isUniqueViolation, refusedField } from '../platform/problems';

/** Writes what was changed in one of the small tables; a name taken already is refused at its field. */
export async function store(em: Entities): Promise<void> {
  try {
    await em.flush();
  } catch (error) {
    if (isUniqueViolation(error)) throw refusedField('name', 'There is one of this name already.');
    throw error;
  }
  await announce(em, { about: 'register' });
}
