import type { ClockAnswer } from '../../contract';
import type { Instant } from '../../core/measure';

/** Where the server gets its time from. Nothing else in it asks the machine. */
export interface Clock {
  now(): Instant;
  readonly frozen: boolean;
}

export function clockFrom(fixedNow: Instant | null): Clock {
  return fixedNow === null ? { now: () => Date.now(), frozen: false } : { now: () => fixedNow, frozen: true };
}

export function clockAnswer(clock: Clock): ClockAnswer {
  return { now: clock.now(), frozen: clock.frozen };
}
