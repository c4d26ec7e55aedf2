export { BLANK_CHARGE, BLANK_FLIGHT, BLANK_MEMORY, BLANK_RETURNED, BLANK_TAKEN_OUT } from './blank';
export type { CorrectionRecord, EffectiveRecord } from './effective';
export { effectiveRecords, latestCorrections } from './effective';
export type {
  AskedEvent,
  ChargeEvent,
  Custody,
  DecisionEvent,
  FlightEvent,
  IncidentEvent,
  InspectionEvent,
  MoveEvent,
  PackHistory,
  ReadingEvent,
  RecoveryEvent,
  ResistanceEvent,
  TakingEvent,
} from './fold';
export { beginsWith, earlierOf, fold, foldOn, isWrittenLater } from './fold';
export type { KindFacts, Named, NamedAt, PayloadOf } from './kinds';
export { namedBy, RECORD_KINDS } from './kinds';
export { asSet, faultsOf, notTaken } from './memory';
export type { AsSet, CountEvent, MemoryEvent, MemorySetting } from './memory';
export { chargeRateC, putsIn } from './chargeFacts';
export { CHARGE_ENDINGS, CHARGE_MODES, MEMORY_WORK, RECOVERY_ENDINGS } from './record';
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
  MeasuredBy,
  MemoryPayload,
  MemoryWork,
  MovedPayload,
  NotePayload,
  OwnCounters,
  OwnMemory,
  OwnStorage,
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
  ReturnedPayload,
  TakenOutPayload,
  Uncorrectable,
  WatchAfter,
  WatchEndedPayload,
} from './record';
