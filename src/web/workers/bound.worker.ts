import loadSolver from 'highs';
import type { Highs } from 'highs';
import solverUrl from 'highs/runtime?url';
import { boundFor, proveBound } from '../../core/charging';
import type { Bound, PlanInput, Wishes } from '../../core/charging';

/** How far is the plan with these wishes from the best there can be? */
export interface BoundQuestion {
  readonly id: number;
  readonly input: PlanInput;
  readonly wishes: Wishes;
}

export interface BoundMessage {
  readonly id: number;
  readonly bound: Bound | null;
}

/** A programme that is not solved by then proves what it has settled so far. */
const MOST_SECONDS = 10;
let solver: Promise<Highs> | null = null;

self.onmessage = ({ data: { id, input, wishes } }: MessageEvent<BoundQuestion>) => {
  void boundFor(input, wishes, solve)
    .catch(() => null)
    .then((bound) => self.postMessage({ id, bound } satisfies BoundMessage));
};

async function solve(programme: string): Promise<number | null> {
  solver ??= loadSolver({ locateFile: () => solverUrl });
  try {
    return proveBound(await solver, programme, MOST_SECONDS);
  } catch {
    // After an error the module is of no more use.
    solver = null;
    return null;
  }
}
