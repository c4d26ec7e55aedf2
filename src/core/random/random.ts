/** A stream of numbers in [0, 1) that is the same for the same seed. */
export type Random = () => number;

/** A small, well-mixed generator (mulberry32). Good for stories and tests, not for secrets. */
export function seededRandom(seed: number): Random {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/** A bell-shaped number around 0 with standard deviation 1 (twelve uniform draws, so never beyond ±6). */
export function bell(random: Random): number {
  let sum = -6;
  for (let i = 0; i < 12; i++) sum += random();
  return sum;
}

/** A whole number from low to high, both included. */
export function between(random: Random, low: number, high: number): number {
  return low + Math.floor(random() * (high - low + 1));
}

/** A seeded UUID (version 7): its leading digits are the instant, so ids of one register sort by time. */
export function seededId(random: Random, at: number): string {
  const time = Math.max(0, Math.round(at)).toString(16).padStart(12, '0');
  const hex = (digits: number) =>
    Array.from({ length: digits }, () => Math.floor(random() * 16).toString(16)).join('');
  return `${time.slice(0, 8)}-${time.slice(8)}-7${hex(3)}-${'89ab'[Math.floor(random() * 4)]}${hex(3)}-${hex(12)}`;
}
