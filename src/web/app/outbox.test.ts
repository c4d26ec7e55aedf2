import { problemOf } from '../../contract';
import type { PackId, PersonId, RecordId } from '../../core/measure';
import type { RecordDraft } from '../../core/record';
import { outboxAfter } from './outbox';
import type { OutboxState } from './outbox';

jest.mock('zustand/middleware', () => ({ persist: (make: unknown) => make }));

const packId = 'pack' as PackId;
const by = 'person' as PersonId;
const draft = (id: string): RecordDraft => ({
  id: id as RecordId,
  at: 0,
  kind: 'note',
  payload: { text: id },
  supersedes: null,
});
const queued = (...ids: string[]): OutboxState =>
  ids.reduce<OutboxState>(
    (state, id) =>
      outboxAfter(state, { type: 'queued', item: { id, packId, by, drafts: [draft(id)], round: null } }),
    { items: [] },
  );

const states = ({ items }: OutboxState) => items.map(({ id, state }) => `${id} ${state}`);

it('keeps records in the order they were written', () => {
  expect(states(queued('a', 'b', 'c'))).toEqual(['a waiting', 'b waiting', 'c waiting']);
});

it('lets go of what the ledger acknowledged or its writer discarded, and of nothing else', () => {
  const after = outboxAfter(queued('a', 'b', 'c'), { type: 'acknowledged', id: 'b' });
  expect(states(after)).toEqual(['a waiting', 'c waiting']);
  expect(states(outboxAfter(after, { type: 'discarded', id: 'a' }))).toEqual(['c waiting']);
  expect(states(outboxAfter(after, { type: 'acknowledged', id: 'never' }))).toEqual([
    'a waiting',
    'c waiting',
  ]);
});

it('keeps a refused record with the reason, for its writer to see', () => {
  const problem = problemOf('invalid-input', { errors: [{ field: 'records.0.at', message: 'too early' }] });
  const after = outboxAfter(queued('a', 'b'), { type: 'refused', id: 'a', problem });
  expect(states(after)).toEqual(['a refused', 'b waiting']);
  expect(after.items[0]?.problem).toEqual(problem);
});
