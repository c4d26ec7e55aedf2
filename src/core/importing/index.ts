export type { DateOrder, DayTime } from './dates';
export type { HistoryField, ImportField, ImportKind, Matching, PackField } from './fields';
export { fieldsOf, takesMany } from './fields';
export type { DecimalMark } from './numbers';
export type { Cell, Rows, Sheet } from './sheet';
export type { Opened, Reading, Zone } from './table';
export { openedAs, wordKey } from './table';
export type { KnownForPacks, Line, PackLine, ReadPacks, TypeProposal, UnknownWord } from './packLines';
export { lacksForPacks, packLines } from './packLines';
export type {
  Happening,
  HistoryKind,
  HistoryLine,
  Identified,
  KnownForHistory,
  ReadHistory,
  WholeKind,
} from './historyLines';
export { HISTORY_KINDS, historyLines, identified, lacksForHistory } from './historyLines';
