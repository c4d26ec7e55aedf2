import { ask, FailedRequest } from './api';
import { forgetPerson } from './signOut';

/** What somebody comes in with at a shared bench. */
export type BenchPass = { readonly personId: string; readonly pin: string } | { readonly badge: string };

/**
 * Lets the next person in at a shared bench and begins the page anew: nothing of the last person's stays in memory or on the device.
 * @throws {@link FailedRequest} where the register lets nobody in by this
 */
export async function comeInAtBench(pass: BenchPass): Promise<void> {
  await ask('POST /session/bench', { body: pass });
  await forgetPerson();
  window.location.assign('/');
}

/** Whether a scan that is no pack's was somebody's badge; they are in then. */
export async function isBadge(scanned: string): Promise<boolean> {
  try {
    await comeInAtBench({ badge: scanned });
    return true;
  } catch (error) {
    if (error instanceof FailedRequest) return false;
    throw error;
  }
}
