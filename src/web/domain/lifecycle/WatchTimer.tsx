import type { Instant } from '../../../core/measure';
import { useSecond } from '../../app/clock';

/**
 * How long a pack is still watched from a distance, counting down where everybody sees it. A watch that is over clears nothing: the pack
 * is still out of use, so it is told in red and never in green.
 */
export function WatchTimer({ from, until }: { from: Instant; until: Instant }) {
  const now = useSecond();
  const left = Math.max(0, until - now);
  const share = until > from ? Math.min(1, (now - from) / (until - from)) : 1;
  return (
    <span className="inline-flex items-center gap-2" role="timer" aria-label="In quarantine">
      {left > 0 && (
        <span className="relative h-3 w-20 border border-rule bg-sheet" aria-hidden="true">
          <span
            className="absolute inset-y-0 left-0 bg-amber"
            style={{ width: `${Math.max(0, share) * 100}%` }}
          />
        </span>
      )}
      <b className={left > 0 ? 'font-mono text-amber' : 'text-red'}>
        {left > 0 ? countdown(left) : 'quarantine over, out of use'}
      </b>
    </span>
  );
}

/**
 * Time left as a clock shows it.
 * @example countdown(1_925_000) // => "32:05"
 * @example countdown(41_000_000) // => "11:23:20"
 */
export function countdown(ms: number): string {
  const seconds = Math.ceil(ms / 1_000);
  const two = (value: number) => String(value).padStart(2, '0');
  const hours = Math.floor(seconds / 3_600);
  const rest = `${two(Math.floor((seconds % 3_600) / 60))}:${two(seconds % 60)}`;
  return hours > 0 ? `${hours}:${rest}` : rest;
}
