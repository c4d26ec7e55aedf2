import type { PlaceId } from '../measure';
import type { HouseRules } from '../rules';

/** What the gate looks at besides the pack and its records. */
export interface Circumstances {
  readonly rules: HouseRules;
  readonly places: ReadonlyMap<PlaceId, PlaceUse>;
  /** The way it came: some records are written only along with an incident's log, or with a consignment's list. */
  readonly through: 'records' | 'incident' | 'consignment';
}

/** What a place is for. */
export interface PlaceUse {
  /** For packs on hold or harmed, away from sound ones. */
  readonly setApart: boolean;
  /** For packs on their way to a recycler. */
  readonly recycling: boolean;
  /** No room for one more such pack, by count, mass or energy. */
  readonly full: boolean;
}
