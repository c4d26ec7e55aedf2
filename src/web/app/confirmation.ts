import { create } from 'zustand';
import { onConfirmFirst } from './api';

interface Asked {
  /** Answers what waits; null while nothing does. */
  readonly answer: ((isSure: boolean) => void) | null;
}

/** Whether something waits for whoever is signed in to give their password once more. */
export const useConfirmation = create<Asked>(() => ({ answer: null }));

let asking: Promise<boolean> | null = null;

onConfirmFirst(() => {
  asking ??= new Promise<boolean>((answer) => useConfirmation.setState({ answer })).finally(() => {
    asking = null;
    useConfirmation.setState({ answer: null });
  });
  return asking;
});
