import type { PhotoId } from '../measure';
import type { Answer, ChecklistItem, Meaning } from './checklist';

export const SWELLINGS = ['none', 'soft', 'hard'] as const;
/** Soft gives under a thumb, hard does not. */
export type Swelling = (typeof SWELLINGS)[number];

/** How one item was found. Its words and weight of that day stay with the answer, whatever the rules ask later. */
export interface AnsweredItem {
  readonly key: string;
  readonly asks: string;
  readonly failMeans: Meaning;
  readonly answer: Answer;
  readonly note: string | null;
  readonly photoIds: readonly PhotoId[];
}

/** What a hand has noted of a checklist so far; an item not named was found in order. */
export type Marks = Readonly<
  Record<string, { readonly answer: Answer; readonly note: string; readonly photoIds: readonly PhotoId[] }>
>;

const FOUND_OK = { answer: 'ok', note: '', photoIds: [] } as const;

/** The checklist answered: as marked, and in order where nothing was marked. */
export function answeredItems(items: readonly ChecklistItem[], marks: Marks): readonly AnsweredItem[] {
  return items.map(({ key, asks, failMeans }) => {
    const { answer, note, photoIds } = marks[key] ?? FOUND_OK;
    return { key, asks, failMeans, answer, note: note.trim() || null, photoIds };
  });
}

/**
 * The next answer when an item's key is pressed again: in order, worth a note, failed, and round.
 * @example nextAnswer('ok') // => 'note'
 * @example nextAnswer('fail') // => 'ok'
 */
export function nextAnswer(answer: Answer): Answer {
  return answer === 'ok' ? 'note' : answer === 'note' ? 'fail' : 'ok';
}

/** The items that still lack the photo the rules ask for. */
export function photosMissing(items: readonly ChecklistItem[], marks: Marks): readonly ChecklistItem[] {
  return items.filter(({ key, photo }) => {
    const { answer, photoIds } = marks[key] ?? FOUND_OK;
    if (photo === 'never' || photoIds.length > 0) return false;
    return photo === 'always' || answer !== 'ok';
  });
}

/**
 * How much thicker a pack is than at its baseline, percent; negative when thinner.
 * @example thickerPercent(33, 30) // => 10
 */
export function thickerPercent(thicknessMm: number, baselineMm: number): number {
  return ((thicknessMm - baselineMm) * 100) / baselineMm;
}
