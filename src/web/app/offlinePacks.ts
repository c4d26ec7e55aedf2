import { openDB } from 'idb';
import type { DBSchema, IDBPDatabase } from 'idb';
import type { OfflinePack, PackDetails } from '../../contract';
import type { PackId } from '../../core/measure';
import { bytesOf, unpacked } from './packed';

/**
 * Every pack of the register on this device, its ledger with it, so that any of them is judged here with the same core where there is
 * no network. They stay compressed, as the server sent them; the one that is asked for is unpacked.
 */
interface Store extends DBSchema {
  readonly packs: { readonly key: PackId; readonly value: Packed };
  readonly index: { readonly key: 'kept'; readonly value: Index };
}

/** Which state of a pack is kept: its facts and its records are counted apart. */
export interface Edition {
  readonly version: number;
  readonly seq: number;
}

/** Another build may read another shape; what it kept is fetched anew. */
interface OfBuild {
  readonly build: string;
}

interface Packed extends OfBuild {
  readonly bytes: Uint8Array<ArrayBuffer>;
}

interface Index extends OfBuild {
  readonly kept: ReadonlyMap<PackId, Edition>;
}

/** Put here by the build. */
declare const __BUILD__: string;

let opened: Promise<IDBPDatabase<Store>> | null = null;

function store(): Promise<IDBPDatabase<Store>> {
  opened ??= openDB<Store>('malle.packs', 1, {
    upgrade: (database) => {
      database.createObjectStore('packs');
      database.createObjectStore('index');
    },
  });
  return opened;
}

/** Which packs are kept on this device, and in which state. */
export async function keptEditions(): Promise<ReadonlyMap<PackId, Edition>> {
  return usable(await (await store()).get('index', 'kept'));
}

function usable(index: Index | undefined): ReadonlyMap<PackId, Edition> {
  return index?.build === __BUILD__ ? index.kept : new Map<PackId, Edition>();
}

/** Keeps these packs in place of what was kept of them, and drops those that are `gone` from the register. */
export async function keepPacks(
  packs: readonly OfflinePack[],
  gone: readonly PackId[] = [],
): Promise<ReadonlyMap<PackId, Edition>> {
  const transaction = (await store()).transaction(['packs', 'index'], 'readwrite');
  const stored = transaction.objectStore('packs');
  const index = transaction.objectStore('index');
  const kept = new Map(usable(await index.get('kept')));
  if (kept.size === 0) await stored.clear();
  for (const { id, version, seq, packed } of packs) {
    await stored.put({ build: __BUILD__, bytes: bytesOf(packed) }, id);
    kept.set(id, { version, seq });
  }
  for (const id of gone) {
    await stored.delete(id);
    kept.delete(id);
  }
  await index.put({ build: __BUILD__, kept }, 'kept');
  await transaction.done;
  return kept;
}

/** A pack as it was last kept here; null when it is not. What others of its type taught about wear is not kept with it. */
export async function readOfflinePack(id: PackId): Promise<PackDetails | null> {
  const packed = await (await store()).get('packs', id);
  if (packed?.build !== __BUILD__) return null;
  return { ...(await unpacked<Omit<PackDetails, 'siblings'>>(packed.bytes)), siblings: {} };
}

/** Forgets all of them, when somebody signs out. */
export async function forgetOfflinePacks(): Promise<void> {
  const transaction = (await store()).transaction(['packs', 'index'], 'readwrite');
  await transaction.objectStore('packs').clear();
  await transaction.objectStore('index').clear();
  await transaction.done;
}
