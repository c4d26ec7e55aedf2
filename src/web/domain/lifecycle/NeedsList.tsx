import type { ReleaseNeed } from '../../../core/assess';
import type { Instant } from '../../../core/measure';
import { needSentence } from '../../../core/wording';
import { useReader } from '../../app/clock';

/** The needs as they stand at this moment: that a watch is over is told by the clock, not by a record. */
export function needsAt(needs: readonly ReleaseNeed[], now: Instant): readonly ReleaseNeed[] {
  return needs.map((need) => (need.need === 'watch-over' ? { ...need, met: now >= need.until } : need));
}

/** What a release of a pack wants, and which of it is there. */
export function NeedsList({ needs }: { needs: readonly ReleaseNeed[] }) {
  const reader = useReader();
  const needsNow = needsAt(needs, reader.now);
  // Several findings may want the same.
  const sentences = new Map(needsNow.map((need) => [needSentence(need, reader), need]));
  return (
    <ul aria-label="What a release wants" className="text-sm">
      {[...sentences].map(([words, { met, need }]) => (
        <li key={words} className="flex items-baseline gap-2">
          <span className={`font-mono font-bold ${met ? 'text-leaf' : 'text-red'}`} aria-hidden="true">
            {need === 'a-day' ? '·' : met ? '✓' : '✗'}
          </span>
          <span className="sr-only">{met ? 'there' : 'missing'}:</span>
          <span>{words}</span>
        </li>
      ))}
    </ul>
  );
}
