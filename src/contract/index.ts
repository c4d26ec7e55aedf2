export type { ArchiveTable } from './archive';
export {
  ARCHIVE_BLOCK,
  ARCHIVE_KEYS,
  ARCHIVE_ORDER,
  ARCHIVE_TABLES,
  ARCHIVE_VERSION,
  archiveHead,
  archiveHeadOf,
  archiveManifest,
} from './archive';
export type {
  AppendAnswer,
  AttendanceAnswer,
  BenchPassAnswer,
  BoardPack,
  CalendarAnswer,
  ChargingAnswer,
  ClockAnswer,
  ConsignmentAnswer,
  ConsignmentDetails,
  ConsignmentPack,
  ContainerFill,
  CraftAnswer,
  CurveAnswer,
  LogReadingAnswer,
  DeviceAnswer,
  DueGroup,
  EndOfLifeAnswer,
  EquipmentAnswer,
  FlyingAnswer,
  FlyingDayAnswer,
  HistoriesAnswer,
  ImportAnswer,
  ImportedAnswer,
  IncidentAnswer,
  IncidentRow,
  InstrumentAnswer,
  JobAnswer,
  KeyAnswer,
  LaterRow,
  MachineTrouble,
  MapArea,
  NewDeviceAnswer,
  NewKeyAnswer,
  OfflinePack,
  PackDetails,
  PackRow,
  PackTypeAnswer,
  PersonAnswer,
  LogEntryAnswer,
  CheckpointAnswer,
  EvidenceAnswer,
  EvidenceFinding,
  FactorsAnswer,
  NewCodesAnswer,
  SharedBenchAnswer,
  VerificationAnswer,
  PersonDetails,
  SignInAnswer,
  SignInLinkAnswer,
  PlaceAnswer,
  RecyclerAnswer,
  RegisterAnswer,
  ReportAnswer,
  ReportTable,
  RoundAnswer,
  RoundDetails,
  RoundRow,
  RoundRowAnswer,
  RulesAnswer,
  RulesHistoryAnswer,
  RulesVersion,
  SessionAnswer,
  TakenBackAnswer,
  TaskItem,
  TodayAnswer,
  TodayItem,
  WatchItem,
} from './answers';
export type { LabelSheet, ReportPart } from './choices';
export { LABEL_SHEETS, METAL_BOXES, PLACE_KINDS, PSEUDONYM, TODAY_LIMIT } from './choices';
export { DELTA_IM, deltaOf, withDelta } from './delta';
export type { Delta, Json } from './delta';
export type { LiveMessage, PackChanged, ProgressLine } from './live';
export { LOG_DEEDS, LOG_SUBJECTS } from './log';
export type { LogDeed, Logged, LogSubject } from './log';
export type { FieldProblem, Problem, ProblemCode } from './problems';
export { problemCode, problemOf } from './problems';
export { attendanceForm, endJob, jobForm, planForm, startJob, watchJob } from './charging';
export type { DeviceAnswerLine, DeviceCan, DeviceKind, DeviceLine, MemorySettings } from './devices';
export {
  curveForm,
  deviceAnswerLine,
  deviceChange,
  deviceForm,
  deviceHello,
  deviceLine,
  PROTOCOL_VERSION,
  writeMemory,
} from './devices';
export { craftChange, craftForm, flyingDayForm, handOutForm } from './flying';
export { importForm, importPacks, importRecords, keyForm } from './exchange';
export { incidentRequest } from './incident';
export { recordDraft, roundRow } from './record';
export { consignmentCorrection, consignmentForm, consignmentPacks, handOver } from './recycling';
export { adoptRules, rulesAsked } from './rules';
export { deliveryForm, mapForm, packForm, receivePack, roundForm } from './register';
export { jsonSchemaOf } from './jsonSchema';
export { openApi } from './openApi';
export type { KnownOperation, MediaType, Operation } from './operations';
export { OPERATIONS, successOf } from './operations';
export type { AnswerTo, Askable, CallArguments } from './operations/client';
export type { DecimalMark } from './operations/query';
