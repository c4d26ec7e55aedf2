import { withDraft, withoutDraft } from './drafts';

jest.mock('zustand/middleware', () => ({ persist: (make: unknown) => make }));

const state = { drafts: { 'reading.a': { text: '384' }, 'note.a': 'half a thou' } };

it('keeps each form’s typing apart', () => {
  expect(withDraft(state, 'reading.b', { text: '3' }).drafts).toEqual({
    ...state.drafts,
    'reading.b': { text: '3' },
  });
  expect(withDraft(state, 'note.a', 'half a thought').drafts).toEqual({
    ...state.drafts,
    'note.a': 'half a thought',
  });
});

it('forgets one and no other, and changes nothing in place', () => {
  expect(withoutDraft(state, 'note.a').drafts).toEqual({ 'reading.a': { text: '384' } });
  expect(withoutDraft(state, 'never').drafts).toEqual(state.drafts);
  expect(Object.keys(state.drafts)).toHaveLength(2);
});
