export type { Chemistry, ChemistryFacts, LithiumChemistry } from './chemistry';
export { CHEMISTRIES, CHEMISTRY, LITHIUM_CHEMISTRIES, isLithium } from './chemistry';
export { CURVE_STEP_PERCENT, REST_MV } from './curves';
export type { SocEstimate } from './soc';
export { DEFAULT_METER_ERROR_MV, restMv, soc, socPercent } from './soc';
