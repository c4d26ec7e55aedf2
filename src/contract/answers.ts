import type {
  Charged,
  DueTask,
  Finding,
  MayFly,
  ReleaseNeed,
  StepKind,
  TaskKind,
  Verdict,
} from '../core/assess';
import type { Chemistry } from '../core/chemistry';
import type { Siblings } from '../core/health';
import type { Cause, Incident, IncidentKind } from '../core/incident';
import type { LifeState, Role } from '../core/lifecycle';
import type {
  ConsignmentId,
  DeliveryId,
  IncidentId,
  Instant,
  InstrumentId,
  PackId,
  PackTypeId,
  PersonId,
  PhotoId,
  PlaceId,
  RecyclerId,
  RoundId,
  TaskId,
} from '../core/measure';
import type { PackFacts, PackTypeFacts, PlaceTemperature, SmartSettings } from '../core/pack';
import type { PackRecord } from '../core/record';
import type { RoundKind, RowOutcome } from '../core/rounds';
import type { HouseRules } from '../core/rules';
import type { ContentsBasis, StorageState } from '../core/storage';

/** What the server answers. Plain data; instants are milliseconds, volts millivolts. */

export interface PersonAnswer {
  readonly id: PersonId;
  readonly name: string;
  readonly role: Role;
}

export interface PersonDetails extends PersonAnswer {
  readonly login: string;
  readonly active: boolean;
  readonly version: number;
}

export interface ClockAnswer {
  /** The server's time when it answered. */
  readonly now: Instant;
  /** A register for pictures and tests stands still. */
  readonly frozen: boolean;
}

export type SessionAnswer = ClockAnswer &
  (
    | { readonly state: 'setup' }
    | { readonly state: 'signed-out'; readonly demoPeople: readonly PersonAnswer[] }
    | { readonly state: 'signed-in'; readonly person: PersonAnswer; readonly demo: boolean }
  );

export interface PackTypeAnswer extends PackTypeFacts {
  readonly id: PackTypeId;
  readonly version: number;
  readonly name: string;
  readonly connector: string | null;
  readonly balancePlug: string | null;
  readonly massG: number | null;
  readonly price: number | null;
}

export const PLACE_KINDS = [
  'cabinet',
  'box',
  'bag',
  'shelf',
  'vehicle',
  'outdoors',
  'recycling',
  'other',
] as const;

export interface PlaceAnswer {
  readonly id: PlaceId;
  readonly version: number;
  readonly name: string;
  readonly kind: (typeof PLACE_KINDS)[number];
  readonly fireResistant: boolean;
  /** What a scanner reads on it. */
  readonly code: string | null;
  readonly capacity: number | null;
  /** How many numbered slots it has; 0 for none. */
  readonly slots: number;
  /** As it is now; null where nobody measures it. */
  readonly celsius: number | null;
  readonly map: MapArea | null;
  /** For packs on hold or harmed; a recycling container set apart takes harmed packs only. */
  readonly setApart: boolean;
  readonly limitKg: number | null;
  readonly limitWh: number | null;
}

/** Whoever takes packs that are over, and what they take. */
export interface RecyclerAnswer {
  readonly id: RecyclerId;
  readonly version: number;
  readonly name: string;
  readonly contact: string | null;
  readonly chemistries: readonly Chemistry[];
  readonly takesDamaged: boolean;
  readonly limitKg: number | null;
  readonly confirmedAt: Instant | null;
  readonly active: boolean;
}

/** Where a place stands on the drawn map, in columns and rows of its grid. */
export interface MapArea {
  readonly x: number;
  readonly y: number;
  readonly w: number;
  readonly h: number;
}

export interface InstrumentAnswer {
  readonly id: InstrumentId;
  readonly version: number;
  readonly name: string;
  readonly errorMv: number;
}

export interface RulesAnswer {
  readonly version: number;
  readonly rules: HouseRules;
  readonly adoptedAt: Instant;
}

