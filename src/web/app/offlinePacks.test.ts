import 'fake-indexeddb/auto';
import { deflateRawSync } from 'node:zlib';
import type { OfflinePack } from '../../contract';
import type { PackId } from '../../core/measure';
import { forgetOfflinePacks, keepPacks, keptEditions, readOfflinePack } from './offlinePacks';

const build = (name: string) => Object.assign(globalThis, { __BUILD__: name });
beforeEach(() => build('this build'));

const id = (name: string) => name as PackId;
const pack = (name: string, seq: number, version = 1): OfflinePack => {
  const details = { id: name, tag: name.toUpperCase(), records: Array.from({ length: seq }, (_, i) => i) };
  return { id: id(name), version, seq, packed: deflateRawSync(JSON.stringify(details)).toString('base64') };
};

it('keeps packs, and gives back the one that is asked for as it was last kept', async () => {
  expect(await readOfflinePack(id('a'))).toBeNull();
  await keepPacks([pack('a', 2), pack('ß', 900)]);
  await keepPacks([pack('a', 3, 2)]);
  expect(await keptEditions()).toEqual(
    new Map([
      ['a', { version: 2, seq: 3 }],
      ['ß', { version: 1, seq: 900 }],
    ]),
  );
  expect(await readOfflinePack(id('a'))).toEqual({ id: 'a', tag: 'A', records: [0, 1, 2], siblings: {} });
  expect((await readOfflinePack(id('ß')))!.records).toHaveLength(900);
  expect(await readOfflinePack(id('unknown'))).toBeNull();
});

it('drops packs that are gone from the register', async () => {
  const kept = await keepPacks([], [id('ß')]);
  expect([...kept.keys()]).toEqual(['a']);
  expect(await readOfflinePack(id('ß'))).toBeNull();
});

it('reads nothing another build kept, and begins anew over it', async () => {
  build('a later build');
  expect((await keptEditions()).size).toBe(0);
  expect(await readOfflinePack(id('a'))).toBeNull();
  await keepPacks([pack('b', 1)]);
  build('this build');
  expect(await readOfflinePack(id('a'))).toBeNull();
  build('a later build');
  expect([...(await keptEditions()).keys()]).toEqual(['b']);
});

it('two pages that keep at once leave both of their packs', async () => {
  await Promise.all([keepPacks([pack('c', 1)]), keepPacks([pack('d', 1)]), keepPacks([pack('c', 2)])]);
  const kept = await keptEditions();
  expect(kept.get(id('c'))).toEqual({ version: 1, seq: 2 });
  expect(kept.has(id('d'))).toBe(true);
});

it('forgets all of them with whoever signed out', async () => {
  await forgetOfflinePacks();
  expect((await keptEditions()).size).toBe(0);
  expect(await readOfflinePack(id('c'))).toBeNull();
});
