/** Something a server does again and again. */
export interface Repeated {
  /** Ends it; settles once nothing of it is under way. */
  stop(): Promise<void>;
}

/**
 * Does something every so often, never twice at once.
 * @param work handed whether it is to go on; what can fail in it is its own to tell
 * @param atOnce for the first time now
 */
export function repeatedly(
  everyMs: number,
  work: (goesOn: () => boolean) => Promise<void>,
  atOnce = false,
): Repeated {
  let stopped = false;
  let underWay: Promise<void> | null = null;
  const doIt = () => {
    underWay ??= work(() => !stopped).finally(() => {
      underWay = null;
    });
  };
  const timer = setInterval(doIt, everyMs);
  timer.unref();
  if (atOnce) doIt();
  return {
    stop: async () => {
      stopped = true;
      clearInterval(timer);
      await underWay;
    },
  };
}
