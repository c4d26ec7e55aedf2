import { MINUTE_MS } from '../../measure';
import type { InspectionEvent } from '../../record';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';
import { warmFrom } from './heat';

/**
 * Felt warm right after its use or charge: a sound pack does that. It is let cool and felt again; what is too hot, or still
 * warm when it should have cooled, is another rule's (a failed look).
 */
export function cooling(file: CaseFile): readonly Finding[] {
  const warm = file.history.inspections.findLast((look) => warmth(look) !== null);
  if (!warm || !isJustWarm(file, warm)) return [];
  const usedAt = warmFrom(file, warm.at)!;
  const againFrom = usedAt + file.rules.heat.coolMinutes * MINUTE_MS;
  return [{ rule: 'cooling', severity: 'note', usedAt, feltAt: warm.at, againFrom, records: warm.records }];
}

/** What a look says of the pack's warmth; null where it did not ask. */
export function warmth({ items, felt }: InspectionEvent): 'sound' | 'warm' | 'hot' | null {
  const item = items.find(({ key }) => key === 'warm');
  if (felt === 'hot') return 'hot';
  if (felt === 'warm' || item?.answer === 'fail')
    return felt === 'cool' || felt === 'lukewarm' ? 'sound' : 'warm';
  return felt || item ? 'sound' : null;
}

/** Whether a pack was found warm, but so soon after a use that it may just be cooling. */
export function isJustWarm(file: CaseFile, look: InspectionEvent): boolean {
  return warmth(look) === 'warm' && warmFrom(file, look.at) !== null;
}
