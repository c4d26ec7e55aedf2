import { useEffect, useReducer, useRef } from 'react';
import type { FleetBasis, FleetMessage, FleetPlan, FleetQuestion } from '../workers/fleet.worker';

type Done = Extract<FleetMessage, { kind: 'done' }>;

/** How far the forecast of what is to be bought has come. What was worked out last stays until the next is there. */
export interface FleetForecast {
  readonly state: 'none' | 'running' | 'done' | 'cancelled' | 'failed';
  readonly progress: {
    readonly stage: 'reading' | 'following' | 'drawing';
    readonly done: number;
    readonly of: number;
  } | null;
  readonly last: Done | null;
}

type FleetEvent = FleetMessage | { readonly kind: 'asked' | 'cancelled' };

const NONE: FleetForecast = { state: 'none', progress: null, last: null };

/** Every change a forecast can undergo. */
export function fleetAfter(state: FleetForecast, event: FleetEvent): FleetForecast {
  switch (event.kind) {
    case 'asked':
      return { ...state, state: 'running', progress: null };
    case 'cancelled':
      return { ...state, state: 'cancelled', progress: null };
    case 'failed':
      return { ...state, state: 'failed', progress: null };
    case 'reading':
    case 'following':
    case 'drawing':
      return { ...state, progress: { stage: event.kind, done: event.done, of: event.of } };
    case 'done':
      return { state: 'done', progress: null, last: event };
    default:
      return event satisfies never;
  }
}

/** Sliding goes on for about this long between two values; the question waits for the last. */
const SETTLE_MS = 150;

/** Asks a worker what is to be bought, whenever what is assumed changes; null asks nothing yet. Cancelling ends the worker. */
export function useFleet(
  basis: FleetBasis | null,
  plan: FleetPlan,
): FleetForecast & { readonly cancel: () => void; readonly again: () => void } {
  const [state, tell] = useReducer(fleetAfter, NONE);
  const [asks, again] = useReducer((count: number) => count + 1, 0);
  const worker = useRef<Worker | null>(null);
  const lastAsked = useRef(0);
  const question = basis && JSON.stringify({ basis, plan });
  const end = () => {
    worker.current?.terminate();
    worker.current = null;
  };
  useEffect(() => end, []);
  useEffect(() => {
    if (question === null) return;
    const timer = setTimeout(() => {
      tell({ kind: 'asked' });
      worker.current ??= newWorker();
      const id = ++lastAsked.current;
      worker.current.onmessage = ({ data }: MessageEvent<FleetMessage>) => {
        if (data.id === id) tell(data);
      };
      worker.current.onerror = () => tell({ id, kind: 'failed' });
      worker.current.postMessage({ id, ...(JSON.parse(question) as Omit<FleetQuestion, 'id'>) });
    }, SETTLE_MS);
    return () => clearTimeout(timer);
  }, [question, asks]);
  return {
    ...state,
    cancel: () => {
      end();
      tell({ kind: 'cancelled' });
    },
    again,
  };
}

function newWorker(): Worker {
  return new Worker(new URL('../workers/fleet.worker.ts', import.meta.url), { type: 'module' });
}
