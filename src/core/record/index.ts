export type { Actor, RecordRefusal } from './admit';
export { CLOCK_SLACK_MS, refusalsOf } from './admit';
export { BLANK_CHARGE, BLANK_FLIGHT } from './blank';
export type { CorrectionRecord, EffectiveRecord } from './effective';
export { effectiveRecords, latestCorrections } from './effective';
export type {
  ChargeEvent,
  FlightEvent,
  InspectionEvent,
  MoveEvent,
  PackHistory,
  ReadingEvent,
  ResistanceEvent,
} from './fold';
export { fold } from './fold';
export { CHARGE_ENDINGS, CHARGE_MODES } from './record';
export type {
  ChargeEnding,
  ChargeMode,
  ChargePayload,
  ChargerSettings,
  Correctable,
  CorrectionPayload,
  FlightPayload,
  InspectionPayload,
  LandingVolts,
  MovedPayload,
  NotePayload,
  PackRecord,
  ReadVolts,
  ReadingPayload,
  ReceivedPayload,
  ResistancePayload,
  RecordBody,
  RecordDraft,
  RecordKind,
} from './record';
