import type { Pool } from 'pg';
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import { Refused } from '../platform/problems';

/** Wrong tries allowed within the window: from one address for one name, for one name from anywhere, and from one address for any. */
const TRIES_A_NAME = 8;
const TRIES_AN_ACCOUNT = 30;
const TRIES_AN_ADDRESS = 40;
const WINDOW_SECONDS = 15 * 60;

export interface Throttle {
  /** Counts a try; refuses when there were too many. */
  count(address: string, login: string): Promise<void>;
  /** Takes the count of a right try back, and forgets the wrong ones before it: a whole club may sign in from one address. */
  forgive(address: string, login: string): Promise<void>;
}

/** Counts are kept in PostgreSQL: guessing against several processes gains nothing. */
export function signInThrottle(pool: Pool): Throttle {
  const limiter = (keyPrefix: string, points: number) =>
    new RateLimiterPostgres({
      storeClient: pool,
      tableName: 'sign_in_throttle',
      tableCreated: true,
      keyPrefix,
      points,
      duration: WINDOW_SECONDS,
    });
  const byName = limiter('name', TRIES_A_NAME);
  const byAccount = limiter('account', TRIES_AN_ACCOUNT);
  const byAddress = limiter('address', TRIES_AN_ADDRESS);
  return {
    count: async (address, login) => {
      try {
        await byAddress.consume(address);
        await byName.consume(`${address} ${login}`);
        // Guesses from thirty addresses are guesses, too.
        await byAccount.consume(login);
      } catch (error) {
        if (!(error instanceof RateLimiterRes)) throw error;
        const minutes = Math.ceil(error.msBeforeNext / 60_000);
        throw new Refused('too-many-tries', { detail: `Try again in ${minutes} min.` });
      }
    },
    forgive: async (address, login) => {
      await byName.delete(`${address} ${login}`);
      await byAddress.reward(address);
      await byAccount.reward(login);
    },
  };
}
