import { assess } from '../assess';
import { oddFigures } from '../admission';
import type { PersonId } from '../measure';
import { aPack, aRecord, charge, EVEN_KEEL, correction, moved, START } from '../testing/histories';
import { asSet, BLANK_MEMORY, BLANK_RETURNED, BLANK_TAKEN_OUT, fold, notTaken } from '.';
import type { MemoryWork, OwnCounters, OwnMemory, PackRecord } from '.';

const smart = aPack({ smart: { autoStorage: true, autoStorageAfterHours: 24 } });
const ADA = 'ada' as PersonId;
const HOUR = 3_600_000;
const ON = (afterHours: number | null, mv: number | null = null) => ({ isOn: true, afterHours, mv });
const OFF = { isOn: false, afterHours: null, mv: null };

const memory = (hours: number, did: MemoryWork, said: Partial<OwnMemory> | null) =>
  aRecord(hours, {
    kind: 'memory',
    payload: { did, memory: said && { ...BLANK_MEMORY, ...said }, adapterId: null, remarks: null },
    supersedes: null,
  });
const takes = (hours: number, counters: OwnCounters | null) =>
  aRecord(
    hours,
    { kind: 'taken-out', payload: { ...BLANK_TAKEN_OUT, counters }, supersedes: null },
    { by: ADA },
  );
const returns = (hours: number, counters: OwnCounters | null) =>
  aRecord(hours, { kind: 'returned', payload: { ...BLANK_RETURNED, counters }, supersedes: null });

const relied = (...records: readonly PackRecord[]) => fold(smart, records).pack.smart;
const judged = (records: readonly PackRecord[], hours: number, pack = smart) =>
  assess(fold(pack, records), EVEN_KEEL, START + hours * HOUR);
const finding = (rule: string, records: readonly PackRecord[], hours = 100, pack = smart) =>
  judged(records, hours, pack).findings.find((one) => one.rule === rule);

describe('what a smart pack is relied on to do', () => {
  it('is what its label says until its memory says otherwise', () => {
    expect(relied()).toEqual(smart.smart);
    expect(relied(memory(0, 'read', { storage: ON(48) }))).toEqual({
      autoStorage: true,
      autoStorageAfterHours: 48,
    });
    expect(relied(memory(0, 'read', { storage: OFF }))).toMatchObject({ autoStorage: false });
    // A reader that does not show the setting says nothing about it.
    expect(relied(memory(0, 'read', { cycles: 4 }))).toEqual(smart.smart);
  });

  it('what was written counts only for the worse until it was read back', () => {
    const wasOff = memory(0, 'read', { storage: OFF });
    const setOn = memory(1, 'written', { storage: ON(24) });
    expect(relied(wasOff, setOn)).toMatchObject({ autoStorage: false });
    expect(relied(wasOff, setOn, memory(2, 'read', { storage: ON(24) }))).toEqual({
      autoStorage: true,
      autoStorageAfterHours: 24,
    });
    expect(relied(memory(1, 'written', { storage: OFF }))).toMatchObject({ autoStorage: false });
    expect(relied(memory(1, 'written', { storage: ON(12) }))).toMatchObject({ autoStorageAfterHours: 24 });
  });

  it('an update counts as nothing known until the next reading, and a withdrawn record as none', () => {
    const update = memory(1, 'updated', {});
    expect(relied(update)).toMatchObject({ autoStorage: false });
    expect(relied(update, memory(2, 'read', { storage: ON(24) }))).toEqual(smart.smart);
    expect(relied(update, correction(3, update, null))).toEqual(smart.smart);
  });

  it('one that says on and not when waits as long as it was known to, and the longest it can after it was off', () => {
    expect(relied(memory(0, 'read', { storage: ON(null) }))).toEqual(smart.smart);
    expect(relied(memory(0, 'read', { storage: OFF }), memory(1, 'read', { storage: ON(null) }))).toEqual({
      autoStorage: true,
      autoStorageAfterHours: 240,
    });
  });

  it('the storage clock runs for a pack whose own storage turned out to be off', () => {
    const full = charge(0);
    expect(judged([full], 30).storage.state).toBe('self-storing');
    expect(judged([full, memory(1, 'read', { storage: OFF })], 30).storage.state).toBe('high');
    expect(judged([full, memory(1, 'read', { storage: ON(240) })], 30).storage.state).toBe('high');
  });
});

