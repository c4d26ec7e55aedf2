import { INCIDENT_FACTS } from '../incident';
import type { Finding } from './finding';

/** What fails when a cell is open, crushed or leaking. */
const HARM_KEYS: ReadonlySet<string> = new Set(['swelling', 'dents', 'smell']);

/**
 * The findings that say a pack is harmed in its body: swollen, punctured, burnt, leaking, bent in a crash. Such a pack is
 * never discharged, and goes to the recycler packed apart. Source: the practice's end of life.
 */
export function harmOf(findings: readonly Finding[]): readonly Finding[] {
  return findings.filter((finding) => {
    if (finding.answered) return false;
    if (finding.rule === 'swollen') return finding.swelling !== null || finding.severity === 'hold';
    if (finding.rule === 'inspection-failed') return finding.failures.some(({ key }) => HARM_KEYS.has(key));
    return finding.rule === 'incident' && (INCIDENT_FACTS[finding.kind].harms || finding.deformed.length > 0);
  });
}
