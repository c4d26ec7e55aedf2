export { append } from './append';
export { reference, unknownAmong } from './references';
export { rebuildAll, rebuildPack, rebuildPacks } from './rebuild';
export {
  allFacts,
  chain,
  insertOf,
  ledgersAsJson,
  NO_RECORDS,
  placeTemperatures,
  recordsOf,
  recordsOfMany,
} from './rows';
export type { ChainedRecord, LedgerAsJson } from './rows';
export { layDownFirstRules, rulesInForce } from './rulesInForce';
export { verifyLedger } from './verify';
export { verifyStates } from './verifyStates';
