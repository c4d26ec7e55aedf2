import type { Instant, PersonId, PlaceId } from '../../core/measure';
import { dayWords } from '../../core/wording';
import { useReader } from './clock';
import { useRegister } from './queries';

/** Names for ids and days for moments, for putting records into words. */
export interface Names {
  readonly place: (id: PlaceId) => string;
  readonly person: (id: PersonId) => string;
  /** The day of a moment where the reader is. */
  readonly day: (at: Instant) => string;
}

/** Names of places and people, for whoever puts records into words. */
export function useNames(): Names {
  const register = useRegister().data;
  const reader = useReader();
  return {
    place: (id) => register?.places.find((place) => place.id === id)?.name ?? 'a place no longer known',
    day: (at) => dayWords(at, reader),
    person: (id) => register?.people.find((one) => one.id === id)?.name ?? 'somebody',
  };
}
