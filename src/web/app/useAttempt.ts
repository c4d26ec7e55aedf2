import { useState } from 'react';
import { FailedRequest } from './api';

/** Does what a button asks of the register, and keeps in a sentence why it was refused, until the next attempt. */
export function useAttempt() {
  const [problem, setProblem] = useState<string | null>(null);
  const attempt = async (work: () => Promise<void>): Promise<void> => {
    setProblem(null);
    try {
      await work();
    } catch (error) {
      if (!(error instanceof FailedRequest)) throw error;
      setProblem(error.says);
    }
  };
  return { problem, attempt };
}
