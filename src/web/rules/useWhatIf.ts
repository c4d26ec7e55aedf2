import { useEffect, useReducer, useRef } from 'react';
import type { RulesVersion } from '../../contract';
import type { HouseRules } from '../../core/rules';
import type { RuleEffect } from '../../core/whatif';
import { currentTime } from '../app/clock';
import type { WhatIfMessage, WhatIfQuestion } from '../workers/whatIf.worker';

/** How far the preview of a rule change has come. */
export interface WhatIf {
  readonly state: 'none' | 'running' | 'done' | 'cancelled' | 'failed';
  readonly packsSoFar: number;
  readonly packs: number;
  readonly records: number;
  readonly milliseconds: number;
  readonly effects: readonly RuleEffect[];
}

export const NO_PREVIEW: WhatIf = {
  state: 'none',
  packsSoFar: 0,
  packs: 0,
  records: 0,
  milliseconds: 0,
  effects: [],
};

/** What a worker tells, or what happens on this side. */
export type WhatIfEvent = WhatIfMessage | { readonly kind: 'asked' | 'cancelled' | 'dropped' };

/** Every change a preview can undergo. */
export function whatIfAfter(state: WhatIf, event: WhatIfEvent): WhatIf {
  switch (event.kind) {
    case 'asked':
      return { ...NO_PREVIEW, state: 'running' };
    case 'dropped':
      return NO_PREVIEW;
    case 'cancelled':
      return { ...state, state: 'cancelled' };
    case 'failed':
      return { ...state, state: 'failed' };
    case 'done':
      return { ...state, state: 'done', milliseconds: event.milliseconds };
    case 'progress': {
      const { packsSoFar, packs, records } = event;
      return { ...state, packsSoFar, packs, records, effects: [...state.effects, ...event.effects] };
    }
    default:
      return event satisfies never;
  }
}

/** Typing goes on for about this long between two keys; the question waits for the last. */
const SETTLE_MS = 350;

/**
 * Asks a worker what these rules would do to the register, whenever they change; null asks nothing. Cancelling ends the
 * worker; the next change starts another.
 */
export function useWhatIf(
  { rules: before, version }: Pick<RulesVersion, 'rules' | 'version'>,
  after: HouseRules | null,
): WhatIf & { cancel: () => void } {
  const [state, tell] = useReducer(whatIfAfter, NO_PREVIEW);
  const worker = useRef<Worker | null>(null);
  const lastAsked = useRef(0);
  const asked = after && JSON.stringify(after);
  const basis = JSON.stringify(before);

  const end = () => {
    worker.current?.terminate();
    worker.current = null;
  };
  useEffect(() => end, []);
  useEffect(() => {
    if (asked === null) {
      tell({ kind: 'dropped' });
      return;
    }
    tell({ kind: 'asked' });
    const timer = setTimeout(() => {
      worker.current ??= newWorker();
      const id = ++lastAsked.current;
      // A worker in the middle of a page answers the question before for a moment longer.
      worker.current.onmessage = ({ data }: MessageEvent<WhatIfMessage>) => {
        if (data.id === id) tell(data);
      };
      worker.current.onerror = () => tell({ id, kind: 'failed' });
      const question: WhatIfQuestion = {
        id,
        before: JSON.parse(basis) as HouseRules,
        version,
        after: JSON.parse(asked) as HouseRules,
        now: currentTime(),
      };
      worker.current.postMessage(question);
    }, SETTLE_MS);
    return () => {
      clearTimeout(timer);
      if (worker.current) worker.current.onmessage = null;
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
