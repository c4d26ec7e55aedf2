import type { RuleId } from '../assess';

export interface RuleText {
  readonly title: string;
  /** What the rule says, as a sentence without figures: those come from the house rules. */
  readonly says: string;
  /** Why, and where practitioners differ, both views. */
  readonly why: string;
}

/** The words behind each rule a finding can come from. */
export const RULE_TEXTS: Readonly<Record<RuleId, RuleText>> = {
  unmeasured: {
    title: 'Unknown is not compliant',
    says: 'A lithium pack without a rested reading must be measured before anything else.',
    why: 'A pack nobody has measured may be full, flat or damaged; each asks for something else, and two of them are dangerous.',
  },
  'not-rested': {
    title: 'Only rested volts decide',
    says: 'A reading under load, or before the rest has passed, decides neither storage nor spread nor charge.',
    why: 'Under load a cell sags and comes back: a pack that shows 3.5 V in the air rests near 3.7 a few minutes later.',
  },
  'damage-floor': {
    title: 'Damage floor',
    says: 'A rested cell below the damage floor takes the pack out of use at once.',
    why: 'Below it the cell is being harmed whatever is done next, and a harmed cell can fail on a later charge. The lowest cell decides, never the mean.',
  },
  'over-discharged': {
    title: 'What becomes of an over-discharged pack',
    says: 'By the house’s school such a pack is retired, or may be recovered by a custodian under supervision.',
    why: 'One school retires every such pack, because the harm cannot be seen and has started fires. The other recovers one whose cause is known and harmless, slowly, watched, in its own chemistry, and keeps it on watch for life.',
  },
  'over-discharge-event': {
    title: 'Over-discharge event',
    says: 'A cell resting under the over-discharge line is an event in the record: charge to storage at once and read again.',
    why: 'A single deep discharge shortens life without ending it. What shows harm is the reading afterwards, and how often it happens.',
  },
  'recharge-soon': {
    title: 'Recharge-soon floor',
    says: 'A pack resting under this floor is brought up to storage now, not by its clock.',
    why: 'What is left drains by itself, and the nearly flat part of the curve falls steeply: days can make the difference between low and damaged.',
  },
  overfull: {
    title: 'Never above full',
    says: 'A rested cell above its chemistry’s full voltage is taken down; well above it, the pack is held.',
    why: 'The worst slip at a charger is a high-voltage or other-chemistry mode on a standard pack. Plating begins above full, and such a pack can burn later.',
  },
  'storage-high': {
    title: 'Storage band, high side',
    says: 'A pack resting above its band is put to storage within the high allowance.',
    why: 'Storing full harms most, and time at full adds up. Schools allow one day, two days, a week or two; they trade life for readiness.',
  },
  'storage-low': {
    title: 'Storage band, low side',
    says: 'A pack resting below its band is brought up within the low allowance.',
    why: 'Storing empty harms next to storing full, and a low pack drifts toward the floor where harm is certain, so its allowance is shorter.',
  },
  spread: {
    title: 'Spread between cells',
    says: 'Cells further apart than the tolerance are balanced; much further apart, the pack is watched.',
    why: 'A cell that drifts reaches empty first in the air and full first on the charger. One school balances on every charge, the other only every few while the pack keeps itself in tolerance; needing it every time is a symptom.',
  },
  idle: {
    title: 'Idle packs',
    says: 'A lithium pack that lies unused is read, or cycled, at the house’s interval.',
    why: 'One school cycles every pack monthly to keep it lively; the other leaves a stored lithium pack alone and only reads it, because each cycle costs life.',
  },
};
