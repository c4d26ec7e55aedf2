import type { PersonId } from '../measure';
import { RECORD_KINDS } from '../record/kinds';
import type { RecordKind } from '../record';

/** From the one who may do everything to the one who looks. */
export const ROLES = ['custodian', 'deputy', 'pilot', 'reader'] as const;
export type Role = (typeof ROLES)[number];

/** What is done besides writing a record, by the least role that may. */
const OTHER_ACTIONS = {
  'register.read': 'reader',
  'record.correct.any': 'deputy',
  'incident.report': 'pilot',
  'incident.follow': 'deputy',
  consign: 'deputy',
  'recycler.edit': 'deputy',
  'round.work': 'pilot',
  'pack.create': 'deputy',
  'pack.edit': 'deputy',
  'type.edit': 'deputy',
  'place.edit': 'deputy',
  'instrument.edit': 'deputy',
  'people.edit': 'custodian',
  'rules.adopt': 'custodian',
} as const satisfies Readonly<Record<string, Role>>;

/**
 * Something a person may or may not do: write a record of a kind, or one of the others. `record.correction` is for one's own records,
 * `record.correct.any` for all.
 */
export type Action = `record.${RecordKind}` | keyof typeof OTHER_ACTIONS;

const LEAST_ROLE: ReadonlyMap<Action, Role> = new Map<Action, Role>([
  ...(Object.keys(RECORD_KINDS) as RecordKind[]).map(
    (kind) => [`record.${kind}`, RECORD_KINDS[kind].writtenBy] as const,
  ),
  ...(Object.entries(OTHER_ACTIONS) as [keyof typeof OTHER_ACTIONS, Role][]),
]);

export const ACTIONS: readonly Action[] = [...LEAST_ROLE.keys()];

/** Whoever writes something. */
export interface Actor {
  readonly id: PersonId;
  readonly role: Role;
}

/**
 * Whether a person of this role may do this. The deputy does all but house rules, people, and a supervised recovery, which is
 * the custodian's alone.
 * @example mayDo('pilot', 'record.flight') // => true
 * @example mayDo('reader', 'incident.report') // => false
 * @example mayDo('deputy', 'rules.adopt') // => false
 */
export function mayDo(role: Role, action: Action): boolean {
  return ROLES.indexOf(role) <= ROLES.indexOf(LEAST_ROLE.get(action)!);
}
