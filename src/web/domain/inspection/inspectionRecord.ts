import { answeredItems, photosMissing } from '../../../core/inspection';
import type { ChecklistItem, Marks, Occasion, Swelling } from '../../../core/inspection';
import type { InspectionPayload } from '../../../core/record';

/** What has been noted of an inspection. */
export interface InspectionDraft {
  readonly marks: Marks;
  readonly swelling: Swelling | null;
  readonly thicknessMm: number | null;
  readonly massG: number | null;
  readonly remarks: string | null;
}

/** The inspection as it would be kept: every item of the list, in order where nothing was marked. */
export function inspectionOf(
  occasion: Occasion,
  items: readonly ChecklistItem[],
  { marks, swelling, thicknessMm, massG, remarks }: InspectionDraft,
): InspectionPayload {
  const asksSwelling = items.some(({ key }) => key === 'swelling');
  const felt = marks.swelling?.answer === 'fail' ? (swelling ?? 'soft') : 'none';
  return {
    occasion,
    items: answeredItems(items, marks),
    swelling: asksSwelling ? felt : null,
    thicknessMm,
    massG,
    remarks,
  };
}

/** What stands between an inspection and being kept for want of a photo. */
export interface PhotoWant {
  /** Must be there before it is kept. */
  readonly needed: readonly ChecklistItem[];
  /** Asked for once: a pack that is out of use goes on hold with or without a picture. */
  readonly asked: readonly ChecklistItem[];
}

export function photoWant(items: readonly ChecklistItem[], marks: Marks): PhotoWant {
  const missing = photosMissing(items, marks);
  const holds = ({ key, failMeans }: ChecklistItem) => marks[key]?.answer === 'fail' && failMeans === 'hold';
  return { needed: missing.filter((item) => !holds(item)), asked: missing.filter(holds) };
}
