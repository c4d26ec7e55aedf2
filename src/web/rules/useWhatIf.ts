import { useEffect, useReducer, useRef } from 'react';
import type { RulesVersion } from '../../contract';
import type { HouseRules } from '../../core/rules';
import type { RuleEffect } from '../../core/whatif';
import { currentTime } from '../app/clock';
import type { WhatIfMessage, WhatIfQuestion } from '../workers/whatIf.worker';

/** How far the preview of a rule change has come. */
export interface WhatIf {
  /** So many workers are still at it, while it runs. */
  readonly working: number;
  readonly state: 'none' | 'running' | 'done' | 'cancelled' | 'failed';
  readonly packsSoFar: number;
  readonly packs: number;
  readonly records: number;
  readonly milliseconds: number;
  readonly effects: readonly RuleEffect[];
}

export const NO_PREVIEW: WhatIf = {
  working: 0,
  state: 'none',
  packsSoFar: 0,
  packs: 0,
  records: 0,
  milliseconds: 0,
  effects: [],
};

/** What a worker tells, or what happens on this side. */
export type WhatIfEvent =
  | WhatIfMessage
  | { readonly kind: 'asked'; readonly workers: number }
  | { readonly kind: 'cancelled' | 'dropped' };

/** Every change a preview can undergo. */
export function whatIfAfter(state: WhatIf, event: WhatIfEvent): WhatIf {
  switch (event.kind) {
    case 'asked':
      return { ...NO_PREVIEW, working: event.workers, state: 'running' };
    case 'dropped':
      return NO_PREVIEW;
    case 'cancelled':
      return { ...state, state: 'cancelled' };
    case 'failed':
      return { ...state, state: 'failed' };
    case 'done': {
      const working = state.working - 1;
      const milliseconds = Math.max(state.milliseconds, event.milliseconds);
      return { ...state, working, milliseconds, state: working === 0 ? 'done' : state.state };
    }
    case 'progress': {
      const packsSoFar = state.packsSoFar + event.judged;
      const records = state.records + event.records;
      const effects = [...state.effects, ...event.effects];
      return { ...state, packsSoFar, packs: event.packs, records, effects };
    }
    default:
      return event satisfies never;
  }
}

/** Typing goes on for about this long between two keys; the question waits for the last. */
const SETTLE_MS = 350;

/** One core is left to whoever types; more than four workers only wait for the register. */
const workersHere = () => Math.max(2, Math.min(4, navigator.hardwareConcurrency - 1));

/**
 * Asks workers what these rules would do to the register, each for its share of the packs, whenever the rules change; null asks nothing. Cancelling ends
 * the workers; the next change starts others.
 */
export function useWhatIf(
  { rules: before, version }: Pick<RulesVersion, 'rules' | 'version'>,
  after: HouseRules | null,
): WhatIf & { cancel: () => void } {
  const [state, tell] = useReducer(whatIfAfter, NO_PREVIEW);
  const workers = useRef<readonly Worker[]>([]);
  const lastAsked = useRef(0);
  const asked = after && JSON.stringify(after);
  const basis = JSON.stringify(before);

  const end = () => {
    for (const worker of workers.current) worker.terminate();
    workers.current = [];
  };
  useEffect(() => end, []);
  useEffect(() => {
    if (asked === null) {
      tell({ kind: 'dropped' });
      return;
    }
    const shares = workersHere();
    tell({ kind: 'asked', workers: shares });
    const timer = setTimeout(() => {
      if (workers.current.length === 0) workers.current = Array.from({ length: shares }, newWorker);
      const id = ++lastAsked.current;
      for (const [share, worker] of workers.current.entries()) {
        // A worker in the middle of a page answers the question before for a moment longer.
        worker.onmessage = ({ data }: MessageEvent<WhatIfMessage>) => {
          if (data.id === id) tell(data);
        };
        worker.onerror = () => tell({ id, kind: 'failed' });
        const question: WhatIfQuestion = {
          id,
          share,
          shares,
          before: JSON.parse(basis) as HouseRules,
          version,
          after: JSON.parse(asked) as HouseRules,
          now: currentTime(),
        };
        worker.postMessage(question);
      }
    }, SETTLE_MS);
    return () => {
      clearTimeout(timer);
      for (const worker of workers.current) worker.onmessage = null;
    };
  }, [asked, basis, version]);

  return {
    ...state,
    cancel: () => {
      end();
      tell({ kind: 'cancelled' });
    },
  };
}

function newWorker(): Worker {
  return new Worker(new URL('../workers/whatIf.worker.ts', import.meta.url), { type: 'module' });
}
