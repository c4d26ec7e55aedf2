import { useCallback } from 'react';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { useOwner } from './owner';

interface DraftState {
  readonly drafts: Readonly<Record<string, unknown>>;
}

/**
 * What has been typed and not yet been taken, by person and form. Survives reload, a lost connection and the end of a session; whoever signs in next
 * on this device is shown nothing of it.
 */
export const useDrafts = create<DraftState>()(
  persist((): DraftState => ({ drafts: {} }), { name: 'malle.drafts' }),
);

export function withDraft(state: DraftState, key: string, value: unknown): DraftState {
  return { drafts: { ...state.drafts, [key]: value } };
}

export function withoutDraft(state: DraftState, key: string): DraftState {
  const { [key]: _gone, ...drafts } = state.drafts;
  return { drafts };
}

/** A form's key among those of everybody who used this device. */
function own(key: string): string {
  return `${useOwner.getState().personId ?? 'nobody'} ${key}`;
}

export function saveDraft(key: string, value: unknown): void {
  useDrafts.setState((state) => withDraft(state, own(key), value));
}

export function dropDraft(key: string): void {
  useDrafts.setState((state) => withoutDraft(state, own(key)));
}

export function readDraft<Value>(key: string): Value | undefined {
  return useDrafts.getState().drafts[own(key)] as Value | undefined;
}

/** Like `useState`, but what was set outlives the page until it is cleared. */
export function useDraft<Value>(key: string, initial: Value): [Value, (value: Value) => void, () => void] {
  const value = useDrafts((state) => (state.drafts[own(key)] as Value | undefined) ?? initial);
  const set = useCallback((next: Value) => saveDraft(key, next), [key]);
  const clear = useCallback(() => dropDraft(key), [key]);
  return [value, set, clear];
}
