import type { DisposalPayload } from '../../../core/lifecycle';
import type { PackId } from '../../../core/measure';
import type { PackTypeFacts } from '../../../core/pack';

/** A retired pack, as its next step wants it. */
export interface LeavingPack {
  readonly id: PackId;
  readonly tag: string;
  readonly type: PackTypeFacts;
  /** The highest cell as last read, millivolts; null when nobody read it. */
  readonly fromMv: number | null;
  readonly apart: boolean;
}

/** What every form of a step is given. */
export interface StepProps {
  readonly pack: LeavingPack;
  readonly busy: boolean;
  readonly at: (field: string) => string | undefined;
  /** Hands the step in; true when it is kept or safely waiting, so that what was typed may go. */
  readonly take: (payload: DisposalPayload, done: string) => Promise<boolean>;
}
