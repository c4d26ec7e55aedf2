export { waiting } from './service';
