import { HOUR_MS, MINUTE_MS } from '../measure';
import { INCIDENT_KINDS } from '../incident';
import type { PackRecord } from '../record';
import { PRESET_RULES } from '../rules';
import {
  aPack,
  aRecord,
  decision,
  disposal,
  EVEN_KEEL,
  flight,
  found,
  incident,
  inspection,
  judged,
  level,
  reading,
  received,
  recovery,
  release,
  START,
  watchEnded,
} from '../testing/histories';
import type { Assessment } from '.';

const pack = aPack();
const sound = (hours: number) => reading(hours, level(pack, 3800));
const STRICT = { ...EVEN_KEEL, afterCrash: 'retire' as const };
const RECOVERS = PRESET_RULES['ready-state'];

const lacking = ({ needs }: Assessment) => needs.filter(({ met }) => !met).map(({ need }) => need);
const firstStep = ({ steps }: Assessment) => steps[0]?.do ?? null;

describe('a crash', () => {
  const crashed = [received(), sound(0), incident(10)];

  it('takes the pack out of use at once and starts a watch', () => {
    const said = judged(pack, crashed, 10.2);
    expect(said).toMatchObject({
      verdict: 'hold',
      mayFly: 'no',
      watch: { from: START + 10 * HOUR_MS, until: START + 11 * HOUR_MS },
      outSince: START + 10 * HOUR_MS,
    });
    expect(said.steps).toEqual([{ do: 'keep-off', dueAt: START + 11 * HOUR_MS, because: 'incident' }]);
    expect(lacking(said)).toEqual(['watch-over', 'inspection', 'reading']);
  });

  it('asks for the inspection when the watch is over, then for a reading, then for a decision', () => {
    expect(firstStep(judged(pack, crashed, 11))).toBe('inspect-held');
    const looked = [...crashed, inspection(11.2, 'after-crash')];
    expect(judged(pack, looked, 11.3)).toMatchObject({ verdict: 'hold', watch: null });
    expect(firstStep(judged(pack, looked, 11.3))).toBe('read-held');
    const read = [...looked, sound(11.5)];
    expect(firstStep(judged(pack, read, 11.6))).toBe('decide');
    expect(lacking(judged(pack, read, 11.6))).toEqual([]);
  });

  it('an inspection made while it must be watched counts for nothing, nor does another list', () => {
    const early = [...crashed, inspection(10.5, 'after-crash'), sound(11.5)];
    expect(lacking(judged(pack, early, 12))).toEqual(['inspection']);
    const other = [...crashed, inspection(11.5, 'scheduled'), sound(11.5)];
    expect(lacking(judged(pack, other, 12))).toEqual(['inspection']);
  });

  it('somebody’s word ends the watch early, and the look may follow', () => {
    const ended = [...crashed, watchEnded(10.5)];
    const said = judged(pack, ended, 10.6);
    expect(said.watch?.until).toBe(START + 10.5 * HOUR_MS);
    expect(firstStep(said)).toBe('inspect-held');
    expect(lacking(judged(pack, [...ended, inspection(10.7, 'after-crash')], 10.8))).toEqual(['reading']);
  });

  it('one found out of shape is to be retired, and nothing releases it', () => {
    const bent = [...crashed, inspection(11.5, 'after-crash', {}, ['case']), sound(12)];
    const said = judged(pack, bent, 13);
    expect(said.verdict).toBe('retire-advised');
    expect(lacking(said)).toContain('nothing-releases');
    expect(said.harm).toHaveLength(1);
  });

  it('the strict school retires it whatever the look finds', () => {
    const looked = [...crashed, inspection(11.2, 'after-crash'), sound(11.5)];
    expect(judged(pack, looked, 12, STRICT).verdict).toBe('retire-advised');
  });
});

it.each(INCIDENT_KINDS)(
  '%s: a pack it holds is never usable, one it does not hold stays as it was',
  (kind) => {
    expect(judged(pack, [received(), sound(0), incident(1, kind, true)], 2).mayFly).toBe('no');
    expect(found(judged(pack, [received(), sound(0), incident(1, kind, false)], 2)).incident).toBeUndefined();
  },
);

