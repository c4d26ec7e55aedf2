import 'fake-indexeddb/auto';
import { QueryClient, dehydrate } from '@tanstack/react-query';
import { openDB } from 'idb';
import { keepOfflineCopy, openedOfflineCopy, readOfflineCopy, stillReading } from './offlineCopy';

const session = {
  state: 'signed-in',
  person: { id: 'adela', name: 'Adela' },
  demo: false,
  now: 6_000,
  frozen: false,
};
const answers = new QueryClient();

beforeAll(() => {
  Object.assign(globalThis, { __BUILD__: 'this build' });
  answers.setQueryData(['register'], { name: 'Estuary' }, { updatedAt: 1_500 });
  answers.setQueryData(['packs'], [{ tag: 'HX-01' }], { updatedAt: 1_500 });
  void answers.invalidateQueries({ queryKey: ['packs'] });
});

/** As `keepOfflineCopy` leaves it: what is small in one part, the list of packs in another. */
async function told(build: string): Promise<void> {
  const database = await openDB('malle.told', 2, {
    upgrade: (made) => {
      made.createObjectStore('told');
      made.createObjectStore('answers');
    },
  });
  const of = (kind: string) =>
    dehydrate(answers, { shouldDehydrateQuery: ({ queryKey }) => queryKey[0] === kind });
  await database.put('told', { build, session, sessionAt: 2_000, toldAt: 1_500 }, 'last');
  await database.put('answers', of('register'), 'small');
  await database.put('answers', of('packs'), 0);
  database.close();
}

it('recalls nothing where nothing was told, or by another build', async () => {
  const client = new QueryClient();
  expect(await readOfflineCopy(client)).toBeNull();
  await told('another build');
  expect(await readOfflineCopy(client)).toBeNull();
  expect([client.getQueryData(['packs']), openedOfflineCopy()]).toEqual([undefined, null]);
});

it('recalls who was signed in and what was told, by the register’s clock, and asks for nothing at once', async () => {
  await told('this build');
  const client = new QueryClient();
  const before = Date.now();
  const recalled = await readOfflineCopy(client);
  expect(recalled).toMatchObject({ state: 'signed-in', person: { name: 'Adela' } });
  // The register was four seconds ahead of this device; the session was recalled itself, half a second after the list came.
  expect(recalled!.now - before).toBeGreaterThanOrEqual(4_000);
  expect(openedOfflineCopy()).toBe(5_500);
  expect(client.getQueryData(['register'])).toEqual({ name: 'Estuary' });
  // The list is large and follows by itself.
  expect(client.getQueryData(['packs'])).toBeUndefined();
  const kinds = stillReading();
  await new Promise<void>((come) => {
    client
      .getQueryCache()
      .subscribe(({ query }) => String((query.queryKey as unknown[])[0]) === 'packs' && come());
  });
  expect(client.getQueryState(['packs'])).toMatchObject({ data: [{ tag: 'HX-01' }], isInvalidated: false });
  // Whoever must ask anew is told what came after that.
  expect(await kinds).toContain('packs');
  expect(stillReading()).toBeNull();
});

describe('what is kept', () => {
  let hide: () => void;

  beforeAll(() => {
    const document = {
      visibilityState: 'hidden',
      addEventListener: (_type: string, listener: () => void) => {
        hide = listener;
      },
    };
    Object.assign(globalThis, { document });
  });

  /** A page that is opened, hears these answers and is put away at once. */
  async function visit(person: string, heard: Readonly<Record<string, unknown>>): Promise<void> {
    const client = new QueryClient();
    keepOfflineCopy(client, 'session', ['register', 'packs', 'flying', 'pack']);
    const asked = { ...session, person: { id: person, name: person } };
    client.setQueryData(['session'], asked);
    for (const [kind, answer] of Object.entries(heard)) client.setQueryData(kind.split(' '), answer);
    hide();
    await expectKept(person);
  }

  async function expectKept(person: string): Promise<void> {
    const database = await openDB('malle.told', 2);
    for (let tries = 0; ; tries++) {
      const last = (await database.get('told', 'last')) as
        { session: { person: { id: string } } } | undefined;
      if (last?.session.person.id === person && tries > 4) break;
      expect(tries).toBeLessThan(3_000);
      await new Promise((again) => setTimeout(again, 10));
    }
    database.close();
  }

  async function keptNow(): Promise<readonly string[]> {
    const database = await openDB('malle.told', 2);
    const parts = (await database.getAll('answers')) as {
      queries: { queryKey: string[]; state: { data: unknown } }[];
    }[];
    database.close();
    return parts
      .flatMap(({ queries }) => queries)
      .map(({ queryKey, state }) => `${queryKey.join(' ')}: ${JSON.stringify(state.data)}`)
      .sort();
  }

  it('a page that is opened for a moment takes away nothing of what an earlier one was told', async () => {
    await visit('bram', { register: 1, packs: [1], flying: 1, 'pack 7': 1 });
    expect(await keptNow()).toEqual(['flying: 1', 'pack 7: 1', 'packs: [1]', 'register: 1']);
    await visit('bram', { register: 2 });
    // Single packs would pile up: those not looked at again are let go.
    expect(await keptNow()).toEqual(['flying: 1', 'packs: [1]', 'register: 2']);
  });

  it('nothing of another person’s is left under a name', async () => {
    await visit('mirre', { register: 3 });
    expect(await keptNow()).toEqual(['register: 3']);
  });
});
