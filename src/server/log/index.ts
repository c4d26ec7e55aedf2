export { logged, note, verifyLog } from './registerLog';
export type { Doer } from './registerLog';
export { logRoutes } from './routes';
