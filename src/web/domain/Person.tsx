import { createContext, useContext } from 'react';
import type { ReactNode } from 'react';
import type { PersonAnswer } from '../../contract';
import { mayDo } from '../../core/lifecycle';
import type { Action } from '../../core/lifecycle';

const PersonContext = createContext<PersonAnswer | null>(null);

export function PersonProvider({ person, children }: { person: PersonAnswer; children: ReactNode }) {
  return <PersonContext.Provider value={person}>{children}</PersonContext.Provider>;
}

/** Whoever is signed in. Only for what is shown inside the frame, where somebody always is. */
export function usePerson(): PersonAnswer {
  const person = useContext(PersonContext);
  if (!person) throw new Error('usePerson outside of the signed-in frame');
  return person;
}

/** Whether whoever is signed in may do this; the server decides again. */
export function useMay(action: Action): boolean {
  return mayDo(usePerson().role, action);
}
