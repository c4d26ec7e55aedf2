/** Lists a form offers and an answer is checked against; apart from the schemas, so that a browser need not fetch these. */

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

/** Whether a place is a closed metal box, and whether gas finds a way out of it. */
export const METAL_BOXES = ['no', 'vented', 'unvented'] as const;

export const LABEL_SHEETS = {
  'a4-21': { name: 'A4, 21 labels 63 × 38 mm', columns: 3, rows: 7 },
  'a4-14': { name: 'A4, 14 labels 99 × 38 mm', columns: 2, rows: 7 },
  'a4-40': { name: 'A4, 40 labels 52 × 29 mm', columns: 4, rows: 10 },
  roll: { name: 'Roll, 62 × 29 mm, one a page', columns: 1, rows: 1 },
} as const;
export type LabelSheet = keyof typeof LABEL_SHEETS;

/** What a report tells of: how packs were stored, how people handled them, what went wrong, what became of them. */
export const REPORT_PARTS = ['storage', 'handling', 'incidents', 'end-of-life'] as const;
export type ReportPart = (typeof REPORT_PARTS)[number];

/** How the sign-in name of somebody who left begins once a pseudonym was decided; its number follows. */
export const PSEUDONYM = 'former-member-';

/** More rows than this nobody works off in a day; the rest is a link to Packs. */
export const TODAY_LIMIT = 60;
