export { REDRAW, redrawn } from './service';
