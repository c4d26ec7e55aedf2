import type { PlaceId } from '../measure';
import type { HouseRules } from '../rules';

/** What the gate looks at besides the pack and its records. */
export interface Circumstances {
  readonly rules: HouseRules;
  readonly places: ReadonlyMap<PlaceId, PlaceUse>;
  /**
   * The way it came: some records are written only along with an incident's log, or with a consignment's list. What is brought in from
   * an older book happened before the gate stood: it is evidence, whatever the pack was by these rules then, and goes back as it came.
   */
  readonly through: 'records' | 'incident' | 'consignment' | 'import';
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
