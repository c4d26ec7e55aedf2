export type { Action, Role } from './permissions';
export { ACTIONS, ROLES, mayDo } from './permissions';
