import { readFileSync } from 'node:fs';

/** Median of the times a piece of work takes, milliseconds, after a warm-up. */
export async function medianMs(rounds: number, work: () => unknown): Promise<number> {
  for (let i = 0; i < Math.min(5, rounds); i++) await work();
  const times: number[] = [];
  for (let i = 0; i < rounds; i++) {
    const start = performance.now();
    await work();
    times.push(performance.now() - start);
  }
  return median(times);
}

export function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)] ?? NaN;
}

/** The kernel counts a process's time in hundredths of a second. */
const TICK_MS = 10;

/** What a process has worked so far, its threads with it, in milliseconds. */
export function cpuMs(pid: number): number {
  const [user, system] = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1]!.split(' ').slice(11, 13);
  return (Number(user) + Number(system)) * TICK_MS;
}

export function say(what: string, ...figures: readonly string[]): void {
  process.stdout.write(`${what.padEnd(54)} ${figures.join('   ')}\n`);
}

export const ms = (value: number) => `${value.toFixed(value < 10 ? 2 : 1)} ms`;
export const ratio = (value: number) => `× ${value.toFixed(2)}`;
