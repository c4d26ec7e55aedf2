import type { Marks } from '../../../core/inspection';

export type Mark = Marks[string];

/** An item as it is before anybody says anything of it. */
export const UNMARKED: Mark = { answer: 'ok', note: '', photoIds: [] };

/** What is marked, with one item changed. */
export function markedWith(marks: Marks, key: string, change: (mark: Mark) => Mark): Marks {
  return { ...marks, [key]: change(marks[key] ?? UNMARKED) };
}
