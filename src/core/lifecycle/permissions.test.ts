import { ACTIONS, mayDo, ROLES } from '.';
import type { Action, Role } from '.';

/** Who may do what, written out: c custodian, d deputy, o safety officer, p pilot, r reader. */
const TABLE: Readonly<Record<Action, string>> = {
  'register.read': 'cdopr',
  'record.received': 'cd',
  'record.reading': 'cdp',
  'record.resistance': 'cdp',
  'record.charge': 'cdp',
  'record.flight': 'cdp',
  'record.inspection': 'cdp',
  'round.work': 'cdp',
  'record.moved': 'cdp',
  'record.taken-out': 'cdp',
  'record.returned': 'cdp',
  'record.memory': 'cdp',
  'record.note': 'cdp',
  'record.correction': 'cdp',
  'record.correct.any': 'cd',
  'record.incident': 'cdp',
  'record.watch-ended': 'cd',
  'record.inspection-asked': 'cd',
  'record.decision': 'cd',
  'record.confirmation': 'cd',
  'record.recovery': 'c',
  'record.disposal': 'cd',
  'incident.report': 'cdp',
  'incident.follow': 'cdo',
  consign: 'cd',
  'recycler.edit': 'cd',
  'pack.create': 'cd',
  'pack.edit': 'cd',
  'type.edit': 'cd',
  'place.edit': 'cd',
  'instrument.edit': 'cd',
  'equipment.edit': 'cd',
  'device.edit': 'cd',
  'craft.edit': 'cd',
  'flying-day.edit': 'cdp',
  'flying-day.hand-out': 'cd',
  'bench.attend': 'cdp',
  'bench.plan': 'cdp',
  'bench.charge': 'cdp',
  'register.import': 'cd',
  'register.export': 'c',
  'people.edit': 'c',
  'key.edit': 'c',
  'rules.adopt': 'c',
  'log.read': 'co',
};

const cases = ROLES.flatMap((role) =>
  ACTIONS.map((action) => [role, action, TABLE[action].includes(role[0]!)] as const),
);

it.each(cases)('%s, %s: %s', (role: Role, action: Action, may: boolean) => {
  expect(mayDo(role, action)).toBe(may);
});
