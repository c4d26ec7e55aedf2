export type { Spread } from './spread';
export { certainSocSpreadPercent, spread } from './spread';
