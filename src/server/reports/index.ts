export { REPORT, reportFrom } from './service';
