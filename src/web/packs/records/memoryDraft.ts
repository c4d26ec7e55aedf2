import type { MemorySettings } from '../../../contract';
import type { MemoryByRules } from '../../../core/assess';
import type { DeviceId, DeviceReadingId, EquipmentId } from '../../../core/measure';
import { parseFigure } from '../../../core/reading';
import { BLANK_MEMORY } from '../../../core/record';
import type { MemoryPayload, MemoryWork, OwnMemory } from '../../../core/record';
import { blankToNull, Gate } from '../../domain/entry/gate';
import type { Understood } from '../../domain/entry/gate';

/** What has been typed of a smart pack's memory, or put there by a reader. */
export interface MemoryDraft {
  readonly did: MemoryWork;
  readonly couldNot: boolean;
  readonly own: 'on' | 'off' | '';
  readonly after: string;
  readonly storage: string;
  readonly top: string;
  readonly amps: string;
  readonly cycles: string;
  readonly overCharges: string;
  readonly overDischarges: string;
  readonly overTemperatures: string;
  readonly number: string;
  readonly firmware: string;
  readonly firmwareDate: string;
  /** The id of an adapter of the bench; empty for the pack's own lead. */
  readonly adapter: string;
  readonly remarks: string;
  /** The reader that filled this in, and its reading; null for what a hand typed. */
  readonly from: { readonly deviceId: DeviceId; readonly readingId: DeviceReadingId } | null;
}

export const NO_MEMORY: MemoryDraft = {
  did: 'read',
  couldNot: false,
  own: '',
  after: '',
  storage: '',
  top: '',
  amps: '',
  cycles: '',
  overCharges: '',
  overDischarges: '',
  overTemperatures: '',
  number: '',
  firmware: '',
  firmwareDate: '',
  adapter: '',
  remarks: '',
  from: null,
};

export type MemoryField = keyof MemoryDraft;

/** Where each of the record's fields stands in the form. */
export const MEMORY_FIELDS: Readonly<Record<string, MemoryField>> = {
  'payload.memory.number': 'number',
  'payload.memory.storage.afterHours': 'after',
  'payload.memory.storage.mv': 'storage',
  'payload.memory.storage': 'own',
  'payload.memory.topMv': 'top',
  'payload.memory.chargeA': 'amps',
  'payload.memory.cycles': 'cycles',
  'payload.memory.overCharges': 'overCharges',
  'payload.memory.overDischarges': 'overDischarges',
  'payload.memory.overTemperatures': 'overTemperatures',
  'payload.memory.firmwareDate': 'firmwareDate',
  'payload.memory.firmware': 'firmware',
  'payload.adapterId': 'adapter',
  'payload.remarks': 'remarks',
};

/** What the text comes to: a memory read or set, an update, or one that could not be read. */
export function memoryTyped(draft: MemoryDraft): Understood<MemoryPayload, MemoryField> {
  const gate = new Gate<MemoryField>();
  const isRead = draft.did === 'read';
  const memory =
    draft.couldNot && isRead ? null : { ...settingsOf(draft, gate), ...(isRead ? factsOf(draft, gate) : {}) };
  const said: OwnMemory = { ...BLANK_MEMORY, ...memory };
  if (draft.did === 'updated')
    return gate.answer({
      did: 'updated',
      memory: {
        ...BLANK_MEMORY,
        firmware: blankToNull(draft.firmware),
        firmwareDate: blankToNull(draft.firmwareDate),
      },
      adapterId: adapterOf(draft),
      remarks: blankToNull(draft.remarks),
    });
  const isUnderstood = Object.keys(gate.errors).length === 0;
  if (isUnderstood && memory !== null && Object.values(said).every((one) => one === null))
    gate.errors.own = isRead
      ? 'Type what it shows, or say that it could not be read.'
      : 'Say what it was set to.';
  return gate.answer({
    did: draft.did,
    memory: memory && said,
    adapterId: adapterOf(draft),
    remarks: blankToNull(draft.remarks),
    ...(draft.from && isRead ? { measured: draft.from } : {}),
  });
}

