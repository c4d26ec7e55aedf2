export { logged, note, verifyLog } from './registerLog';
export { logRoutes } from './routes';
export { toldOtherwise } from './toldOtherwise';
