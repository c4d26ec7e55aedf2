import { useEffect, useReducer, useRef } from 'react';
import type { Bound, Plan, PlanInput } from '../../core/charging';
import type { BoundMessage, BoundQuestion } from '../workers/bound.worker';
import type { PlanMessage, PlanQuestion } from '../workers/planner.worker';

/** A plan in the making. */
export interface Planned {
  readonly state: 'none' | 'planning' | 'done' | 'stopped' | 'failed';
  readonly plan: Plan | null;
  /** How far the search has come, from 0 to 1. */
  readonly share: number;
  /** Undefined while it is not worked out yet; null where nothing could be proven. */
  readonly bound: Bound | null | undefined;
}

export const NOTHING: Planned = { state: 'none', plan: null, share: 0, bound: undefined };

type Event =
  | { readonly kind: 'asked' | 'stopped' | 'failed' | 'dropped' }
  | { readonly kind: 'planned'; readonly message: PlanMessage }
  | { readonly kind: 'bounded'; readonly bound: Bound | null };

export function plannedAfter(state: Planned, event: Event): Planned {
  switch (event.kind) {
    case 'dropped':
      return NOTHING;
    // The plan before stays on the page until there is another.
    case 'asked':
      return { ...state, state: 'planning', share: 0, bound: undefined };
    case 'stopped':
      return { ...state, state: 'stopped' };
    case 'failed':
      return { ...state, state: 'failed' };
    case 'bounded':
      return { ...state, bound: event.bound };
    case 'planned': {
      const { plan, share, done } = event.message;
      return { ...state, state: done ? 'done' : 'planning', plan, share };
    }
    default:
      return event satisfies never;
  }
}

/** Plans an evening in a worker and, once that is done, asks another how good it is. Null asks nothing. */
export function usePlan(input: PlanInput | null): Planned & { readonly stop: () => void } {
  const [state, tell] = useReducer(plannedAfter, NOTHING);
  const planner = useRef<Worker | null>(null);
  const bounder = useRef<Worker | null>(null);
  const asked = useRef(0);

  const end = () => {
    planner.current?.terminate();
    bounder.current?.terminate();
    [planner.current, bounder.current] = [null, null];
  };
  useEffect(() => end, []);
  useEffect(() => {
    if (!input) {
      tell({ kind: 'dropped' });
      return;
    }
    const id = ++asked.current;
    tell({ kind: 'asked' });
    planner.current ??= new Worker(new URL('../workers/planner.worker.ts', import.meta.url), {
      type: 'module',
    });
    planner.current.onerror = () => id === asked.current && tell({ kind: 'failed' });
    planner.current.onmessage = ({ data }: MessageEvent<PlanMessage>) => {
      if (data.id !== asked.current) return;
      tell({ kind: 'planned', message: data });
      if (data.done) prove(id, data.plan);
    };
    const prove = (of: number, plan: Plan) => {
      bounder.current ??= new Worker(new URL('../workers/bound.worker.ts', import.meta.url), {
        type: 'module',
      });
      bounder.current.onmessage = ({ data }: MessageEvent<BoundMessage>) => {
        if (data.id === asked.current) tell({ kind: 'bounded', bound: data.bound });
      };
      bounder.current.onerror = () => of === asked.current && tell({ kind: 'bounded', bound: null });
      bounder.current.postMessage({ id: of, input, wishes: plan.wishes } satisfies BoundQuestion);
    };
    planner.current.postMessage({ id, input } satisfies PlanQuestion);
  }, [input]);

  return {
    ...state,
    stop: () => {
      end();
      tell({ kind: 'stopped' });
    },
  };
}