it('an abnormal charge lies outdoors overnight before anybody looks', () => {
  const { watch } = judged(pack, [received(), sound(0), incident(1, 'overcharged')], 2);
  expect(watch?.until).toBe(START + 13 * HOUR_MS);
});

describe('a release', () => {
  const evidence = [received(), sound(0), incident(10), inspection(11.2, 'after-crash'), sound(11.5)];
  const until = { until: START + 30 * 24 * HOUR_MS };
  const released = [...evidence, release(12, pack, evidence, until)];

  it('lets the pack go on, on caution until its day, and says who answered', () => {
    const said = judged(pack, released, 13);
    expect(said).toMatchObject({ verdict: 'watch', mayFly: 'yes', needs: [], outSince: null });
    expect(said.findings[0]).toMatchObject({
      rule: 'incident',
      severity: 'watch',
      answered: { watch: until },
    });
    const after = judged(pack, [...released, sound(30 * 24 + 1)], 30 * 24 + 2);
    expect(found(after).incident).toBe('note');
  });

  it('does not answer what it did not know of', () => {
    expect(judged(pack, [...released, incident(20)], 21).verdict).toBe('hold');
    // A flight of before the release, written without a connection, that arrives after it.
    const late = flight(9, { hottestC: 66 });
    expect(judged(pack, [...released, late], 21).verdict).toBe('hold');
  });

  it('for good is for good, and none is none', () => {
    const forGood = [...evidence, release(12, pack, evidence, 'for-good')];
    expect(judged(pack, [...forGood, sound(9_000)], 9_001).verdict).toBe('watch');
    const none = [...evidence, release(12, pack, evidence, 'none')];
    expect(judged(pack, none, 13).verdict).toBe('fit');
  });
});

describe('an advice to retire', () => {
  const weak = (hours: number): PackRecord => reading(hours, [3800, 3800, 3580, 3800]);
  const advised = [received(), flight(1), weak(3)];
  const kept = [...advised, release(4, pack, advised, { until: START + 240 * HOUR_MS })];

  it('is put off to a day by a person, through new readings of the same', () => {
    expect(judged(pack, advised, 4).verdict).toBe('retire-advised');
    expect(judged(pack, kept, 5).verdict).toBe('watch');
    expect(judged(pack, [...kept, flight(50), weak(52)], 53).verdict).toBe('watch');
  });

  it('comes back on that day', () => {
    expect(judged(pack, kept, 240).verdict).toBe('retire-advised');
  });

  it('does not put off a hold', () => {
    expect(judged(pack, [...kept, incident(60)], 61).verdict).toBe('hold');
  });
});

it('a hold by hand stands until a look and a reading after it', () => {
  const held = [received(), sound(0), decision(5, { to: 'hold' })];
  expect(lacking(judged(pack, held, 6))).toEqual(['inspection', 'reading']);
  const looked = [...held, inspection(7), sound(8)];
  expect(lacking(judged(pack, looked, 9))).toEqual([]);
  expect(judged(pack, looked, 9).verdict).toBe('hold');
});

it('an inspection that was asked for stands before the next use until it is made', () => {
  const asked = aRecord(5, {
    kind: 'inspection-asked',
    payload: { reason: 'a sibling failed in the air', incidentId: null },
    supersedes: null,
  });
  const records = [received(), inspection(0, 'receipt'), sound(0), asked];
  expect(judged(pack, records, 6)).toMatchObject({ verdict: 'watch', mayFly: 'inspect-first' });
  expect(judged(pack, [...records, inspection(7, 'before-use')], 8).mayFly).toBe('inspect-first');
  expect(judged(pack, [...records, inspection(7)], 8).mayFly).toBe('yes');
});

