export type { AnsweredItem, Marks, Swelling } from './checklistAnswers';
export { SWELLINGS, answeredItems, nextAnswer, photosMissing, thickerPercent } from './checklistAnswers';
export type {
  Answer,
  ChecklistItem,
  ChecklistRefusal,
  Checklists,
  Meaning,
  Occasion,
  PhotoNeed,
} from './checklist';
export {
  ANSWERS,
  DEFAULT_CHECKLISTS,
  FULL_OCCASIONS,
  HARD_KEYS,
  MEANINGS,
  OCCASIONS,
  PHOTO_NEEDS,
  changedChecklists,
  checklistRefusals,
  lettersFor,
  meaningOf,
} from './checklist';
