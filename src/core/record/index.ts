export { BLANK_CHARGE, BLANK_FLIGHT } from './blank';
export type { CorrectionRecord, EffectiveRecord } from './effective';
export { effectiveRecords, latestCorrections } from './effective';
export type {
  AskedEvent,
  ChargeEvent,
  DecisionEvent,
  FlightEvent,
  IncidentEvent,
  InspectionEvent,
  MoveEvent,
  PackHistory,
  ReadingEvent,
  RecoveryEvent,
  ResistanceEvent,
} from './fold';
export { fold } from './fold';
export type { KindFacts, Named, NamedAt, PayloadOf } from './kinds';
export { namedBy, RECORD_KINDS } from './kinds';
export { chargeRateC, putsIn } from './chargeFacts';
export { CHARGE_ENDINGS, CHARGE_MODES, RECOVERY_ENDINGS } from './record';
export type {
  AnsweredFinding,
  ChargeEnding,
  ChargeMode,
  ChargePayload,
  ChargerSettings,
  ConfirmationPayload,
  Correctable,
  CorrectionPayload,
  DecisionPayload,
  FlightPayload,
  IncidentPayload,
  InspectionAskedPayload,
  InspectionPayload,
  LandingVolts,
  LifeBefore,
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
  RecoveryEnding,
  RecoveryPayload,
  Uncorrectable,
  WatchAfter,
  WatchEndedPayload,
} from './record';
