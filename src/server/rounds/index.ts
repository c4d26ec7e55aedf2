export { rounds } from './service';