describe('what is found in a memory', () => {
  it('every setting that is not as the rules want is named, at its limit none is', () => {
    const wrong = { storage: ON(49, 3860), topMv: 4210, chargeA: 3.4 };
    expect(finding('smart-settings', [memory(0, 'read', wrong)])).toMatchObject({
      wrong: [
        { is: 'late', afterHours: 49, allowanceHours: 48 },
        { is: 'storage-volts', mv: 3860, lowMv: 3700, highMv: 3850 },
        { is: 'rate', amps: 3.4, limitA: 3.3 },
        { is: 'top', mv: 4210, limitMv: 4200 },
      ],
    });
    const right = { storage: ON(48, 3850), topMv: 4200, chargeA: 3.3 };
    expect(finding('smart-settings', [memory(0, 'read', right)])).toBeUndefined();
    expect(finding('smart-settings', [memory(0, 'read', { storage: OFF })])).toMatchObject({
      wrong: [{ is: 'off' }],
    });
  });

  it('what was set asks to be read back, until a reading shows what was set', () => {
    const set = memory(1, 'written', { storage: ON(24), topMv: 4150 });
    expect(finding('memory-unread', [set])).toMatchObject({ did: 'written', at: START + HOUR });
    expect(finding('memory-unread', [set, memory(2, 'read', { cycles: 8 })])).toBeDefined();
    expect(finding('memory-unread', [set, memory(2, 'read', { storage: ON(24) })])).toBeDefined();
    expect(finding('memory-unread', [set, memory(2, 'read', null)])).toBeDefined();
    expect(
      finding('memory-unread', [set, memory(2, 'read', { storage: ON(24), topMv: 4150 })]),
    ).toBeUndefined();
    expect(
      finding('memory-unread', [memory(1, 'updated', {}), memory(2, 'read', { storage: ON(24) })]),
    ).toBeUndefined();
  });

  it('a write that did not take shows in the reading', () => {
    const written = { ...BLANK_MEMORY, storage: ON(48, 3850), topMv: 4200 };
    expect(notTaken(written, { ...written })).toEqual([]);
    expect(notTaken(written, { ...written, storage: ON(120, 3850), topMv: null })).toEqual(['delay', 'top']);
    expect(notTaken(written, { ...written, storage: OFF })).toEqual(['storage', 'delay', 'storage-volts']);
  });

  it('a memory that could not be read is unknown since, and never “no faults”', () => {
    const read = memory(0, 'read', { overCharges: 0, overDischarges: 0, overTemperatures: 0 });
    const not = memory(5, 'read', null);
    const { counts, memories } = fold(smart, [read, not]);
    expect(counts.map(({ faults }) => faults)).toEqual([0]);
    expect(asSet(smart.smart!, memories)).toMatchObject({ unreadable: { at: START + 5 * HOUR } });
    const some = memory(6, 'read', { overCharges: 3 });
    expect(fold(smart, [read, some]).counts).toHaveLength(1);
  });
});

describe('the pack’s own count of faults', () => {
  const faults = (n: number): OwnCounters => ({ cycles: null, faults: n });

  it('a rise belongs to whoever had the pack between the two counts', () => {
    const flown = [moved(0, null), takes(1, faults(2)), returns(4, faults(3))];
    expect(finding('own-faults', flown)).toMatchObject({
      faults: 1,
      fromAt: START + HOUR,
      toAt: START + 4 * HOUR,
      holderId: ADA,
    });
  });

  it('on the shelf it belongs to nobody, and a look over the pack answers it', () => {
    const read = (hours: number, n: number) =>
      memory(hours, 'read', { overCharges: 0, overDischarges: n, overTemperatures: 0 });
    expect(finding('own-faults', [read(0, 0), read(9, 1)])).toMatchObject({ faults: 1, holderId: null });
    expect(finding('own-faults', [read(0, 0), read(9, 0)])).toBeUndefined();
    expect(finding('own-faults', [takes(1, faults(2)), returns(4, null), read(9, 2)])).toBeUndefined();
  });
});

describe('another pack’s memory', () => {
  const before = [
    memory(0, 'read', { number: 'A1', cycles: 40, overCharges: 1 }),
    memory(1, 'read', { cycles: null, overCharges: 1 }),
  ];
  const odd = (said: Partial<OwnMemory> | null) => {
    const draft = memory(5, 'read', said);
    return oddFigures(fold(smart, before), before, draft, EVEN_KEEL, draft.at).map((one) => [
      one.code,
      one.field,
    ]);
  };

  it('counters that fell and another number are asked about, each at its field', () => {
    expect(odd({ number: 'A1', cycles: 40, overCharges: 2 })).toEqual([]);
    expect(odd({ cycles: 39, overCharges: 0 })).toEqual([
      ['count-fell', 'payload.memory.cycles'],
      ['count-fell', 'payload.memory.overCharges'],
    ]);
    expect(odd({ number: 'B7' })).toEqual([['other-number', 'payload.memory.number']]);
    expect(odd(null)).toEqual([]);
  });
});
