import { FailedRequest, ask } from './api';
import { forgetOfflineCopy } from './offlineCopy';
import { say } from './notices';

/** Ends the session and starts the page afresh, so that nothing of the last person's stays in memory or on the device. */
export async function signOut(): Promise<void> {
  try {
    await ask('DELETE /session');
  } catch (error) {
    if (!(error instanceof FailedRequest)) throw error;
    return say(`${error.says} You are still signed in.`);
  }
  await forgetOfflineCopy().catch(() => undefined);
  window.location.assign('/');
}
