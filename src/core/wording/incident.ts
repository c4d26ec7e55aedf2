import type { Cause, EntryRefusal, IncidentKind } from '../incident';
import { plural } from './figures';

export interface IncidentWords {
  readonly name: string;
  /** What to do now, in the order hands do it. */
  readonly now: readonly string[];
  readonly never: string;
  /** When to leave it and call for help. */
  readonly leave: string;
}

const LEAVE =
  'Smoke, hissing, fire or a swelling that grows: get everybody away and out of the smoke, and call the fire service. Say that batteries are burning.';

const card = (name: string, now: readonly string[], never: string, leave = LEAVE): IncidentWords => ({
  name,
  now,
  never,
  leave,
});

/** The immediate-action cards. Source: the practice's incident list and cautions; nobody is coached to fight a fire. */
export const INCIDENT_WORDS: Readonly<Record<IncidentKind, IncidentWords>> = {
  crash: card(
    'Crash or drop',
    [
      'Stay clear of turning propellers. Switch off.',
      'Unplug the pack, if it is cool, quiet and not bent.',
      'Put it outdoors in a fire-resistant container, away from people and cars.',
      'Step back. Watch it from a distance until its timer is over.',
    ],
    'Do not charge it, press it, or take it into a car or a house.',
  ),
  'smoke-fire': card(
    'Smoke or fire',
    [
      'Get everybody away, upwind, out of the smoke.',
      'Call the fire service. Say that batteries are burning, and where.',
      'If one switch cuts the charger’s mains and lies away from the smoke, use it.',
      'Keep others out until the fire service says otherwise.',
    ],
    'Do not go back for a pack, a craft or a tool.',
    'You leave now. It can flare up again hours later.',
  ),
  'hot-charging': card(
    'Hot while charging',
    [
      'Stop the charge at the charger, or cut its mains.',
      'If the pack is quiet, unplug it from the charger’s leads.',
      'Take it outdoors onto bare ground or into a fire-resistant container, held by its leads.',
      'Leave it outdoors overnight before anybody looks at it.',
    ],
    'Do not put it back on the charger, and do not cool it with water.',
  ),
  swelling: card(
    'Swelling',
    [
      'Stop whatever it is doing. Unplug it without bending it.',
      'Carry it outdoors into a fire-resistant container.',
      'Mark it so that nobody takes it.',
    ],
    'Do not press, pierce or charge it, and do not discharge it either.',
  ),
  overheated: card(
    'Overheated in use',
    [
      'Land or stop. Switch off.',
      'Unplug it if it can be touched.',
      'Lay it outdoors in the shade, in a fire-resistant container, apart from the others.',
      'Step back. Watch it from a distance until its timer is over.',
    ],
    'Do not charge it warm, and do not cool it with water or ice.',
  ),
  leak: card(
    'Leak or smell',
    [
      'Stay out of the vapour; open doors and windows, if you can do it on your way out.',
      'Unplug it only if it is quiet and you wear gloves.',
      'Put it outdoors in a fire-resistant container.',
      'Wash skin that touched the liquid with plenty of water, and ask a doctor.',
    ],
    'Do not breathe the vapour, charge it, or wipe the liquid with bare hands.',
  ),
  short: card(
    'Reversed or shorted',
    [
      'Pull the plugs apart if there is no fire and the leads are not glowing.',
      'Put the pack outdoors in a fire-resistant container.',
      'Step back. Watch it from a distance until its timer is over.',
      'Set the charger or craft aside: it may be damaged too.',
    ],
    'Do not plug it in again to see whether it still works.',
  ),
  overcharged: card(
    'Overcharged or wrong setting',
    [
      'Stop the charge at the charger, or cut its mains.',
      'Unplug the pack and take it outdoors into a fire-resistant container.',
      'Leave it outdoors overnight before anybody looks at it.',
      'Note what the charger was set to before anybody changes it.',
    ],
    'Do not discharge it to put it right. It can burn hours later.',
  ),
  'over-discharged': card(
    'Over-discharged',
    [
      'Switch off and unplug it: a craft that is off still drains.',
      'Set it apart. Read its cells after it has rested.',
      'Note the cut-off the craft was set to.',
    ],
    'Do not charge it, least of all in another chemistry’s mode: that charger would never stop.',
  ),
  'damaged-lead': card(
    'Lead or connector damaged',
    [
      'Unplug it without pulling at the damaged lead.',
      'Keep bare conductors apart; cover them with tape one at a time.',
      'Set it apart.',
    ],
    'Do not cut both leads at once, and do not charge through a loose contact.',
  ),
  water: card(
    'Water',
    [
      'Switch off and unplug it, if it is quiet. Salt water is worse than fresh.',
      'Put it outdoors in a fire-resistant container, where it can drip.',
      'Leave it outdoors overnight before anybody looks at it.',
    ],
    'Do not charge it, dry it with heat, or bring it indoors wet.',
  ),
  'charge-failed': card(
    'Charge timed out or would not balance',
    [
      'Stop it at the charger. Take the pack off before the lead off the charger.',
      'Feel it: warm means hot while charging, take that card.',
      'Note its cell volts, what went in, and how long it ran.',
    ],
    'Do not start it again unattended.',
  ),
  unattended: card(
    'Charge left alone',
    [
      'Look before you touch: smoke, smell or swelling means get away.',
      'Stop the charge at the charger.',
      'Feel the packs; lay a warm one outdoors.',
      'Note who was to attend, and for how long nobody did.',
    ],
    'Do not leave while one is on the charger.',
  ),
  lost: card(
    'Lost',
    [
      'Note where it was last seen, and how full it was.',
      'Tell whoever owns the ground: a charged pack can start a fire when it is run over or wetted.',
      'Look again by daylight.',
    ],
    'If it is found, do not charge or carry it loose: it was out of sight.',
    'Seen burning, or in water near people: keep away and call the fire service.',
  ),
  other: card(
    'Something else',
    [
      'People first. Then stop whatever is running, and unplug.',
      'Put a pack you do not trust outdoors, in a fire-resistant container.',
      'Step back, and think before you touch it again.',
    ],
    'Do not charge or fly a pack you do not trust.',
  ),
};

/** Under every card. */
export const DEFERS = 'The fire service, local rules and the pack’s own instructions come before this card.';

export const CAUSE_WORDS: Readonly<Record<Cause, string>> = {
  unknown: 'unknown',
  'stored-flat': 'stored flat',
  'cut-off-other-count': 'cut-off set for another cell count',
  'wrong-mode': 'wrong charger mode',
  'wrong-cell-count': 'wrong cell count set',
  mechanical: 'mechanical',
  handling: 'handling',
  'heat-or-load': 'heat or load',
  cold: 'cold',
  water: 'water',
  age: 'age',
  maker: 'the pack as made',
};

/** Why an entry is not taken into an incident's log. */
export function entryRefusalSentence(why: EntryRefusal): string {
  switch (why.code) {
    case 'not-reported':
      return 'This incident has not been reported yet.';
    case 'reported-already':
      return 'This incident is reported already; add to it instead.';
    case 'is-closed':
      return 'This incident is closed. Open it again with a reason to add to it.';
    case 'is-open':
      return 'This incident is open already.';
    case 'no-such-task':
      return 'There is no such follow-up to be done here.';
    case 'tasks-open':
      return `${plural(why.count, 'follow-up')} ${why.count === 1 ? 'is' : 'are'} not done yet.`;
    case 'cause-missing':
      return 'Name the cause first; “unknown” is one.';
    default:
      return why satisfies never;
  }
}
