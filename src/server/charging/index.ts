export { onCharge } from './service';
