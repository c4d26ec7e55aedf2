/** Something a server does again and again. */
export interface Repeated {
  /** Ends it; settles once nothing of it is under way. */
  stop(): Promise<void>;
}

/**
 * Does something every so often, never twice at once.
 * @param work handed whether it is to go on; what can fail in it is its own to tell
 */
export function repeatedly(everyMs: number, work: (goesOn: () => boolean) => Promise<void>): Repeated {
  let stopped = false;
  let underWay: Promise<void> | null = null;
  const timer = setInterval(() => {
    underWay ??= work(() => !stopped).finally(() => {
      underWay = null;
    });
  }, everyMs);
  timer.unref();
  return {
    stop: async () => {
      stopped = true;
      clearInterval(timer);
      await underWay;
    },
  };
}
