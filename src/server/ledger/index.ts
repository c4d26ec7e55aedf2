export { append } from './append';
export { reference, unknownAmong } from './references';
export { rebuildAll, rebuildPack } from './rebuild';
export { allFacts, placeTemperatures, recordsOf, recordsOfMany } from './rows';
export { layDownFirstRules, rulesInForce } from './rulesInForce';
export { verifyLedger } from './verify';
