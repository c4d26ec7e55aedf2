export { Person } from './entities';
export type { PersonEntity } from './entities';
