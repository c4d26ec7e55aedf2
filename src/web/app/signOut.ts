import { FailedRequest, ask, noAnswer } from './api';
import { forgetOfflineCopy } from './offlineCopy';
import { say } from './notices';
import { useOwner } from './owner';
import { forgetSent } from './sent';

/** Set while this device is signed out and the register has not heard of it. */
const LEFT = 'malle.left';

/**
 * Ends the session and starts the page afresh, so that nothing of the last person's stays in memory or on the device. Without a network this device is
 * signed out all the same, and the register hears of it before anything else is asked.
 */
export async function signOut(): Promise<void> {
  try {
    await ask('DELETE /session');
  } catch (error) {
    if (!(error instanceof FailedRequest)) throw error;
    if (!noAnswer(error)) return say(`${error.says} You are still signed in.`);
    localStorage.setItem(LEFT, 'yes');
  }
  await forgetPerson();
  window.location.assign('/');
}

/** Takes off this device what the register told the person who is leaving; what they typed and what waits stays, for them alone. */
export async function forgetPerson(): Promise<void> {
  forgetSent(useOwner.getState().personId);
  await forgetOfflineCopy().catch(() => undefined);
}

/**
 * Ends the session that somebody left without a network.
 * @throws {@link FailedRequest} while there still is none: until then nobody is signed in here
 */
export async function endLeftSession(): Promise<void> {
  if (localStorage.getItem(LEFT) === null) return;
  await ask('DELETE /session');
  localStorage.removeItem(LEFT);
}
