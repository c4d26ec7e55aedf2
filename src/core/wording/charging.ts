import type {
  GateQuestion,
  GateRefusal,
  JobKind,
  LeftOut,
  Lift,
  Reason,
  SettingChange,
  SettingField,
} from '../charging';
import { CHEMISTRY } from '../chemistry';
import type { Instant } from '../measure';
import { amps, volts, durationWords } from './figures';
import { span } from './time';

/** What Malle calls the fields of a card where a charger has no word of its own. */
export const SETTING_WORDS: Readonly<Record<SettingField, string>> = {
  chemistry: 'Chemistry',
  mode: 'Mode',
  cells: 'Cells',
  topV: 'Volts a cell',
  amps: 'Current',
};

export const JOB_WORDS: Readonly<Record<JobKind, string>> = {
  charge: 'Charge full',
  raise: 'Up to storage',
  lower: 'Down to storage',
  discharge: 'Empty for a cycle',
};

/**
 * A field's value as it stands on a card.
 * @example settingValue('topV', 4200) // => "4.20 V"
 * @example settingValue('cells', 6) // => "6S"
 * @example settingValue('chemistry', 'lihv') // => "LiHV"
 */
export function settingValue(field: SettingField, value: string | number | null): string {
  if (value === null) return 'not set';
  switch (field) {
    case 'chemistry':
      return CHEMISTRY[value as keyof typeof CHEMISTRY].name;
    case 'mode':
      return String(value);
    case 'cells':
      return `${value}S`;
    case 'topV':
      return `${volts(Number(value))} V`;
    case 'amps':
      return amps(Number(value));
    default:
      return field satisfies never;
  }
}

/** What is asked at the gate, as whoever starts a charge would ask themselves. */
export const GATE_WORDS: Readonly<Record<GateQuestion, string>> = {
  looked: 'The pack was looked over since its last use: no swelling, dent, smell or bare conductor.',
  balanceLead: 'The balance lead is in its socket, the right way round.',
  polarity: 'Red is on red, black on black.',
  leadsFirst: 'The leads went into the charger first, then the pack onto the leads.',
  surface: 'It stands on a surface that does not burn, in or beside a fire-resistant container.',
  wayOut: 'The room is aired, and the way out is free.',
};

/** Why a job may not start, as a sentence with the next step in it. */
export function gateRefusalSentence(refusal: GateRefusal, now: Instant): string {
  switch (refusal.code) {
    case 'out-of-use':
      return `${refusal.tag} is out of use. Nobody charges it until a custodian has decided.`;
    case 'away':
      return `${refusal.tag} is signed out to somebody. Bring it back first.`;
    case 'unknown-cells':
      return `Nobody knows what ${refusal.tag} holds. Read its cells first.`;
    case 'not-cooled':
      return `${refusal.tag} was in use a short while ago. Let it cool for another ${span(refusal.until - now)}.`;
    case 'channel-out-of-order':
      return 'This channel is out of order. Choose another.';
    case 'chemistry':
      return `This charger is not listed for ${CHEMISTRY[refusal.chemistry].name}. Use one that is.`;
    case 'cells':
      return `This charger takes ${refusal.least} to ${refusal.most} cells, not ${refusal.cells}.`;
    case 'wrong-cells':
      return `The card says ${refusal.set} cells, the pack has ${refusal.has}.`;
    case 'mixed-chemistry':
      return 'The chemistry on the card is not the pack’s.';
    case 'below-floor':
      return `A cell of ${refusal.tag} is at ${volts(refusal.mv)} V, below the ${volts(refusal.floorMv)} V this charger starts on.`;
    case 'top-above-full':
      return `${volts(refusal.topMv)} V a cell is above full (${volts(refusal.fullMv)} V).`;
    case 'plug':
      return `No output or adapter of this charger fits the ${refusal.plug} plug.`;
    case 'mode':
      return `This charger has no ${refusal.mode} mode.`;
    case 'current':
      return `The channel does ${amps(refusal.most)} at most, the card says ${amps(refusal.amps)}.`;
    case 'unwatched-cells':
      return 'A plain charge of two cells and more wants its balance lead in, so that the charger watches each cell.';
    case 'unconfirmed':
      return unconfirmed(refusal.change);
    case 'chemistry-not-typed':
      return 'Say which chemistry stands on the display now.';
    case 'chemistry-set':
      return `The display says ${CHEMISTRY[refusal.set].name}; the pack is ${CHEMISTRY[refusal.wanted].name}. Change it on the charger.`;
    case 'cells-not-typed':
      return 'Type how many cells the charger detects.';
    case 'fewer-cells':
      return `The charger sees ${refusal.detected} of ${refusal.wanted} cells. Stop: perhaps one is dead, or the balance plug is not in. Take the pack off and read it.`;
    case 'more-cells':
      return `The charger sees ${refusal.detected} cells, the record says ${refusal.wanted}. Stop: this is another pack, or the record is wrong.`;
    case 'unanswered':
      return `Not answered yet: ${GATE_WORDS[refusal.question]}`;
    case 'nobody-attends':
      return 'Say who stays with it. No charge runs unattended.';
    default:
      return refusal satisfies never;
  }
}

