export type { Door } from './door';
export { openDoor } from './door';
