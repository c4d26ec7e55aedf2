import type { PersonId } from '../../core/measure';
import { DAY_MS } from '../../core/measure';
import type { HandedIn } from './outbox';
import { forgetSent, keepSent, takeSent, useSent } from './sent';

jest.mock('zustand/middleware', () => ({ persist: (make: unknown) => make }));

const NOW = 1_772_478_000_000;
const item = (id: string, by = 'ada'): HandedIn => ({
  id,
  packId: null,
  by: by as PersonId,
  drafts: [],
  round: null,
});
const ids = (items: readonly HandedIn[]) => items.map(({ id }) => id);

beforeEach(() => useSent.setState({ items: [] }));

it('keeps what was acknowledged in its order, and gives it away once', () => {
  for (const id of ['a', 'b', 'c']) keepSent(item(id), NOW);
  expect(ids(takeSent())).toEqual(['a', 'b', 'c']);
  expect(takeSent()).toEqual([]);
});

it('keeps the newest three hundred of a month', () => {
  keepSent(item('old'), NOW - 31 * DAY_MS);
  keepSent(item('younger'), NOW - 29 * DAY_MS);
  keepSent(item('now'), NOW);
  expect(ids(takeSent())).toEqual(['younger', 'now']);
  for (let i = 0; i < 320; i += 1) keepSent(item(String(i)), NOW);
  const kept = ids(takeSent());
  expect(kept).toHaveLength(300);
  expect([kept[0], kept.at(-1)]).toEqual(['20', '319']);
});

it('forgets what was of whoever signs out, and nobody else’s', () => {
  keepSent(item('a', 'ada'), NOW);
  keepSent(item('b', 'bram'), NOW);
  forgetSent('ada' as PersonId);
  forgetSent(null);
  expect(ids(takeSent())).toEqual(['b']);
});
