import { INCIDENT_FACTS } from '../../incident';
import { HOUR_MS, MINUTE_MS } from '../../measure';
import type { Instant } from '../../measure';
import type { IncidentEvent } from '../../record';
import type { HouseRules } from '../../rules';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/**
 * The pack was in an incident that takes it out of use at once. A crash by the strict school, one that bent the pack, and
 * whatever burnt or leaked, is to be retired; the rest is inspected once its watch is over, and then decided.
 */
export function incident({ history, rules }: CaseFile): readonly Finding[] {
  return history.incidents
    .filter(({ holds }) => holds)
    .map((event) => {
      const found = event.kind === 'crash' ? deformation(history.inspections, event.at) : [];
      const toRetire =
        !INCIDENT_FACTS[event.kind].mayReturn ||
        (event.kind === 'crash' && (rules.afterCrash === 'retire' || found.length > 0));
      return {
        rule: 'incident',
        severity: toRetire ? 'retire' : 'hold',
        incidentId: event.incidentId,
        kind: event.kind,
        at: event.at,
        watchUntil: watchEnds(event, rules),
        endedEarly: event.endedEarly !== null,
        deformed: found.map(({ asks }) => asks),
        afterCrash: rules.afterCrash,
        records: [...event.records, ...found.flatMap(({ records }) => records)],
      };
    });
}

/** Until when nobody goes near a pack after this; null for a kind that is not watched. Somebody's word ends it sooner. */
export function watchEnds({ kind, at, endedEarly }: IncidentEvent, rules: HouseRules): Instant | null {
  const { watch } = INCIDENT_FACTS[kind];
  if (watch === null) return null;
  const { watchMinutes, overnightHours } = rules.incidents;
  const until = at + (watch === 'shock' ? watchMinutes * MINUTE_MS : overnightHours * HOUR_MS);
  return endedEarly ? Math.min(until, endedEarly.at) : until;
}

/** What shows that a pack is out of shape. */
const SHAPE_KEYS: ReadonlySet<string> = new Set(['swelling', 'dents', 'case']);

function deformation(inspections: CaseFile['history']['inspections'], since: Instant) {
  return inspections
    .filter(({ at }) => at >= since)
    .flatMap(({ items, records }) =>
      items
        .filter(({ key, answer }) => answer === 'fail' && SHAPE_KEYS.has(key))
        .map(({ asks }) => ({ asks, records })),
    );
}
