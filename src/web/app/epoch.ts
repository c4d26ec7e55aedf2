import { create } from 'zustand';

interface EpochState {
  /** Which register answers: one that was brought back from a backup has another epoch than before. Null until one answered. */
  readonly heard: string | null;
  /** How many things were handed in again to one that was brought back, as this device keeps it; null once somebody has seen that. */
  readonly again: string | null;
}

export const useEpoch = create<EpochState>()(() => ({ heard: null, again: null }));

export function heardEpoch(heard: string): void {
  if (useEpoch.getState().heard !== heard) useEpoch.setState({ heard });
}
