export type { LoadCheck } from './sums';
export {
  effectiveC,
  hoverOffMinutes,
  landingRestMv,
  loadCheck,
  lowestPunchPercent,
  sagMv,
  timerMinutes,
} from './sums';
