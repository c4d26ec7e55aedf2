import { useEffect, useState } from 'react';
import { create } from 'zustand';
import type { ClockAnswer } from '../../contract';
import type { Instant } from '../../core/measure';
import type { Reader } from '../../core/wording';

const TICK_MS = 15_000;

interface ClockState {
  readonly offsetMs: number;
  readonly frozenAt: Instant | null;
  readonly now: Instant;
}

/** The register's time, not this machine's: bench laptops are often minutes off, and due hours must agree. */
export const useClock = create<ClockState>(() => ({ offsetMs: 0, frozenAt: null, now: Date.now() }));

/** Takes the server's time from an answer that carries it. */
export function setClock({ now, frozen }: ClockAnswer): void {
  useClock.setState({ offsetMs: now - Date.now(), frozenAt: frozen ? now : null, now });
}

/** The register's time at this instant. */
export function currentTime(): Instant {
  return registerTime(Date.now());
}

/** The register's time at a moment of this device's clock. */
export function registerTime(deviceTime: number): Instant {
  const { offsetMs, frozenAt } = useClock.getState();
  return frozenAt ?? deviceTime + offsetMs;
}

/** Moves every "due in …" on the page along. */
export function startClock(): () => void {
  const timer = setInterval(() => useClock.setState({ now: currentTime() }), TICK_MS);
  return () => clearInterval(timer);
}

/** The register's time, moving every second while something on the page counts down. */
export function useSecond(): Instant {
  const [now, setNow] = useState(currentTime);
  useEffect(() => {
    const timer = setInterval(() => setNow(currentTime()), 1_000);
    return () => clearInterval(timer);
  }, []);
  return now;
}

const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;

/** The present and this browser's time zone, for putting moments into words. Changes every quarter minute. */
export function useReader(): Reader {
  const now = useClock((state) => state.now);
  return { now, zone };
}