/** One adopted rule set, with who adopted it and why; the register's first has nobody. */
export interface RulesVersion extends RulesAnswer {
  readonly adoptedBy: PersonId | null;
  readonly reason: string;
  /** What of it could not be read, by path, and stands as its preset has it. */
  readonly mended: readonly string[];
  /** How many packs it moved from one verdict to another when the register was judged anew under it. */
  readonly moved: readonly { readonly was: Verdict; readonly became: Verdict; readonly packs: number }[];
}

export interface RulesHistoryAnswer {
  /** Newest first. */
  readonly versions: readonly RulesVersion[];
  /** How many of the packs have been judged under the newest. */
  readonly judged: number;
  readonly packs: number;
}

/** Some packs' facts and records for judging them elsewhere, and the id to ask on from; null after the last. */
export interface HistoriesAnswer {
  /** The same for every pack, so it is sent once. */
  readonly placeTemperatures: readonly PlaceTemperature[];
  readonly packs: readonly {
    readonly facts: Omit<PackFacts, 'placeTemperatures'>;
    readonly records: readonly PackRecord[];
  }[];
  readonly next: PackId | null;
  readonly total: number;
}

/** The small tables every screen needs to put names to ids. */
export interface RegisterAnswer {
  readonly people: readonly PersonAnswer[];
  readonly types: readonly PackTypeAnswer[];
  readonly places: readonly PlaceAnswer[];
  readonly placeTemperatures: readonly PlaceTemperature[];
  readonly instruments: readonly InstrumentAnswer[];
  readonly recyclers: readonly RecyclerAnswer[];
  readonly rules: RulesAnswer;
}

/** A pack as lists show it: its projected state, no records. */
export interface PackRow {
  readonly id: PackId;
  readonly tag: string;
  readonly typeId: PackTypeId;
  readonly owner: string | null;
  readonly homePlaceId: PlaceId | null;
  readonly fieldPack: boolean;
  readonly placeId: PlaceId | null;
  readonly slot: number | null;
  readonly holderId: PersonId | null;
  readonly receivedAt: Instant | null;
  /** When it was last charged or flown. */
  readonly usedAt: Instant | null;
  /** What the calendar will ask of it, soonest first. */
  readonly tasks: readonly DueTask[];
  readonly verdict: Verdict;
  readonly mayFly: MayFly;
  readonly charged: Charged;
  /** What its cells and charge are told from: a reading, or the last thing that happened since; null when nobody knows. */
  readonly basis: ContentsBasis | null;
  /** Per cell, as read or as carried since; one figure for a pack read by its total. */
  readonly cellsMv: readonly number[] | null;
  readonly byCell: boolean;
  readonly readAt: Instant | null;
  readonly socPercent: number | null;
  readonly storage: StorageState['state'];
  readonly since: Instant | null;
  readonly dueAt: Instant | null;
  readonly allowanceHours: number | null;
  readonly next: { readonly do: StepKind; readonly dueAt: Instant | null } | null;
  readonly life: LifeState;
  /** Since when it waits for a decision; null when it does not. */
  readonly outSince: Instant | null;
  /** From when until when it is watched from a distance; null when it is not. */
  readonly watchFrom: Instant | null;
  readonly watchUntil: Instant | null;
  readonly deliveryId: DeliveryId | null;
  /** The number of its latest record, so that a list knows which of two rows is newer. */
  readonly seq: number;
}

export interface PackDetails {
  readonly id: PackId;
  readonly version: number;
  readonly tag: string;
  readonly formerTags: readonly string[];
  readonly typeId: PackTypeId;
  readonly owner: string | null;
  readonly homePlaceId: PlaceId | null;
  readonly inServiceAt: Instant | null;
  readonly fieldPack: boolean;
  readonly smart: SmartSettings | null;
  readonly deliveryId: DeliveryId | null;
  readonly records: readonly PackRecord[];
  /** What other packs of its type taught about how they wear. */
  readonly siblings: Siblings;
}

/** One line of Today: a pack that needs hands, and what was found. */
export interface TodayItem extends PackRow {
  /** The gravest finding; null when only the calendar asks. */
  readonly finding: Finding | null;
  /** What a release wants, as of the latest record; a watch may be over since. */
  readonly needs: readonly ReleaseNeed[];
}

