export const INCIDENT_KINDS = [
  'crash',
  'smoke-fire',
  'hot-charging',
  'swelling',
  'overheated',
  'leak',
  'short',
  'overcharged',
  'over-discharged',
  'damaged-lead',
  'water',
  'charge-failed',
  'unattended',
  'lost',
  'other',
] as const;
/** What went wrong. In the order a hand looks for it on a phone: what is dangerous and common first. */
export type IncidentKind = (typeof INCIDENT_KINDS)[number];

/** What an incident of one kind means for the packs it names. */
export interface IncidentFacts {
  /** Whether the packs named are on hold at once; `ask` leaves it to whoever reports. */
  readonly holds: 'yes' | 'no' | 'ask';
  /** How long the packs are watched from a distance before anybody inspects them: after a shock, overnight, or not. */
  readonly watch: 'shock' | 'overnight' | null;
  /** Whether a pack it named can ever fly again, once it was inspected. */
  readonly mayReturn: boolean;
  /** Whether such a pack is harmed so that it must not be discharged at its end, but goes packed apart. */
  readonly harms: boolean;
}

const facts = (
  holds: IncidentFacts['holds'],
  watch: IncidentFacts['watch'],
  mayReturn = true,
  harms = false,
): IncidentFacts => ({ holds, watch, mayReturn, harms });

/**
 * What follows from each kind. Source: the practice's cards. A shock is watched for the house's minutes, an abnormal
 * charge lies outdoors overnight; what burnt or leaked does not come
 * back, and neither that nor what swelled is ever discharged.
 */
export const INCIDENT_FACTS: Readonly<Record<IncidentKind, IncidentFacts>> = {
  crash: facts('yes', 'shock'),
  'smoke-fire': facts('yes', 'overnight', false, true),
  'hot-charging': facts('yes', 'overnight'),
  swelling: facts('yes', null, true, true),
  overheated: facts('yes', 'shock'),
  leak: facts('yes', 'overnight', false, true),
  short: facts('yes', 'shock'),
  overcharged: facts('yes', 'overnight'),
  'over-discharged': facts('yes', null),
  'damaged-lead': facts('yes', null),
  water: facts('yes', 'overnight'),
  'charge-failed': facts('no', null),
  unattended: facts('no', null),
  lost: facts('yes', null),
  other: facts('ask', null),
};

export const CAUSES = [
  'unknown',
  'stored-flat',
  'cut-off-other-count',
  'wrong-mode',
  'wrong-cell-count',
  'mechanical',
  'handling',
  'heat-or-load',
  'cold',
  'water',
  'age',
  'maker',
] as const;
/** Why it happened, as far as anybody knows. */
export type Cause = (typeof CAUSES)[number];
