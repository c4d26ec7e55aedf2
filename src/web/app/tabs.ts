interface Persisted {
  readonly persist: { getOptions(): { name?: string }; rehydrate(): Promise<void> | void };
}

/**
 * Keeps stores that several tabs write in step: without this, the tab that writes last would wipe out what the others
 * had waiting.
 */
export function shareAcrossTabs(...stores: readonly Persisted[]): void {
  window.addEventListener('storage', ({ key }) => {
    for (const { persist } of stores) {
      if (persist.getOptions().name === key) void persist.rehydrate();
    }
  });
}
