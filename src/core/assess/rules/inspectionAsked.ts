import { FULL_OCCASIONS } from '../../inspection';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/** Somebody asked for a look at this pack, and nobody has looked it over since. */
export function inspectionAsked({ history }: CaseFile): readonly Finding[] {
  const asked = history.asked.at(-1);
  if (!asked) return [];
  const { at, reason, records } = asked;
  const seen = history.inspections.some((look) => look.at >= at && FULL_OCCASIONS.has(look.occasion));
  return seen ? [] : [{ rule: 'inspection-asked', severity: 'watch', at, reason, records }];
}
