import { deltaOf } from '../../contract';
import { FailedRequest, askWhileTold, request } from './api';

const answering = (status: number, type: string, ...chunks: string[]) => {
  const body = new ReadableStream<Uint8Array>({
    start(stream) {
      for (const chunk of chunks) stream.enqueue(new TextEncoder().encode(chunk));
      stream.close();
    },
  });
  jest
    .spyOn(globalThis, 'fetch')
    .mockResolvedValue(new Response(body, { status, headers: { 'content-type': type } }));
};
const asked = async (signal = new AbortController().signal) => {
  const told: string[] = [];
  const answer = await askWhileTold<string>('/slow', (done, of) => told.push(`${done} of ${of}`), signal);
  return { told, answer };
};
const LINES = 'application/x-ndjson';

afterEach(() => jest.restoreAllMocks());

it('hears how far it is and then the answer, however the lines arrive', async () => {
  answering(200, LINES, '{"done":0,"of":60}\n{"do', 'ne":25,"of":60}', '\n{"answer":"made"}\n');
  expect(await asked()).toEqual({ told: ['0 of 60', '25 of 60'], answer: 'made' });
});

it('says that no answer came when it breaks off in the middle', async () => {
  answering(200, LINES, '{"done":25,"of":60}\n{"answ');
  await expect(asked()).rejects.toMatchObject({ problem: null });
});

it('tells why it was refused', async () => {
  const problem = { type: 'about:blank', title: 'Not allowed', status: 403 };
  answering(403, 'application/problem+json', JSON.stringify(problem));
  await expect(asked()).rejects.toMatchObject({ problem });
});

it('tells no network from being given up', async () => {
  jest.spyOn(globalThis, 'fetch').mockRejectedValue(new TypeError('fetch failed'));
  await expect(asked()).rejects.toBeInstanceOf(FailedRequest);
  await expect(asked(AbortSignal.abort())).rejects.not.toBeInstanceOf(FailedRequest);
});

describe('what was answered before', () => {
  const older = {
    counts: { fit: 3 },
    rows: [
      { id: 'a', mv: 3800 },
      { id: 'b', mv: 3900 },
    ],
  };
  const newer = {
    counts: { fit: 2 },
    rows: [
      { id: 'b', mv: 3900 },
      { id: 'a', mv: 3500 },
    ],
  };

  /** Answers one after the other; what the page told of itself each time. */
  const answers = (...given: readonly [status: number, body: unknown, tag?: string][]) => {
    const sent: Record<string, string>[] = [];
    const fetching = jest.spyOn(globalThis, 'fetch');
    for (const [status, body, tag] of given)
      fetching.mockImplementationOnce((_path, init) => {
        sent.push(init!.headers as Record<string, string>);
        const text = status === 304 ? null : typeof body === 'string' ? body : JSON.stringify(body);
        return Promise.resolve(new Response(text, { status, headers: tag ? { etag: tag } : {} }));
      });
    return sent;
  };

  it('is told again by its name alone, and by what changed in it', async () => {
    const sent = answers(
      [200, older, '"1"'],
      [304, null, '"1"'],
      [226, deltaOf(older, newer), '"2"'],
      [304, null],
    );
    for (const expected of [older, older, newer, newer])
      expect(await request('GET', '/t1')).toEqual(expected);
    expect(sent.map((headers) => headers['if-none-match'])).toEqual([undefined, '"1"', '"1"', '"2"']);
  });

  it('is asked for whole where the change arrived broken', async () => {
    const sent = answers([200, older, '"1"'], [226, '{"memb', '"2"'], [200, newer, '"2"']);
    expect(await request('GET', '/t2')).toEqual(older);
    expect(await request('GET', '/t2')).toEqual(newer);
    expect(sent[2]).not.toHaveProperty('if-none-match');
  });

  it('is not kept of what has no name, of what was asked with a query, or of what was refused', async () => {
    const problem = { type: 'about:blank', title: 'Not allowed', status: 403 };
    const sent = answers(
      [200, older],
      [200, older, '"1"'],
      [403, problem, '"3"'],
      [200, newer, '"1"'],
      [200, newer],
    );
    await request('GET', '/t3');
    await request('GET', '/t3');
    await expect(request('GET', '/t3')).rejects.toMatchObject({ problem });
    await request('GET', '/t4?ids=a');
    await request('GET', '/t4?ids=a');
    expect(sent.map((headers) => headers['if-none-match'])).toEqual([
      undefined,
      undefined,
      '"1"',
      undefined,
      undefined,
    ]);
  });
});

describe('what was asked early', () => {
  const page = (malleEarly?: object) => Object.assign(globalThis, { window: { malleEarly } });
  const told = (state: string) => Promise.resolve(new Response(JSON.stringify({ state })));
  /** The application as a page has it that was just opened. */
  const opened = async () => {
    let api: { request: typeof request };
    await jest.isolateModulesAsync(async () => {
      api = await import('./api');
    });
    return () => api.request('GET', '/session');
  };
  beforeEach(() => jest.spyOn(globalThis, 'fetch').mockImplementation(() => told('now')));
  afterEach(() => Reflect.deleteProperty(globalThis, 'window'));

  it('is the first answer, and no other', async () => {
    page({ '/session': told('early') });
    const ask = await opened();
    expect(await ask()).toEqual({ state: 'early' });
    expect(await ask()).toEqual({ state: 'now' });
  });

  it('is of the past where the application was here before it: somebody may have signed in since', async () => {
    page();
    const ask = await opened();
    expect(await ask()).toEqual({ state: 'now' });
    page({ '/session': told('signed-out') });
    expect(await ask()).toEqual({ state: 'now' });
  });
});
