export { addDevice, renewKey } from './devices';
export type { Door } from './door';
export { openDoor } from './door';
