export { logged, note, verifyLog } from './registerLog';
export { logRoutes } from './routes';
