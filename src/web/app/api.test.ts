import { FailedRequest, askWhileTold } from './api';

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
