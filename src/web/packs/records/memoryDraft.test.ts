import { memoryByRules } from '../../../core/assess';
import type { DeviceId, DeviceReadingId } from '../../../core/measure';
import { BLANK_MEMORY } from '../../../core/record';
import type { OwnMemory } from '../../../core/record';
import { aPack, EVEN_KEEL } from '../../../core/testing/histories';
import { memoryShown, memoryTyped, memoryWanted, NO_MEMORY, settingsToWrite } from './memoryDraft';
import type { MemoryDraft } from './memoryDraft';

const from = { deviceId: 'reader' as DeviceId, readingId: 'reading' as DeviceReadingId };
const typed = (draft: Partial<MemoryDraft>) => memoryTyped({ ...NO_MEMORY, ...draft });
const memory: OwnMemory = {
  number: 'N-7',
  storage: { isOn: true, afterHours: 48, mv: 3825 },
  topMv: 4200,
  chargeA: 2.5,
  cycles: 41,
  overCharges: 0,
  overDischarges: 2,
  overTemperatures: 0,
  firmware: '1.02',
  firmwareDate: '2025-03-10',
};

describe('a memory that is typed', () => {
  it('what is left empty is unknown, never nought', () => {
    const { payload } = typed({ own: 'off', cycles: '12', overCharges: '0' });
    expect(payload).toEqual({
      did: 'read',
      memory: {
        ...BLANK_MEMORY,
        storage: { isOn: false, afterHours: null, mv: null },
        cycles: 12,
        overCharges: 0,
      },
      adapterId: null,
      remarks: null,
    });
  });

  it('volts are taken as volts or millivolts, with a comma too', () => {
    for (const top of ['4.2', '4,20', '4200']) expect(typed({ top }).payload?.memory?.topMv).toBe(4200);
  });

  it.each<[string, Partial<MemoryDraft>, keyof MemoryDraft]>([
    ['nothing at all', {}, 'own'],
    ['nothing to set', { did: 'written' }, 'own'],
    ['a delay without saying whether it is on', { after: '48' }, 'own'],
    ['a delay that is no figure', { own: 'on', after: 'two days' }, 'after'],
    ['a delay of nothing', { own: 'on', after: '0' }, 'after'],
    ['half a cycle', { cycles: '4.5' }, 'cycles'],
    ['fewer faults than none', { overCharges: '-1' }, 'overCharges'],
    ['a current in words', { amps: 'full' }, 'amps'],
  ])('%s is told at its field', (_what, draft, field) => {
    const { payload, errors } = typed(draft);
    expect(payload).toBeNull();
    expect(Object.keys(errors ?? {})).toEqual([field]);
  });

  it('one that could not be read says so, and keeps no figure that was typed before', () => {
    expect(typed({ couldNot: true, cycles: 'none', remarks: ' balance lead only ' }).payload).toEqual({
      did: 'read',
      memory: null,
      adapterId: null,
      remarks: 'balance lead only',
    });
  });

  it('setting and updating say nothing of counters', () => {
    const draft = { own: 'on', after: '24', cycles: '12', number: 'N-7', firmware: '1.05' } as const;
    expect(typed({ ...draft, did: 'written' }).payload?.memory).toEqual({
      ...BLANK_MEMORY,
      storage: { isOn: true, afterHours: 24, mv: null },
    });
    expect(typed({ ...draft, did: 'updated' }).payload?.memory).toEqual({
      ...BLANK_MEMORY,
      firmware: '1.05',
    });
  });
});

describe('a memory that a reader reads', () => {
  it('comes through the form unchanged, with the reading named', () => {
    expect(typed(memoryShown(memory, from)).payload).toEqual({
      did: 'read',
      memory,
      adapterId: null,
      remarks: null,
      measured: from,
    });
  });

  it('that shows little fills in little, and names no reading for what a hand sets', () => {
    const shown = memoryShown({ ...BLANK_MEMORY, cycles: 3 }, from);
    expect(typed(shown).payload?.memory).toEqual({ ...BLANK_MEMORY, cycles: 3 });
    expect(typed({ ...shown, did: 'written', own: 'on' }).payload).not.toHaveProperty('measured');
  });

  it('is told to write what was set and nothing else', () => {
    expect(settingsToWrite(memory)).toEqual({
      storage: { isOn: true, afterHours: 48, mv: 3825 },
      topMv: 4200,
      amps: 2.5,
    });
    expect(
      settingsToWrite({ ...BLANK_MEMORY, storage: { isOn: false, afterHours: null, mv: null } }),
    ).toEqual({
      storage: { isOn: false },
    });
  });
});

it('the house’s own settings break none of its rules, even where it allows more than a pack can be set to', () => {
  const pack = { ...aPack(), chemistry: 'lipo' } as const;
  for (const highHours of [6, 48, 700]) {
    const wanted = memoryByRules(pack, { ...EVEN_KEEL, allowance: { ...EVEN_KEEL.allowance, highHours } });
    const set = typed(memoryWanted(wanted)).payload!.memory!;
    expect(set.storage!.afterHours).toBe(Math.max(12, Math.min(240, highHours)));
    expect(set.topMv).toBe(wanted.topMv);
    expect(set.chargeA).toBeLessThanOrEqual(wanted.chargeA);
    expect(set.storage!.mv).toBeGreaterThanOrEqual(wanted.bandLowMv);
    expect(set.storage!.mv).toBeLessThanOrEqual(wanted.bandHighMv);
  }
});
