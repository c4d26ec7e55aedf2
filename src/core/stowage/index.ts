export type { PlaceFacts, StowageWarning, StowedPack } from './warnings';
export { stowageWarnings, warningsAdded } from './warnings';
