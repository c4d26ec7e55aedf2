import type { RecordKind } from '../record';

/** What each kind of record is called. */
export const KIND_WORDS: Readonly<Record<RecordKind, string>> = {
  received: 'Received',
  reading: 'Reading',
  resistance: 'Resistance',
  charge: 'Charge',
  flight: 'Flight',
  inspection: 'Inspection',
  moved: 'Moved',
  'taken-out': 'Taken out',
  returned: 'Returned',
  memory: 'Its memory',
  note: 'Note',
  incident: 'Incident',
  'watch-ended': 'Quarantine ended early',
  'inspection-asked': 'Inspection asked for',
  decision: 'Decision',
  confirmation: 'Second name',
  recovery: 'Recovery',
  disposal: 'Disposal',
  correction: 'Correction',
};
