export type { Rejudging } from './rejudge';
