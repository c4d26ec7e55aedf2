import type { Instant, PersonId, RecordId } from '../measure';
import type { SmartSettings } from '../pack';
import type { MemoryPayload, OwnCounters, OwnMemory, OwnStorage } from './record';

/** Work on the pack's memory, as it counts. */
export type MemoryEvent = MemoryPayload & {
  readonly at: Instant;
  readonly by: PersonId;
  readonly records: readonly RecordId[];
};

/** What the pack itself counted, told when it was taken out, brought back or read. */
export interface CountEvent extends OwnCounters {
  readonly at: Instant;
  readonly by: PersonId;
  readonly records: readonly RecordId[];
}

/**
 * Faults a memory counted in all; null where one of its three counters is not shown, since a sum of some is no sum of all.
 * @example faultsOf({ overCharges: 1, overDischarges: 0, overTemperatures: 2 }) // => 3
 * @example faultsOf({ overCharges: 1, overDischarges: null, overTemperatures: 2 }) // => null
 */
export function faultsOf({
  overCharges,
  overDischarges,
  overTemperatures,
}: Pick<OwnMemory, 'overCharges' | 'overDischarges' | 'overTemperatures'>): number | null {
  if (overCharges === null || overDischarges === null || overTemperatures === null) return null;
  return overCharges + overDischarges + overTemperatures;
}

/** The longest a pack can be set to wait, hours: what counts where a memory says that it stores itself and not when. Source: the practice. */
const LONGEST_WAIT_HOURS = 240;

/**
 * What a pack may be relied on to do by itself, from what its label says and what its memory said since. What was written counts only for
 * the worse until it has been read back, and an update may have put everything back to how it came, so nothing counts until the next reading.
 * @param stated how it was set when it came into the register; null for a pack without a memory
 * @param events oldest first
 */
export function reliedOn(stated: SmartSettings | null, events: readonly MemoryEvent[]): SmartSettings | null {
  if (stated === null) return null;
  let relied = stated;
  for (const { did, memory } of events) {
    const storage = memory?.storage ?? null;
    if (did === 'updated') relied = { ...relied, autoStorage: false };
    else if (storage) relied = did === 'read' ? asSettings(storage, relied) : theWorse(relied, storage);
  }
  return relied;
}

function asSettings({ isOn, afterHours }: OwnStorage, before: SmartSettings): SmartSettings {
  if (afterHours !== null) return { autoStorage: isOn, autoStorageAfterHours: afterHours };
  const kept = before.autoStorage ? before.autoStorageAfterHours : LONGEST_WAIT_HOURS;
  return { autoStorage: isOn, autoStorageAfterHours: kept };
}

function theWorse(relied: SmartSettings, { isOn, afterHours }: OwnStorage): SmartSettings {
  return {
    autoStorage: relied.autoStorage && isOn,
    autoStorageAfterHours: Math.max(relied.autoStorageAfterHours, afterHours ?? 0),
  };
}

/** How a pack is set as far as anybody knows: each setting as it was last read or written. */
export interface AsSet extends Pick<
  OwnMemory,
  'number' | 'storage' | 'topMv' | 'chargeA' | 'firmware' | 'firmwareDate'
> {
  /** Work on the memory that has not been read back; null where the latest reading says how it is set. */
  readonly notReadBack: MemoryEvent | null;
  /** The latest reading of the memory; null where there was none. */
  readonly read: MemoryEvent | null;
  /** Whether anybody tried to read it since and could not. */
  readonly unreadable: MemoryEvent | null;
}

/** @param events oldest first */
export function asSet(stated: SmartSettings, events: readonly MemoryEvent[]): AsSet {
  let known: AsSet = {
    number: null,
    storage: { isOn: stated.autoStorage, afterHours: stated.autoStorageAfterHours, mv: null },
    topMv: null,
    chargeA: null,
    firmware: null,
    firmwareDate: null,
    notReadBack: null,
    read: null,
    unreadable: null,
  };
  for (const event of events) {
    const { did, memory } = event;
    if (memory === null) {
      if (did === 'read') known = { ...known, unreadable: event };
      else known = { ...known, notReadBack: event };
      continue;
    }
    known = {
      number: memory.number ?? known.number,
      storage: mergedStorage(known.storage, memory.storage),
      topMv: memory.topMv ?? known.topMv,
      chargeA: memory.chargeA ?? known.chargeA,
      firmware: memory.firmware ?? known.firmware,
      firmwareDate: memory.firmwareDate ?? known.firmwareDate,
      notReadBack: did !== 'read' ? event : isReadBack(known.notReadBack, memory) ? null : known.notReadBack,
      read: did === 'read' ? event : known.read,
      unreadable: did === 'read' ? null : known.unreadable,
    };
  }
  return known;
}

function mergedStorage(known: OwnStorage | null, said: OwnStorage | null): OwnStorage | null {
  if (said === null || known === null) return said ?? known;
  return { isOn: said.isOn, afterHours: said.afterHours ?? known.afterHours, mv: said.mv ?? known.mv };
}

/** A reading that does not show what was set says nothing about it. */
function isReadBack(work: MemoryEvent | null, read: OwnMemory): boolean {
  if (work === null) return true;
  if (work.did === 'updated' || work.memory === null) return read.storage !== null;
  return settingsOf(work.memory).every(({ of, value }) => value === null || settingOf(read, of) !== null);
}

export const MEMORY_SETTINGS = ['storage', 'delay', 'storage-volts', 'top', 'current'] as const;
/** One setting of a smart pack's memory. */
export type MemorySetting = (typeof MEMORY_SETTINGS)[number];

function settingOf({ storage, topMv, chargeA }: OwnMemory, of: MemorySetting): boolean | number | null {
  switch (of) {
    case 'storage':
      return storage?.isOn ?? null;
    case 'delay':
      return storage?.isOn ? storage.afterHours : null;
    case 'storage-volts':
      return storage?.isOn ? storage.mv : null;
    case 'top':
      return topMv;
    case 'current':
      return chargeA;
    default:
      return of satisfies never;
  }
}

function settingsOf(memory: OwnMemory) {
  return MEMORY_SETTINGS.map((of) => ({ of, value: settingOf(memory, of) }));
}

/** The settings that were written and that a reading since shows otherwise, or not at all. */
export function notTaken(written: OwnMemory, read: OwnMemory): readonly MemorySetting[] {
  return settingsOf(written)
    .filter(({ of, value }) => value !== null && value !== settingOf(read, of))
    .map(({ of }) => of);
}
