import {
  answeredItems,
  changedChecklists,
  checklistRefusals,
  DEFAULT_CHECKLISTS,
  HARD_KEYS,
  lettersFor,
  nextAnswer,
  OCCASIONS,
  photosMissing,
} from '.';
import type { ChecklistItem, Checklists, Marks } from '.';
import type { PhotoId } from '../measure';

const own: ChecklistItem = { key: 'own-1', asks: 'Velcro strap', failMeans: 'advise', photo: 'never' };
const withItems = (items: readonly ChecklistItem[]): Checklists => ({
  ...DEFAULT_CHECKLISTS,
  scheduled: items,
});
const codes = (checklists: Checklists) => checklistRefusals(checklists).map(({ code }) => code);

it('the practice’s own lists may be adopted, and look for swelling on every occasion', () => {
  expect(checklistRefusals(DEFAULT_CHECKLISTS)).toEqual([]);
  for (const occasion of OCCASIONS)
    expect(DEFAULT_CHECKLISTS[occasion].map(({ key }) => key)).toContain('swelling');
});

it.each(OCCASIONS)('every item %s has a key of its own to press', (occasion) => {
  const letters = lettersFor(DEFAULT_CHECKLISTS[occasion]);
  expect(letters).not.toContain(null);
  expect(new Set(letters).size).toBe(letters.length);
});

it('season start goes in the order of the practice', () => {
  const keys = DEFAULT_CHECKLISTS['season-start'].map(({ key }) => key);
  const at = (key: string) => keys.indexOf(key);
  expect(at('swelling')).toBe(0);
  expect(at('leads')).toBeLessThan(at('connector'));
  expect(at('connector')).toBeLessThan(at('balance'));
});

describe('a house’s own lists', () => {
  const items = DEFAULT_CHECKLISTS.scheduled;
  it('may add, order and ask for photos', () => {
    expect(codes(withItems([...items, own].reverse()))).toEqual([]);
    expect(codes(withItems(items.map((item) => ({ ...item, photo: 'always' as const }))))).toEqual([]);
  });
  it.each<[string, readonly ChecklistItem[], string]>([
    ['nothing', [], 'empty'],
    ['no swelling', items.filter(({ key }) => key !== 'swelling'), 'hard-missing'],
    ['one thing twice', [...items, items[1]!], 'same-key'],
    ['a hard cause made mild', items.map((item) => ({ ...item, failMeans: 'watch' as const })), 'too-mild'],
    [
      'too much',
      [...items, ...Array.from({ length: 20 }, (_, i) => ({ ...own, key: `own-${i}` }))],
      'too-long',
    ],
  ])('not %s', (_what, list, code) => {
    expect(codes(withItems(list))).toContain(code);
  });
  it('names every hard cause made milder', () => {
    const mild = withItems(items.map((item) => ({ ...item, failMeans: 'advise' as const })));
    expect(codes(mild)).toHaveLength(items.filter(({ key }) => HARD_KEYS.has(key)).length);
  });
});

it('tells on which occasions two lists differ', () => {
  expect(changedChecklists(DEFAULT_CHECKLISTS, DEFAULT_CHECKLISTS)).toEqual([]);
  expect(
    changedChecklists(DEFAULT_CHECKLISTS, withItems([...DEFAULT_CHECKLISTS.scheduled].reverse())),
  ).toEqual(['scheduled']);
});

it('an item runs through its answers and back', () => {
  expect(['ok', 'note', 'fail'].map((answer) => nextAnswer(answer as 'ok'))).toEqual(['note', 'fail', 'ok']);
});

it('what was not marked was found in order, and words and weight stay with the answer', () => {
  const marks: Marks = { connector: { answer: 'fail', note: '  dark ', photoIds: [] } };
  const answered = answeredItems(DEFAULT_CHECKLISTS.scheduled, marks);
  expect(answered.find(({ key }) => key === 'connector')).toMatchObject({
    asks: 'Main connector',
    failMeans: 'watch',
    answer: 'fail',
    note: 'dark',
  });
  expect(answered.filter(({ answer }) => answer !== 'ok')).toHaveLength(1);
});

it('a photo is missing always, when not ok, or never', () => {
  const items: ChecklistItem[] = (['never', 'when not ok', 'always'] as const).map((photo) => ({
    ...own,
    key: photo.replaceAll(' ', '-'),
    photo,
  }));
  const missing = (marks: Marks) => photosMissing(items, marks).map(({ photo }) => photo);
  const failed = { answer: 'fail' as const, note: '', photoIds: [] };
  expect(missing({})).toEqual(['always']);
  expect(missing({ 'when-not-ok': failed, never: failed })).toEqual(['when not ok', 'always']);
  const shown = { ...failed, photoIds: ['p' as PhotoId] };
  expect(missing({ 'when-not-ok': shown, always: { ...shown, answer: 'ok' } })).toEqual([]);
});
