import type { FlyingAnswer, PackRow, RegisterAnswer } from '../../contract';

/** What every page of Flying is drawn from. */
export interface Shown {
  readonly flying: FlyingAnswer;
  readonly register: RegisterAnswer;
  readonly rows: readonly PackRow[];
}
