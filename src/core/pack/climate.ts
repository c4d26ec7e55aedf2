import type { Instant, PlaceId } from '../measure';

/** From when on a place has been this warm. */
export interface PlaceTemperature {
  readonly placeId: PlaceId;
  readonly since: Instant;
  readonly celsius: number;
}
