export const OCCASIONS = [
  'before-use',
  'after-use',
  'before-charge',
  'after-charge',
  'season-start',
  'after-crash',
  'scheduled',
  'receipt',
] as const;
/** When a pack is looked over; each occasion has a checklist of its own. */
export type Occasion = (typeof OCCASIONS)[number];

export const ANSWERS = ['ok', 'note', 'fail'] as const;
export type Answer = (typeof ANSWERS)[number];

export const MEANINGS = ['advise', 'watch', 'hold'] as const;
/** What a failed item makes of the pack, mildest first. */
export type Meaning = (typeof MEANINGS)[number];

export const PHOTO_NEEDS = ['never', 'when not ok', 'always'] as const;
export type PhotoNeed = (typeof PHOTO_NEEDS)[number];

/** One thing to look at. Items are the house's own: any can be added, moved, or asked to have a photo. */
export interface ChecklistItem {
  /** Stays with the item when its words change, so that its answers can be followed over the years. */
  readonly key: string;
  readonly asks: string;
  readonly failMeans: Meaning;
  readonly photo: PhotoNeed;
}

export type Checklists = Readonly<Record<Occasion, readonly ChecklistItem[]>>;

/**
 * What takes a pack out of use whatever a house would like: swelling, a puncture or crushed cell, a bare conductor, a
 * leak. Source: the practice's hard causes.
 */
export const HARD_KEYS: ReadonlySet<string> = new Set(['swelling', 'dents', 'leads', 'smell']);

const item = (key: string, asks: string, failMeans: Meaning, photo: PhotoNeed = 'never'): ChecklistItem => ({
  key,
  asks,
  failMeans,
  photo,
});

const SWELLING = item('swelling', 'Swelling', 'hold', 'when not ok');
const DENTS = item('dents', 'Dents, creases, punctures', 'hold', 'when not ok');
const CASE = item('case', 'Case and wrap', 'watch');
const LEADS = item('leads', 'Leads', 'hold');
const CONNECTOR = item('connector', 'Main connector', 'watch');
const BALANCE = item('balance', 'Balance lead and pins', 'watch');
const SMELL = item('smell', 'Odour or leak', 'hold');
const LABEL = item('label', 'Tag and label', 'advise');
const WARM = item('warm', 'Warmth at rest', 'hold');

/** The practice's lists, each in the order hands move. Season start: look, then leads and connector, then the balance port. */
export const DEFAULT_CHECKLISTS: Checklists = {
  'before-use': [SWELLING, DENTS, LEADS, CONNECTOR, BALANCE, LABEL],
  'after-use': [WARM, SWELLING, DENTS, LEADS, CONNECTOR, SMELL],
  'before-charge': [SWELLING, DENTS, LEADS, CONNECTOR, BALANCE, WARM],
  'after-charge': [WARM, SWELLING, SMELL, BALANCE],
  'season-start': [SWELLING, DENTS, CASE, SMELL, LEADS, CONNECTOR, BALANCE, LABEL],
  'after-crash': [SMELL, WARM, SWELLING, DENTS, CASE, LEADS, CONNECTOR, BALANCE],
  scheduled: [SWELLING, DENTS, CASE, SMELL, LEADS, CONNECTOR, BALANCE, LABEL, WARM],
  receipt: [LABEL, SWELLING, DENTS, CASE, SMELL, LEADS, CONNECTOR, BALANCE],
};

/** After these a pack counts as inspected for the calendar; the short looks before and after a use do not. */
export const FULL_OCCASIONS: ReadonlySet<Occasion> = new Set([
  'season-start',
  'after-crash',
  'scheduled',
  'receipt',
]);

/**
 * What a failure of this item means today: as the house says, but never less than a hard cause.
 * @example meaningOf('swelling', 'watch') // => 'hold'
 * @example meaningOf('label', 'advise') // => 'advise'
 */
export function meaningOf(key: string, said: Meaning): Meaning {
  return HARD_KEYS.has(key) ? 'hold' : said;
}

/**
 * A letter for each item, so that it can be answered with one key: the first letter of its words that no item above it
 * has taken. A list longer than its letters leaves the last without one.
 * @example lettersFor([{ asks: 'Swelling' }, { asks: 'Smoke' }]) // => ["s", "m"]
 */
export function lettersFor(items: readonly Pick<ChecklistItem, 'asks'>[]): readonly (string | null)[] {
  const taken = new Set<string>();
  return items.map(({ asks }) => {
    const letter = [...asks.toLowerCase()].find((one) => /[a-z]/.test(one) && !taken.has(one)) ?? null;
    if (letter) taken.add(letter);
    return letter;
  });
}

/** Why a checklist cannot be adopted. */
export type ChecklistRefusal =
  | { readonly code: 'empty'; readonly occasion: Occasion }
  | { readonly code: 'too-long'; readonly occasion: Occasion; readonly most: number }
  | { readonly code: 'same-key'; readonly occasion: Occasion; readonly at: number }
  | { readonly code: 'too-mild'; readonly occasion: Occasion; readonly at: number }
  | { readonly code: 'hard-missing'; readonly occasion: Occasion; readonly key: string };

const MOST_ITEMS = 20;
/** Swelling is looked for on every occasion: the one sign a hand cannot take back. */
const NEVER_LEFT_OUT = 'swelling';

/** What is wrong with a house's checklists: none empty, none without swelling, no hard cause made mild. */
export function checklistRefusals(checklists: Checklists): readonly ChecklistRefusal[] {
  return OCCASIONS.flatMap((occasion): ChecklistRefusal[] => {
    const items = checklists[occasion];
    if (items.length === 0) return [{ code: 'empty', occasion }];
    if (items.length > MOST_ITEMS) return [{ code: 'too-long', occasion, most: MOST_ITEMS }];
    const missing: ChecklistRefusal[] = items.some(({ key }) => key === NEVER_LEFT_OUT)
      ? []
      : [{ code: 'hard-missing', occasion, key: NEVER_LEFT_OUT }];
    const single = items.flatMap(({ key, failMeans }, at): ChecklistRefusal[] => [
      ...(items.findIndex((other) => other.key === key) < at
        ? [{ code: 'same-key' as const, occasion, at }]
        : []),
      ...(meaningOf(key, failMeans) === failMeans ? [] : [{ code: 'too-mild' as const, occasion, at }]),
    ]);
    return [...missing, ...single];
  });
}

/** The occasions on which two houses' checklists differ. */
export function changedChecklists(before: Checklists, after: Checklists): readonly Occasion[] {
  return OCCASIONS.filter((occasion) => JSON.stringify(before[occasion]) !== JSON.stringify(after[occasion]));
}
