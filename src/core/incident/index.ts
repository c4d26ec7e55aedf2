export type {
  Entry,
  EntryBody,
  EntryDraft,
  EntryKind,
  EntryRefusal,
  Incident,
  OpenTask,
  Report,
  Task,
} from './incident';
export { entryRefusals, foldIncident } from './incident';
export type { Cause, IncidentFacts, IncidentKind } from './kinds';
export { CAUSES, INCIDENT_FACTS, INCIDENT_KINDS } from './kinds';
