import type { PersonId } from '../measure';
import { RECORD_KINDS } from '../record/kinds';
import type { RecordKind } from '../record';

export const ROLES = ['custodian', 'deputy', 'officer', 'pilot', 'reader'] as const;
export type Role = (typeof ROLES)[number];

/** From the one who may do everything to the one who looks. The safety officer stands beside them. */
const RANK = ['custodian', 'deputy', 'pilot', 'reader'] as const satisfies readonly Role[];
type Ranked = (typeof RANK)[number];

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
  'equipment.edit': 'deputy',
  'device.edit': 'deputy',
  'craft.edit': 'deputy',
  'flying-day.edit': 'pilot',
  'flying-day.hand-out': 'deputy',
  'bench.attend': 'pilot',
  'bench.plan': 'pilot',
  'bench.charge': 'pilot',
  'register.import': 'deputy',
  'register.export': 'custodian',
  'people.edit': 'custodian',
  'key.edit': 'custodian',
  'rules.adopt': 'custodian',
  'log.read': 'custodian',
} as const satisfies Readonly<Record<string, Ranked>>;

/** What a safety officer may besides reading: follow incidents up and close them, and see who changed what. */
const OFFICER_MAY: ReadonlySet<Action> = new Set<Action>(['incident.follow', 'log.read']);

/**
 * Something a person may or may not do: write a record of a kind, or one of the others. `record.correction` is for one's own records,
 * `record.correct.any` for all.
 */
export type Action = `record.${RecordKind}` | keyof typeof OTHER_ACTIONS;

const LEAST_ROLE: ReadonlyMap<Action, Ranked> = new Map<Action, Ranked>([
  ...(Object.keys(RECORD_KINDS) as RecordKind[]).map(
    (kind) => [`record.${kind}`, RECORD_KINDS[kind].writtenBy] as const,
  ),
  ...(Object.entries(OTHER_ACTIONS) as [keyof typeof OTHER_ACTIONS, Ranked][]),
]);

export const ACTIONS: readonly Action[] = [...LEAST_ROLE.keys()];

/** Whoever writes something. */
export interface Actor {
  readonly id: PersonId;
  readonly role: Role;
}

/**
 * Whether a person of this role may do this. The deputy does all but house rules, people, and a supervised recovery, which is
 * the custodian's alone. The safety officer reads all, follows incidents up and closes them.
 * @example mayDo('pilot', 'record.flight') // => true
 * @example mayDo('reader', 'incident.report') // => false
 * @example mayDo('deputy', 'rules.adopt') // => false
 * @example mayDo('officer', 'incident.follow') // => true
 */
export function mayDo(role: Role, action: Action): boolean {
  const least = LEAST_ROLE.get(action)!;
  if (role === 'officer') return least === 'reader' || OFFICER_MAY.has(action);
  return RANK.indexOf(role) <= RANK.indexOf(least);
}
