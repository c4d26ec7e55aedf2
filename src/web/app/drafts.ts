import { useCallback } from 'react';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';

interface DraftState {
  readonly drafts: Readonly<Record<string, unknown>>;
}

/** What has been typed and not yet been taken, by form. Survives reload and a lost connection. */
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

export function saveDraft(key: string, value: unknown): void {
  useDrafts.setState((state) => withDraft(state, key, value));
}

export function dropDraft(key: string): void {
  useDrafts.setState((state) => withoutDraft(state, key));
}

export function readDraft<Value>(key: string): Value | undefined {
  return useDrafts.getState().drafts[key] as Value | undefined;
}

/** Like `useState`, but what was set outlives the page until it is cleared. */
export function useDraft<Value>(key: string, initial: Value): [Value, (value: Value) => void, () => void] {
  const value = useDrafts((state) => (state.drafts[key] as Value | undefined) ?? initial);
  const set = useCallback((next: Value) => saveDraft(key, next), [key]);
  const clear = useCallback(() => dropDraft(key), [key]);
  return [value, set, clear];
}
