import { Planning } from '../../core/charging';
import type { Plan, PlanInput } from '../../core/charging';

/** Plan this evening. A newer question ends the work on an older one. */
export interface PlanQuestion {
  readonly id: number;
  readonly input: PlanInput;
}

/** The best plan so far, and how far the search has come. Explanations come with the last. */
export interface PlanMessage {
  readonly id: number;
  readonly plan: Plan;
  /** How far the search has come, from 0 to 1. */
  readonly share: number;
  readonly done: boolean;
}

/** So many tries between two looks at what else came: a few hundredths of a second. */
const STRIDE = 60;
let latest = 0;

self.onmessage = ({ data }: MessageEvent<PlanQuestion>) => {
  latest = data.id;
  void answer(data);
};

async function answer({ id, input }: PlanQuestion): Promise<void> {
  const planning = new Planning(input);
  const tell = (done: boolean) => {
    const plan = planning.plan({ explained: done });
    self.postMessage({ id, plan, share: planning.share, done } satisfies PlanMessage);
  };
  tell(false);
  while (!planning.done) {
    const better = planning.improve(STRIDE);
    // Lets a newer question in.
    await new Promise((resolve) => setTimeout(resolve));
    if (id !== latest) return;
    if (better) tell(false);
  }
  tell(true);
}
