import { useRegister } from '../app/queries';
import type { Names } from './recordWords';

/** Names of places and people, for whoever puts records into words. */
export function useNames(): Names {
  const register = useRegister().data;
  return {
    place: (id) => register?.places.find((place) => place.id === id)?.name ?? 'a place no longer known',
    person: (id) => register?.people.find((one) => one.id === id)?.name ?? 'somebody',
  };
}
