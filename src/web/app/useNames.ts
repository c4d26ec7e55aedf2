import type { PersonId, PlaceId } from '../../core/measure';
import { useRegister } from './queries';

/** Names for ids, for putting records into words. */
export interface Names {
  readonly place: (id: PlaceId) => string;
  readonly person: (id: PersonId) => string;
}

/** Names of places and people, for whoever puts records into words. */
export function useNames(): Names {
  const register = useRegister().data;
  return {
    place: (id) => register?.places.find((place) => place.id === id)?.name ?? 'a place no longer known',
    person: (id) => register?.people.find((one) => one.id === id)?.name ?? 'somebody',
  };
}
