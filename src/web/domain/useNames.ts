import { dayWords } from '../../core/wording';
import type { Names } from '../../core/wording';
import { useReader } from '../app/clock';
import { useRegister } from '../app/queries';

/** Names of places and people, for whoever puts records into words. */
export function useNames(): Names {
  const register = useRegister().data;
  const reader = useReader();
  return {
    place: (id) => register?.places.find((place) => place.id === id)?.name ?? 'a place no longer known',
    day: (at) => dayWords(at, reader),
    craft: (id) => register?.craft.find((one) => one.id === id)?.name ?? 'a craft no longer known',
    person: (id) => register?.people.find((one) => one.id === id)?.name ?? 'somebody',
  };
}
