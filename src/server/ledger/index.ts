export { append } from './append';
export { rebuildAll, rebuildPack } from './rebuild';
export { recordsOf } from './rows';
export { layDownFirstRules, rulesInForce } from './rulesInForce';
export { verifyLedger } from './verify';
