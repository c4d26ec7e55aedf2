export type { Random } from './random';
export { bell, between, seededId, seededRandom } from './random';
