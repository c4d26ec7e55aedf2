import { create } from 'zustand';

interface EpochState {
  /** Which register answers: one that was brought back from a backup has another epoch than before. Null until one answered. */
  readonly heard: string | null;
  /** So many things were handed in again to one that was brought back; null where none was, or somebody has seen it. */
  readonly again: number | null;
}

export const useEpoch = create<EpochState>()(() => ({ heard: null, again: null }));

export function heardEpoch(heard: string): void {
  if (useEpoch.getState().heard !== heard) useEpoch.setState({ heard });
}
