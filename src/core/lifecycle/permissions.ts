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
  'round.work',
] as const satisfies readonly Action[];
const DEPUTY = [
  ...PILOT,
  'record.received',
  'record.correct.any',
  'pack.create',
  'pack.edit',
  'type.edit',
  'place.edit',
  'instrument.edit',
] as const satisfies readonly Action[];

/** Who may do what. The deputy does all but house rules and people. */
export const PERMISSIONS: Readonly<Record<Role, ReadonlySet<Action>>> = {
  custodian: new Set<Action>(ACTIONS),
  deputy: new Set<Action>(DEPUTY),
  pilot: new Set<Action>(PILOT),
  reader: new Set<Action>(EVERYBODY),
};

/** Whether a person of this role may do this. */
export function mayDo(role: Role, action: Action): boolean {
  return PERMISSIONS[role].has(action);
}