describe('over-discharged', () => {
  const flat = [received(), reading(0, [2900, 2950, 2950, 2900])];
  const begun = recovery(3, {
    step: 'begun',
    basedOnSeq: 1,
    cause: 'stored-flat',
    causeText: 'forgotten in the van',
    charger: 'Bench charger',
    currentA: 0.3,
    attendant: 'Ineke',
  });
  const ended = (how: 'reached' | 'warm') =>
    recovery(3.4, { step: 'ended', how, cellsMv: null, remarks: null });
  const looked = [...flat, inspection(2)];

  it('by the one school nothing releases it', () => {
    expect(lacking(judged(pack, [...looked, sound(30)], 40))).toContain('nothing-releases');
  });

  it('by the other it wants the recovery, its rest and a reading, and then a watch for life', () => {
    const at = (records: readonly PackRecord[], hours: number) => judged(pack, records, hours, RECOVERS);
    expect(lacking(at(looked, 2.5))).toContain('recovery');
    const running = at([...looked, begun], 3.1);
    expect(running.steps[0]).toMatchObject({
      do: 'attend-recovery',
      dueAt: START + 3 * HOUR_MS + 30 * MINUTE_MS,
    });
    const up = [...looked, begun, ended('reached')];
    expect(lacking(at([...up, sound(10)], 11))).toContain('recovery');
    const rested = [...up, sound(27.5)];
    expect(lacking(at(rested, 28))).toEqual([]);
    const released = [...rested, release(28, pack, rested, 'for-good', RECOVERS)];
    expect(at(released, 29).verdict).toBe('watch');
    expect(found(at([...released, sound(9_000)], 9_001)).recovery).toBe('watch');
  });

  it('one that got warm goes', () => {
    const said = judged(pack, [...looked, begun, ended('warm')], 4, RECOVERS);
    expect(said.verdict).toBe('retire-advised');
    expect(lacking(said)).toContain('nothing-releases');
  });
});

describe('on the way out', () => {
  const retire = decision(5, { to: 'retire', because: ['age'], secondWanted: false });
  const steps = (...more: PackRecord[]) =>
    judged(pack, [received(), sound(0), retire, ...more], 80).steps[0]?.do;
  const flatCells = (hours: number) => disposal(hours, { step: 'verified', cellsMv: level(pack, 60) });
  const load = { by: 'resistor', ohms: 20, ratedW: 50 } as const;
  const draining = disposal(7, { step: 'discharging', load, where: 'outdoors', attendant: 'Ineke' });

  it('a retired pack has one next step at a time, and no clock of its own', () => {
    const said = judged(pack, [received(), reading(0, level(pack, 4200)), retire], 80);
    expect(said).toMatchObject({ verdict: 'retired', mayFly: 'no', needs: [], outSince: null, due: [] });
    const marked = disposal(6, { step: 'marked' });
    expect(steps()).toBe('mark-red');
    expect(steps(marked)).toBe('drain');
    expect(steps(marked, draining)).toBe('verify-empty');
    expect(steps(marked, draining, flatCells(12))).toBe('verify-again');
    expect(steps(marked, draining, flatCells(12), flatCells(37))).toBe('insulate');
  });

  it('waits a day before it is read again, and is discharged on when it rebounded', () => {
    const before = [received(), sound(0), retire, disposal(6, { step: 'marked' }), draining, flatCells(12)];
    expect(judged(pack, before, 13).steps[0]?.dueAt).toBe(START + 36 * HOUR_MS);
    const rebounded = disposal(37, { step: 'verified', cellsMv: [60, 60, 400, 60] });
    expect(judged(pack, [...before, rebounded], 40).life.state).toBe('discharging');
  });

  it('a harmed one is packed apart', () => {
    const swollen = inspection(4, 'scheduled', { swelling: 'soft' });
    const said = judged(pack, [received(), sound(0), swollen, retire, disposal(6, { step: 'marked' })], 80);
    expect(said.steps[0]?.do).toBe('pack-apart');
    expect(said.harm.map(({ rule }) => rule)).toEqual(['swollen']);
  });
});

it('where the rules want two names, the pack waits for the second and is out of use meanwhile', () => {
  const retire = decision(5, { to: 'retire', because: [], secondWanted: true });
  const said = judged(pack, [received(), sound(0), retire], 6);
  expect(said).toMatchObject({ verdict: 'retire-advised', life: { state: 'retiring' } });
  expect(firstStep(said)).toBe('second-name');
});
