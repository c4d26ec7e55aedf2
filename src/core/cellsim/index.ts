export type { Random } from './random';
export { between, seededId, seededRandom } from './random';
export type { SimPack } from './simPack';
export { balanceTo, draw, newSimPack, readCells, rest, weaken } from './simPack';