function unconfirmed({ field, from, to, dangerous }: SettingChange): string {
  const change =
    from === null
      ? `Set ${SETTING_WORDS[field].toLowerCase()} to ${settingValue(field, to)}, and tick it.`
      : `The channel was last set to ${settingValue(field, from)}: change ${SETTING_WORDS[field].toLowerCase()} to ${settingValue(field, to)}, and tick it.`;
  return dangerous ? `${change} Left as it is, it could burn the pack.` : change;
}

/** Why a job stands where it stands. `where` names the next best place; null where there is none. */
export function reasonSentence(
  reason: Reason,
  where: (equipmentId: string, channel: string | null) => string,
): string {
  switch (reason.because) {
    case 'best-place':
      return 'The best place found.';
    case 'locked':
      return 'Locked here by hand.';
    case 'under-floor':
      return 'Comes first: it is under its floor.';
    case 'after-rest':
      return 'Begins once the pack has rested after its discharge.';
    case 'as-late-as':
      return `Full as late as ${LATE[reason.limit]} allows.${elsewhere(reason, 'longer full', where)}`;
    case 'as-soon-as':
      return `Begins as soon as ${SOON[reason.limit]}.${elsewhere(reason, 'later', where)}`;
    default:
      return reason satisfies never;
  }
}

const LATE = {
  flight: 'its flight',
  attendance: 'attendance',
  channel: 'the next job on the channel',
  power: 'the shared power',
} as const;
const SOON = {
  cooled: 'the pack has cooled',
  attendance: 'somebody is there',
  channel: 'the channel is free',
  power: 'there is power',
} as const;

function elsewhere(
  { elsewhere: place }: Extract<Reason, { elsewhere: unknown }>,
  worse: string,
  where: (equipmentId: string, channel: string | null) => string,
): string {
  if (!place) return ' Nothing else on the bench can do it in these hours.';
  const name = where(place.equipmentId, place.channel);
  return place.minutesWorse > 0
    ? ` On ${name} it would be ${durationWords(place.minutesWorse)} ${worse}.`
    : ` ${name} would do as well, but for the other jobs.`;
}

/** Which limit stands in the way of a pack that the plan leaves out. */
export function leftOutSentence({ why, minutes }: Pick<LeftOut, 'why' | 'minutes'>): string {
  switch (why) {
    case 'out-of-use':
      return 'Out of use: a custodian decides first.';
    case 'away':
      return 'Signed out to somebody: not on the bench.';
    case 'look-first':
      return 'Not looked over since its last use.';
    case 'measure-first':
    case 'unknown-cells':
      return 'Nobody knows what it holds: read it first.';
    case 'chosen':
      return 'Left out by hand.';
    case 'nobody-attends':
      return 'Nobody has said when they watch the bench.';
    case 'cell-in-the-way':
      return 'Its cells are too far apart for a job through the main lead: balance it first.';
    case 'nothing-to-do':
      return 'Nothing to be done by a charger.';
    case 'no-charger':
      return 'No charger is out of the cupboard.';
    case 'chemistry':
      return 'No charger here is listed for its chemistry.';
    case 'cells':
      return 'No charger here takes so many cells.';
    case 'plug':
      return 'No output or adapter here fits its plug.';
    case 'floor':
      return 'A cell is below what the chargers here start on.';
    case 'direction':
      return 'Nothing on this bench can move it that way.';
    case 'mode':
      return 'No charger here has the mode it needs.';
    case 'current':
      return 'The least current of the chargers here is more than it may have.';
    case 'too-long':
      return `The job takes ${minutes ?? 0} minutes: longer than anybody stays at a stretch.`;
    case 'no-room':
      return 'There is no room left for it while somebody is there.';
    default:
      return why satisfies never;
  }
}

/** The least thing that would make room. */
export function liftSentence(lift: Lift, stationName: (station: number) => string): string {
  switch (lift.by) {
    case 'attendance':
      return `${lift.minutes} minutes more attendance would do.`;
    case 'one-span':
      return `Somebody would have to stay ${lift.minutes} minutes at a stretch.`;
    case 'channel':
      return `One more channel like ${stationName(lift.like)} would do.`;
    case 'watts':
      return `${lift.more} W more power would do.`;
    default:
      return lift satisfies never;
  }
}
