export { daysToCome } from './days';
export { onCharge } from './service';
