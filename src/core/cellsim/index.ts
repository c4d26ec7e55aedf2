export type { Random } from '../random';
export { bell, between, seededId, seededRandom } from '../random';
export type { NewPack, SimCell, SimCharge, SimMoment, SimPack, SimUse } from './simPack';
export {
  balanceTo,
  bleedTo,
  capacityAh,
  charge,
  chargeFor,
  discharge,
  drainFor,
  milliohmAt,
  newSimPack,
  percentOf,
  readCells,
  readResistance,
  rest,
  use,
  weaken,
} from './simPack';
