export { onCharge, runningOn } from './service';
