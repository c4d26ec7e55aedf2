import { create } from 'zustand';
import type { PersonId } from '../../core/measure';

/** Whose typing and whose records this device shows: whoever is signed in. Null while nobody is. */
export const useOwner = create<{ readonly personId: PersonId | null }>()(() => ({ personId: null }));

export function setOwner(personId: PersonId | null): void {
  if (useOwner.getState().personId !== personId) useOwner.setState({ personId });
}
