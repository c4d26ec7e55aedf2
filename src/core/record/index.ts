export type { Actor, RecordRefusal } from './admit';
export { CLOCK_SLACK_MS, refusalsOf } from './admit';
export type { CorrectionRecord, EffectiveRecord } from './effective';
export { effectiveRecords, latestCorrections } from './effective';
export type { PackHistory, ReadingEvent } from './fold';
export { fold } from './fold';
export type {
  Correctable,
  CorrectionPayload,
  MovedPayload,
  NotePayload,
  PackRecord,
  ReadVolts,
  ReadingPayload,
  ReceivedPayload,
  RecordBody,
  RecordDraft,
  RecordKind,
} from './record';
