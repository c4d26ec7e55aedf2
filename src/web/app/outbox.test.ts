import { problemOf } from '../../contract';
import type { PackId, PersonId, RecordId } from '../../core/measure';
import type { RecordDraft } from '../../core/record';
import { ask, FailedRequest } from './api';
import { flushOutbox, handIn, handInAgain, outboxAfter, sendAgain, useOutbox } from './outbox';
import type { OutboxState } from './outbox';

jest.mock('zustand/middleware', () => ({ persist: (make: unknown) => make }));
jest.mock('./api', () => ({
  ...jest.requireActual<object>('./api'),
  ask: jest.fn(),
}));
jest.mock('./kept', () => ({ showKept: jest.fn(), showNamed: jest.fn() }));
jest.mock('./queries', () => ({ refreshRows: jest.fn() }));
jest.mock('./photos', () => ({ photosOf: () => [], photosOfEntry: () => [], sendPhotos: jest.fn() }));

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

describe('sending', () => {
  const asked = jest.mocked(ask);
  const note = (id: string) => ({ id, packId, by, drafts: [draft(id)], round: null });
  const sent = () =>
    asked.mock.calls.map(([, { body }]) => (body as unknown as { records: RecordDraft[] }).records[0]!.id);
  beforeEach(() => {
    asked.mockReset();
    useOutbox.setState({ items: [] });
  });

  it('is done once where the connection comes while the form still waits for its answer', async () => {
    let answered: (answer: never) => void = () => undefined;
    asked.mockReturnValueOnce(new Promise((done) => (answered = done)));
    const form = handIn(note('slow'));
    const told = jest.fn();
    await flushOutbox(by, told);
    expect(sent()).toEqual(['slow']);
    answered({} as never);
    expect(await form).toEqual({ outcome: 'kept' });
    await flushOutbox(by, told);
    expect(sent()).toEqual(['slow']);
    expect(told).not.toHaveBeenCalled();
    expect(useOutbox.getState().items).toEqual([]);
  });

  it('is tried again where no answer comes at all', async () => {
    asked.mockReturnValueOnce(new Promise(() => undefined));
    void handIn(note('hangs'));
    const started = performance.now();
    const clock = jest.spyOn(performance, 'now').mockReturnValue(started + 16_000);
    const told = jest.fn();
    await flushOutbox(by, told);
    clock.mockRestore();
    expect(sent()).toEqual(['hangs', 'hangs']);
    expect(told).toHaveBeenCalledTimes(1);
  });

  it('keeps the order: nothing passes what is under way before it', async () => {
    let answered: (answer: never) => void = () => undefined;
    asked.mockReturnValueOnce(new Promise((done) => (answered = done)));
    asked.mockRejectedValueOnce(new FailedRequest(null));
    const first = handIn(note('first'));
    expect(await handIn(note('second'))).toEqual({ outcome: 'waiting' });
    await flushOutbox(by, jest.fn());
    expect(sent()).toEqual(['first', 'second']);
    answered({} as never);
    await first;
    const told = jest.fn();
    await flushOutbox(by, told);
    expect(sent()).toEqual(['first', 'second', 'second']);
    expect(told.mock.calls.map(([{ id }]: [{ id: string }]) => id)).toEqual(['second']);
  });

  it('sets aside what the server breaks on each time, and goes on with the rest', async () => {
    const broken = new FailedRequest(problemOf('internal'));
    asked.mockImplementation((_, { body }) =>
      (body as unknown as { records: RecordDraft[] }).records[0]!.id === 'cursed'
        ? Promise.reject(broken)
        : Promise.resolve({} as never),
    );
    expect(await handIn(note('cursed'))).toEqual({ outcome: 'waiting' });
    useOutbox.setState((state) => outboxAfter(state, { type: 'queued', item: note('sound') }));
    for (let times = 0; times < 2; times += 1) {
      await flushOutbox(by, jest.fn());
      expect(states(useOutbox.getState())).toEqual(['cursed waiting', 'sound waiting']);
    }
    await flushOutbox(by, jest.fn());
    expect(states(useOutbox.getState())).toEqual(['cursed refused']);
    expect(useOutbox.getState().items[0]!.problem).toMatchObject({ status: 500 });

    asked.mockResolvedValue({} as never);
    sendAgain('cursed');
    await flushOutbox(by, jest.fn());
    expect(useOutbox.getState().items).toEqual([]);
  });

  it('never sets aside what only found no server', async () => {
    asked.mockRejectedValue(new FailedRequest(null));
    expect(await handIn(note('far away'))).toEqual({ outcome: 'waiting' });
    for (let times = 0; times < 10; times += 1) await flushOutbox(by, jest.fn());
    asked.mockRejectedValue(new FailedRequest(problemOf('busy')));
    for (let times = 0; times < 10; times += 1) await flushOutbox(by, jest.fn());
    expect(states(useOutbox.getState())).toEqual(['far away waiting']);
  });

  it('begins again with what failed, once its form has let go of it', async () => {
    asked.mockRejectedValueOnce(new FailedRequest(null));
    expect(await handIn(note('lost'))).toEqual({ outcome: 'waiting' });
    const told = jest.fn();
    await flushOutbox(by, told);
    expect(sent()).toEqual(['lost', 'lost']);
    expect(told).toHaveBeenCalledTimes(1);
  });
});

describe('a register that was brought back from a backup', () => {
  it('gets again what it acknowledged lately, once and in order, and nothing that waits is lost', async () => {
    // What the tests before handed in.
    handInAgain();
    useOutbox.setState({ items: [] });
    jest
      .mocked(ask)
      .mockReset()
      .mockResolvedValue({ packId, records: [] } as never);
    const note = (id: string) => ({ id, packId, by, drafts: [draft(id)], round: null });
    await handIn(note('first'));
    await handIn(note('second'));
    jest.mocked(ask).mockRejectedValueOnce(new FailedRequest(null));
    await handIn(note('third'));
    expect(states(useOutbox.getState())).toEqual(['third waiting']);
    expect(handInAgain()).toBe(2);
    expect(states(useOutbox.getState())).toEqual(['third waiting', 'first waiting', 'second waiting']);
    expect(handInAgain()).toBe(0);
    await flushOutbox(by, () => undefined);
    expect(states(useOutbox.getState())).toEqual([]);
    // Acknowledged by the one that came back, they are kept again.
    expect(handInAgain()).toBe(3);
    useOutbox.setState({ items: [] });
  });
});
