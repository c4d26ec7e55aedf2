import type { z } from 'zod';
import type { attendanceAnswer, chargingAnswer, jobAnswer } from './charging';
import type { curveAnswer, deviceAnswer, logReadingAnswer, newDeviceAnswer } from './devices';
import type { equipmentAnswer } from './equipment';
import type { importAnswer, importedAnswer, keyAnswer, newKeyAnswer, takenBackAnswer } from './exchange';
import type { craftAnswer } from './craft';
import type { flyingAnswer, flyingDayAnswer } from './flying';
import type { incidentAnswer, incidentRow, taskItem, watchItem } from './incidents';
import type { appendAnswer, historiesAnswer, laterRow, offlinePack, packDetails, packRow } from './packs';
import type {
  benchPassAnswer,
  calendarAnswer,
  factorsAnswer,
  newCodesAnswer,
  personAnswer,
  personDetails,
  sessionAnswer,
  sharedBenchAnswer,
  signInAnswer,
  signInLinkAnswer,
} from './people';
import type {
  boardPack,
  consignmentAnswer,
  consignmentDetails,
  consignmentPack,
  containerFill,
  endOfLifeAnswer,
} from './recycling';
import type {
  instrumentAnswer,
  mapArea,
  packTypeAnswer,
  placeAnswer,
  recyclerAnswer,
  registerAnswer,
} from './register';
import type { checkpointAnswer, evidenceAnswer, verificationAnswer } from './evidence';
import type { logEntryAnswer } from './log';
import type { reportAnswer } from './reports';
import type { roundAnswer, roundDetails, roundRow, roundRowAnswer } from './rounds';
import type { rulesAnswer, rulesHistoryAnswer, rulesVersion } from './rules';
import type { dueGroup, machineTrouble, todayAnswer, todayItem } from './today';

/** What the server answers, as types. Plain data; instants are milliseconds, volts millivolts. The schemas lie beside, feature by feature. */
type Told<Schema extends z.ZodType> = Readonly<z.output<Schema>>;

export type PersonAnswer = Told<typeof personAnswer>;
export type SignInAnswer = Told<typeof signInAnswer>;
export type FactorsAnswer = Told<typeof factorsAnswer>;
export type NewCodesAnswer = Told<typeof newCodesAnswer>;
export type BenchPassAnswer = Told<typeof benchPassAnswer>;
export type SharedBenchAnswer = Told<typeof sharedBenchAnswer>;
export type SignInLinkAnswer = Told<typeof signInLinkAnswer>;
export type LogEntryAnswer = Told<typeof logEntryAnswer>;
export type CheckpointAnswer = Told<typeof checkpointAnswer>;
export type EvidenceAnswer = Told<typeof evidenceAnswer>;
export type VerificationAnswer = Told<typeof verificationAnswer>;
export type { EvidenceFinding } from './evidence';
export type PersonDetails = Told<typeof personDetails>;
export type SessionAnswer = Told<typeof sessionAnswer>;
export type ClockAnswer = Pick<SessionAnswer, 'now' | 'frozen'>;
export type CalendarAnswer = Told<typeof calendarAnswer>;

export type PackTypeAnswer = Told<typeof packTypeAnswer>;
export type PlaceAnswer = Told<typeof placeAnswer>;
export type MapArea = Told<typeof mapArea>;
export type RecyclerAnswer = Told<typeof recyclerAnswer>;
export type InstrumentAnswer = Told<typeof instrumentAnswer>;
export type RegisterAnswer = Told<typeof registerAnswer>;

export type RulesAnswer = Told<typeof rulesAnswer>;
export type RulesVersion = Told<typeof rulesVersion>;
export type RulesHistoryAnswer = Told<typeof rulesHistoryAnswer>;

export type PackRow = Told<typeof packRow>;
export type PackDetails = Told<typeof packDetails>;
export type OfflinePack = Told<typeof offlinePack>;
export type LaterRow = Told<typeof laterRow>;
export type HistoriesAnswer = Told<typeof historiesAnswer>;
export type AppendAnswer = Told<typeof appendAnswer>;

export type TodayItem = Told<typeof todayItem>;
export type MachineTrouble = Told<typeof machineTrouble>;
export type TodayAnswer = Told<typeof todayAnswer>;
export type DueGroup = Told<typeof dueGroup>;

export type WatchItem = Told<typeof watchItem>;
export type TaskItem = Told<typeof taskItem>;
export type IncidentRow = Told<typeof incidentRow>;
export type IncidentAnswer = Told<typeof incidentAnswer>;

export type RoundAnswer = Told<typeof roundAnswer>;
export type RoundRow = Told<typeof roundRow>;
export type RoundDetails = Told<typeof roundDetails>;
export type RoundRowAnswer = Told<typeof roundRowAnswer>;

export type BoardPack = Told<typeof boardPack>;
export type ContainerFill = Told<typeof containerFill>;
export type ConsignmentAnswer = Told<typeof consignmentAnswer>;
export type ConsignmentPack = Told<typeof consignmentPack>;
export type ConsignmentDetails = Told<typeof consignmentDetails>;
export type EndOfLifeAnswer = Told<typeof endOfLifeAnswer>;

export type ReportAnswer = Told<typeof reportAnswer>;
export type ReportTable = ReportAnswer['tables'][number];

export type ImportAnswer = Told<typeof importAnswer>;
export type ImportedAnswer = Told<typeof importedAnswer>;
export type TakenBackAnswer = Told<typeof takenBackAnswer>;
export type KeyAnswer = Told<typeof keyAnswer>;
export type NewKeyAnswer = Told<typeof newKeyAnswer>;

export type EquipmentAnswer = Told<typeof equipmentAnswer>;
export type CurveAnswer = Told<typeof curveAnswer>;
export type LogReadingAnswer = Told<typeof logReadingAnswer>;
export type DeviceAnswer = Told<typeof deviceAnswer>;
export type NewDeviceAnswer = Told<typeof newDeviceAnswer>;
export type CraftAnswer = Told<typeof craftAnswer>;
export type FlyingAnswer = Told<typeof flyingAnswer>;
export type FlyingDayAnswer = Told<typeof flyingDayAnswer>;
export type AttendanceAnswer = Told<typeof attendanceAnswer>;
export type JobAnswer = Told<typeof jobAnswer>;
export type ChargingAnswer = Told<typeof chargingAnswer>;