function adapterOf({ adapter }: MemoryDraft): EquipmentId | null {
  return (adapter || null) as EquipmentId | null;
}

type Settings = Pick<OwnMemory, 'storage' | 'topMv' | 'chargeA'>;

function settingsOf(draft: MemoryDraft, gate: Gate<MemoryField>): Settings {
  const afterHours = gate.above('after', draft.after, 'Type hours, like 48.');
  const storageMv = millivolts(draft.storage, 'storage', gate);
  if (draft.own === '' && (afterHours !== null || storageMv !== null))
    gate.errors.own = 'Say whether its own storage is on or off.';
  return {
    storage: draft.own === '' ? null : { isOn: draft.own === 'on', afterHours, mv: storageMv },
    topMv: millivolts(draft.top, 'top', gate),
    chargeA: gate.above('amps', draft.amps, 'Type amps, like 3.3.'),
  };
}

function factsOf(draft: MemoryDraft, gate: Gate<MemoryField>): Omit<OwnMemory, keyof Settings> {
  const count = (field: MemoryField & keyof OwnMemory) => {
    const value = gate.figure(field, parseFigure(draft[field]), 'Type a whole number.');
    if (value !== null && !(Number.isInteger(value) && value >= 0))
      gate.errors[field] = 'A count is a whole number from 0 up.';
    return value;
  };
  return {
    number: blankToNull(draft.number),
    cycles: count('cycles'),
    overCharges: count('overCharges'),
    overDischarges: count('overDischarges'),
    overTemperatures: count('overTemperatures'),
    firmware: blankToNull(draft.firmware),
    firmwareDate: blankToNull(draft.firmwareDate),
  };
}

/** Volts a cell as typed; 4200 is taken as millivolts, since no cell has so many volts. */
function millivolts(text: string, field: MemoryField, gate: Gate<MemoryField>): number | null {
  const value = gate.above(field, text, 'Type volts a cell, like 3.85.');
  return value === null ? null : Math.round(value >= 100 ? value : value * 1000);
}

const figure = (value: number | null) => (value === null ? '' : String(value));
const cellVolts = (mv: number | null) => (mv === null ? '' : (mv / 1000).toFixed(2));

/** What a reader says, as it stands in the form. */
export function memoryShown(memory: OwnMemory, from: NonNullable<MemoryDraft['from']>): Partial<MemoryDraft> {
  const { storage } = memory;
  return {
    did: 'read',
    couldNot: false,
    own: storage === null ? '' : storage.isOn ? 'on' : 'off',
    after: figure(storage?.afterHours ?? null),
    storage: storage?.mv == null ? '' : String(storage.mv / 1000),
    top: memory.topMv === null ? '' : String(memory.topMv / 1000),
    amps: figure(memory.chargeA),
    cycles: figure(memory.cycles),
    overCharges: figure(memory.overCharges),
    overDischarges: figure(memory.overDischarges),
    overTemperatures: figure(memory.overTemperatures),
    number: memory.number ?? '',
    firmware: memory.firmware ?? '',
    firmwareDate: memory.firmwareDate ?? '',
    from,
  };
}

/** How the rules want it set, as it stands in the form. A pack waits 12 to 240 hours and no others. */
export function memoryWanted(rules: MemoryByRules): Partial<MemoryDraft> {
  return {
    did: 'written',
    own: 'on',
    after: String(Math.max(12, Math.min(240, Math.floor(rules.afterHours)))),
    storage: cellVolts(rules.storageMv),
    top: cellVolts(rules.topMv),
    amps: String(Math.floor(rules.chargeA * 10) / 10),
    from: null,
  };
}

/** What a reader is told to write. */
export function settingsToWrite({ storage, topMv, chargeA }: OwnMemory): MemorySettings {
  return {
    ...(storage
      ? {
          storage: {
            isOn: storage.isOn,
            ...(storage.afterHours === null ? {} : { afterHours: storage.afterHours }),
            ...(storage.mv === null ? {} : { mv: storage.mv }),
          },
        }
      : {}),
    ...(topMv === null ? {} : { topMv }),
    ...(chargeA === null ? {} : { amps: chargeA }),
  };
}
