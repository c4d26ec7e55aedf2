import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/** Retired by one person where the rules ask for two: another must put a name under it. */
export function secondName({ history: { life } }: CaseFile): readonly Finding[] {
  if (life.state !== 'retiring' || life.since === null || life.decidedBy === null) return [];
  return [
    { rule: 'second-name', severity: 'retire', at: life.since, by: life.decidedBy, records: life.records },
  ];
}