export interface TodayAnswer extends ClockAnswer {
  readonly counts: {
    readonly packs: number;
    readonly inBand: number;
    readonly withinAllowance: number;
    readonly overdue: number;
    readonly unmeasured: number;
    readonly outOfUse: number;
    readonly watch: number;
    /** Packs no storage rule applies to; they are no part of the compliance share. */
    readonly noRule: number;
  };
  /** Packs outside their band, the most urgent first; at most {@link TODAY_LIMIT}. */
  readonly outOfBand: readonly TodayItem[];
  readonly outOfBandTotal: number;
  /** Packs that wait for a person's decision. */
  readonly held: readonly TodayItem[];
  readonly heldTotal: number;
  /** Packs to be measured, or read again, within the horizon. */
  readonly toMeasure: readonly TodayItem[];
  readonly toMeasureTotal: number;
  /** What the calendar asks within a week, task by task, the most pressing task first. */
  readonly due: readonly DueGroup[];
  readonly openRounds: readonly RoundAnswer[];
  /** Packs watched from a distance, the soonest over first. */
  readonly watches: readonly WatchItem[];
  /** Follow-ups of open incidents, the soonest due first. */
  readonly tasks: readonly TaskItem[];
  /** Packs on their way to a recycler whose next step waits, and none that waits for a time beyond the horizon. */
  readonly leaving: readonly TodayItem[];
  readonly leavingTotal: number;
}

/** One pack nobody goes near, and until when. */
export interface WatchItem {
  readonly packId: PackId;
  readonly tag: string;
  readonly incidentId: IncidentId;
  readonly kind: IncidentKind;
  readonly from: Instant;
  readonly until: Instant;
}

export interface TaskItem {
  readonly incidentId: IncidentId;
  readonly incidentKind: IncidentKind;
  readonly id: TaskId;
  readonly text: string;
  readonly ownerId: PersonId;
  readonly dueAt: Instant;
}

/** An incident as the list shows it. */
export interface IncidentRow {
  readonly id: IncidentId;
  readonly kind: IncidentKind;
  readonly at: Instant;
  readonly by: PersonId;
  readonly what: string | null;
  readonly place: string | null;
  readonly packs: readonly { readonly id: PackId; readonly tag: string }[];
  readonly cause: Cause | null;
  readonly openTasks: number;
  readonly closedAt: Instant | null;
}

export type IncidentAnswer = Incident;

/** A retired pack as the board shows it. */
export interface BoardPack {
  readonly id: PackId;
  readonly tag: string;
  readonly typeId: PackTypeId;
  readonly life: LifeState;
  readonly since: Instant | null;
  readonly next: { readonly do: StepKind; readonly dueAt: Instant | null } | null;
  readonly placeId: PlaceId | null;
  readonly massG: number;
  readonly wh: number;
  readonly chemistry: Chemistry;
  /** It may not be discharged: harmed in its body, or declared so. */
  readonly apart: boolean;
  readonly consignmentId: ConsignmentId | null;
  readonly seq: number;
}

/** How full a recycling container is. */
export interface ContainerFill {
  readonly placeId: PlaceId;
  readonly packs: number;
  readonly massG: number;
  readonly wh: number;
}

export interface ConsignmentAnswer {
  readonly id: ConsignmentId;
  readonly recyclerId: RecyclerId;
  readonly openedBy: PersonId;
  readonly openedAt: Instant;
  readonly closedAt: Instant | null;
  readonly packs: number;
  readonly massG: number;
}

/** One line of a manifest. Mass and energy are as they were when it was signed. */
export interface ConsignmentPack {
  readonly packId: PackId;
  readonly tag: string;
  readonly typeName: string;
  readonly chemistry: Chemistry;
  readonly series: number;
  readonly massG: number;
  readonly wh: number;
  readonly apart: boolean;
}

export interface ConsignmentDetails extends ConsignmentAnswer {
  readonly lines: readonly ConsignmentPack[];
  readonly closedBy: PersonId | null;
  readonly handedBy: string | null;
  readonly receivedBy: string | null;
  readonly receiptNumber: string | null;
  readonly receiptPhotoId: PhotoId | null;
  readonly corrections: readonly {
    readonly id: string;
    readonly at: Instant;
    readonly by: PersonId;
    readonly text: string;
  }[];
}

