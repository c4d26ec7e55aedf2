import type { PersonId } from '../measure';

export const ROLES = ['custodian', 'deputy', 'pilot', 'reader'] as const;
export type Role = (typeof ROLES)[number];

export const ACTIONS = [
  'register.read',
  'record.received',
  'record.reading',
  'record.resistance',
  'record.charge',
  'record.flight',
  'record.inspection',
  'record.moved',
  'record.note',
  'record.correction',
  'record.correct.any',
  'record.incident',
  'record.watch-ended',
  'record.inspection-asked',
  'record.decision',
  'record.confirmation',
  'record.recovery',
  'record.disposal',
  'incident.report',
  'incident.follow',
  'consign',
  'recycler.edit',
  'round.work',
  'pack.create',
  'pack.edit',
  'type.edit',
  'place.edit',
  'instrument.edit',
  'people.edit',
  'rules.adopt',
] as const;
/** Something a person may or may not do. `record.correction` is for one's own records, `record.correct.any` for all. */
export type Action = (typeof ACTIONS)[number];

const EVERYBODY = ['register.read'] as const satisfies readonly Action[];
const PILOT = [
  ...EVERYBODY,
  'record.reading',
  'record.resistance',
  'record.charge',
  'record.flight',
  'record.inspection',
  'record.moved',
  'record.note',
  'record.correction',
  'record.incident',
  'incident.report',
  'round.work',
] as const satisfies readonly Action[];
const DEPUTY = [
  ...PILOT,
  'record.received',
  'record.correct.any',
  'record.watch-ended',
  'record.inspection-asked',
  'record.decision',
  'record.confirmation',
  'record.disposal',
  'incident.follow',
  'consign',
  'recycler.edit',
  'pack.create',
  'pack.edit',
  'type.edit',
  'place.edit',
  'instrument.edit',
] as const satisfies readonly Action[];

/** Who may do what. The deputy does all but house rules, people, and a supervised recovery, which is the custodian's alone. */
export const PERMISSIONS: Readonly<Record<Role, ReadonlySet<Action>>> = {
  custodian: new Set<Action>(ACTIONS),
  deputy: new Set<Action>(DEPUTY),
  pilot: new Set<Action>(PILOT),
  reader: new Set<Action>(EVERYBODY),
};

/** Whoever writes something. */
export interface Actor {
  readonly id: PersonId;
  readonly role: Role;
}

/** Whether a person of this role may do this. */
export function mayDo(role: Role, action: Action): boolean {
  return PERMISSIONS[role].has(action);
}
