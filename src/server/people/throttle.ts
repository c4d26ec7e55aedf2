import type { Pool } from 'pg';
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import { Refused } from '../platform/problems';

/** Wrong tries allowed within the window: from one address for one name, for one name from anywhere, and from one address for any. */
const TRIES_A_NAME = 8;
const TRIES_AN_ACCOUNT = 30;
const TRIES_AN_ADDRESS = 40;
/** At one bench: whatever is scanned there and is no pack's tag may be a badge, and mostly is none. */
const BADGES_A_BENCH = 60;
const WINDOW_SECONDS = 15 * 60;

export interface Throttle {
  /** Counts a try; refuses when there were too many. */
  count(address: string, login: string): Promise<void>;
  /** Takes the count of a right try back, and forgets the wrong ones before it: a whole club may sign in from one address. */
  forgive(address: string, login: string): Promise<void>;
  /** Takes the count of the first half of a sign-in back, but for this name from this address: the code is still to come. */
  halfForgive(address: string, login: string): Promise<void>;
  /** Counts what was scanned as a badge at a bench; refuses when there was too much that is nobody's. */
  countBadge(benchId: string): Promise<void>;
  /** Takes the count of somebody's badge back. */
  forgiveBadge(benchId: string): Promise<void>;
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
  const byBench = limiter('bench', BADGES_A_BENCH);
  const takeBack = async (address: string, login: string) => {
    await byAddress.reward(address);
    await byAccount.reward(login);
  };
  return {
    count: async (address, login) => {
      try {
        await byAddress.consume(address);
        await byName.consume(`${address} ${login}`);
        // Guesses from thirty addresses are guesses, too.
        await byAccount.consume(login);
      } catch (error) {
        throw tooMany(error);
      }
    },
    countBadge: async (benchId) => {
      try {
        await byBench.consume(benchId);
      } catch (error) {
        throw tooMany(error);
      }
    },
    forgiveBadge: async (benchId) => {
      await byBench.reward(benchId);
    },
    forgive: async (address, login) => {
      await byName.delete(`${address} ${login}`);
      await takeBack(address, login);
    },
    halfForgive: takeBack,
  };
}

/** What a limiter throws where the tries are used up, as a refusal; anything else as it is. */
function tooMany(error: unknown): unknown {
  if (!(error instanceof RateLimiterRes)) return error;
  const minutes = Math.ceil(error.msBeforeNext / 60_000);
  return new Refused('too-many-tries', { detail: `Try again in ${minutes} min.` });
}