export interface EndOfLifeAnswer {
  /** Packs that wait for a decision, the oldest first. */
  readonly waiting: readonly TodayItem[];
  readonly board: readonly BoardPack[];
  readonly containers: readonly ContainerFill[];
  readonly consignments: readonly ConsignmentAnswer[];
}

/** One row of a report's table, as it is shown, printed and exported. */
/** A line of an answer that takes a while: how far it is, and at the end the answer itself. */
export type ProgressLine<Answer> =
  { readonly done: number; readonly of: number } | { readonly answer: Answer };

export interface ReportAnswer {
  /** When it was made. Asked for again with this moment, it is the same report wherever that is still at hand. */
  readonly asOf: Instant;
  readonly from: Instant;
  readonly to: Instant;
  readonly tables: readonly ReportTable[];
}

export interface ReportTable {
  readonly key: string;
  readonly title: string;
  readonly columns: readonly {
    readonly title: string;
    readonly unit: string | null;
    /** Decimals of its figures where they are read rather than reckoned with. */
    readonly digits: number;
  }[];
  readonly rows: readonly (readonly (string | number | null)[])[];
}

/** One kind of routine and the packs it is due for. */
export interface DueGroup {
  readonly do: TaskKind;
  readonly total: number;
  readonly overdue: number;
  readonly firstDueAt: Instant;
  /** The first few, soonest first. */
  readonly packs: readonly { readonly id: PackId; readonly tag: string; readonly dueAt: Instant }[];
}

/** A round through many packs, and how far it has come. */
export interface RoundAnswer {
  readonly id: RoundId;
  readonly kind: RoundKind;
  readonly title: string;
  readonly checklist: boolean;
  readonly placeId: PlaceId | null;
  readonly fliesAt: Instant | null;
  readonly startedBy: PersonId;
  readonly startedAt: Instant;
  readonly closedAt: Instant | null;
  readonly packs: number;
  readonly worked: number;
}

export interface RoundRow {
  readonly packId: PackId;
  /** Null while it is open. */
  readonly outcome: RowOutcome | null;
  readonly by: PersonId | null;
  readonly at: Instant | null;
  readonly reason: string | null;
}

export interface RoundDetails extends RoundAnswer {
  /** In the order they are worked through. */
  readonly rows: readonly RoundRow[];
}

export interface RoundRowAnswer extends AppendAnswer {
  readonly row: RoundRow;
}

export interface CalendarAnswer {
  /** Where a calendar program fetches it, beginning with a slash; null until it is asked for. */
  readonly path: string | null;
}

export const LABEL_SHEETS = {
  'a4-21': { name: 'A4, 21 labels 63 × 38 mm', columns: 3, rows: 7 },
  'a4-14': { name: 'A4, 14 labels 99 × 38 mm', columns: 2, rows: 7 },
  'a4-40': { name: 'A4, 40 labels 52 × 29 mm', columns: 4, rows: 10 },
  roll: { name: 'Roll, 62 × 29 mm, one a page', columns: 1, rows: 1 },
} as const;
export type LabelSheet = keyof typeof LABEL_SHEETS;

/** More rows than this nobody works off in a day; the rest is a link to Packs. */
export const TODAY_LIMIT = 60;

export interface AppendAnswer {
  readonly packId: PackId;
  /** The records as they now stand in the ledger, those that had arrived before included. */
  readonly records: readonly PackRecord[];
}

/** What a live connection says: something about these changed; ask again. */
export type LiveMessage =
  | { readonly about: 'pack'; readonly packId: PackId; readonly seq: number }
  | { readonly about: 'register' }
  | { readonly about: 'round'; readonly roundId: RoundId }
  | { readonly about: 'incident'; readonly incidentId: IncidentId }
  | { readonly about: 'consignment' }
  /** The register is being judged under new rules; this far has it come. */
  | { readonly about: 'rules' };
