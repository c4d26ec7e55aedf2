import { answeredItems } from '../inspection';
import { DAY_MS, HOUR_MS } from '../measure';
import { PRESET_RULES, PRESETS } from '../rules';
import type { HouseRules } from '../rules';
import {
  aPack,
  charge,
  correction,
  EVEN_KEEL,
  flight,
  found,
  inspection,
  judged,
  level,
  reading,
  received,
  resistance,
  START,
} from '../testing/histories';

const lipo = aPack();
const DAYS = 24;
const measured = (hours: number, thicknessMm: number) => inspection(hours, 'scheduled', { thicknessMm });

describe('swelling', () => {
  it.each<[string, number, string | undefined]>([
    ['just under the watch line', 31.4, undefined],
    ['at the watch line', 31.5, 'watch'],
    ['just under the hold line', 32.9, 'watch'],
    ['at the hold line', 33, 'hold'],
    ['thinner than at first', 29, undefined],
  ])('%s, against a baseline of 30 mm', (_what, mm, severity) => {
    const said = judged(lipo, [measured(0, 30), measured(1, mm)], 2);
    expect(found(said).swollen).toBe(severity);
  });

  it('one measurement alone compares with nothing', () => {
    expect(found(judged(lipo, [measured(0, 44)], 1)).swollen).toBeUndefined();
  });

  it.each(['soft', 'hard'] as const)('felt %s takes a pack out of use, and stays', (swelling) => {
    const felt = inspection(0, 'before-use', { swelling }, ['swelling']);
    const said = judged(lipo, [reading(0, level(lipo, 3800)), felt, inspection(5)], 6);
    expect(said).toMatchObject({ verdict: 'hold', mayFly: 'no' });
    expect(said.steps).toEqual([{ do: 'set-apart', dueAt: null, because: 'swollen' }]);
    expect(said.due).toEqual([]);
  });

  it('a failed item says as much without a word how it felt', () => {
    expect(found(judged(lipo, [inspection(0, 'scheduled', {}, ['swelling'])], 1)).swollen).toBe('hold');
  });

  it('a small growth that is gone when measured cold is forgotten', () => {
    const said = judged(lipo, [measured(0, 30), measured(1, 31.6), measured(2, 30.1)], 3);
    expect(found(said).swollen).toBeUndefined();
  });
});

describe('a failed item', () => {
  it.each(PRESETS)('means what the checklist says, by the rules of %s', (preset) => {
    const rules = PRESET_RULES[preset];
    const severities = { advise: 'note', watch: 'watch', hold: 'hold' } as const;
    for (const { key, failMeans } of rules.checklists.scheduled) {
      if (key === 'swelling') continue;
      const said = judged(lipo, [inspection(0, 'scheduled', {}, [key])], 1, rules);
      expect([key, found(said)['inspection-failed']]).toEqual([key, severities[failMeans]]);
    }
  });

  it('is over when the same item is found in order, unless it took the pack out of use', () => {
    const later = inspection(5, 'before-use');
    expect(
      found(judged(lipo, [inspection(0, 'scheduled', {}, ['connector']), later], 6))['inspection-failed'],
    ).toBeUndefined();
    expect(
      found(judged(lipo, [inspection(0, 'scheduled', {}, ['leads']), later], 6))['inspection-failed'],
    ).toBe('hold');
  });

  it('is not over by a note: worth a word is not in order', () => {
    const failed = inspection(0, 'scheduled', {}, ['connector']);
    const items = answeredItems(EVEN_KEEL.checklists.scheduled, {
      connector: { answer: 'note', note: 'still a little dark', photoIds: [] },
    });
    const noted = inspection(5, 'scheduled', { items });
    expect(found(judged(lipo, [failed, noted], 6))['inspection-failed']).toBe('watch');
  });

  it('that took the pack out of use is not made milder by a later failure on a milder list', () => {
    const { checklists } = EVEN_KEEL;
    const mild = checklists.scheduled.map((item) =>
      item.key === 'warm' ? { ...item, failMeans: 'watch' as const } : item,
    );
    const rules = { ...EVEN_KEEL, checklists: { ...checklists, scheduled: mild } };
    const warm = [inspection(0, 'after-use', {}, ['warm']), inspection(5, 'scheduled', {}, ['warm'])];
    expect(found(judged(lipo, warm, 6, rules))['inspection-failed']).toBe('hold');
    expect(found(judged(lipo, warm.slice(1), 6, rules))['inspection-failed']).toBe('watch');
    expect(found(judged(lipo, [warm[0]!, inspection(5)], 6, rules))['inspection-failed']).toBe('hold');
  });

  it('is not over by an inspection that did not look there', () => {
    const said = judged(lipo, [inspection(0, 'scheduled', {}, ['case']), inspection(5, 'before-use')], 6);
    expect(found(said)['inspection-failed']).toBe('watch');
  });

  it('written by mistake is put right by a correction', () => {
    const slip = inspection(0, 'scheduled', {}, ['leads']);
    expect(judged(lipo, [slip, correction(1, slip, inspection(0))], 2).verdict).toBe('watch');
    expect(found(judged(lipo, [slip, correction(1, slip, null)], 2))['inspection-failed']).toBeUndefined();
  });

  it('weighs what the house now says, and never less than a hard cause', () => {
    const gentle: HouseRules = {
      ...EVEN_KEEL,
      checklists: {
        ...EVEN_KEEL.checklists,
        scheduled: EVEN_KEEL.checklists.scheduled.map((item) => ({ ...item, failMeans: 'advise' as const })),
      },
    };
    const severity = (key: string, rules: HouseRules) =>
      found(judged(lipo, [inspection(0, 'scheduled', {}, [key])], 1, rules))['inspection-failed'];
    expect([severity('connector', EVEN_KEEL), severity('connector', gentle)]).toEqual(['watch', 'note']);
    expect(severity('smell', gentle)).toBe('hold');
  });
});

describe('what the calendar asks', () => {
  const stored = [received(-1), reading(0, level(lipo, 3800))];
  const due = (hours: number, records = stored, rules = EVEN_KEEL) =>
    judged(lipo, records, hours, rules).due.map((task) => [task.do, (task.dueAt - START) / DAY_MS]);

  it.each(PRESETS)('an inspection by the interval of %s, counted from the last full one', (preset) => {
    const rules = PRESET_RULES[preset];
    const looked = [...stored, inspection(10 * DAYS), inspection(20 * DAYS, 'before-use')];
    expect(due(20 * DAYS, looked, rules)).toContainEqual(['inspect', 10 + rules.inspectionDays]);
  });

  it('says so from the due instant on, and not before', () => {
    const at = (hours: number) => found(judged(lipo, [...stored, inspection(0)], hours))['inspection-due'];
    expect(at(EVEN_KEEL.inspectionDays * DAYS - 0.01)).toBeUndefined();
    expect(at(EVEN_KEEL.inspectionDays * DAYS)).toBe('note');
  });

  it('a pack that rested a season is inspected before it flies, and that inspection ends it', () => {
    const flown = [...stored, charge(1), flight(5), reading(6, level(lipo, 3810))];
    const restedDays = EVEN_KEEL.seasonStartDays;
    const before = judged(lipo, flown, restedDays * DAYS + 4);
    const after = judged(lipo, flown, restedDays * DAYS + 5);
    expect([before.mayFly, after.mayFly]).toEqual(['yes', 'inspect-first']);
    expect(after.due.map((task) => task.do)).toContain('inspect-season');
    // One look serves both, when the season’s start comes first.
    const due = judged(lipo, [...flown, inspection(7)], 10).due.map((task) => task.do);
    expect(due).toContain('inspect-season');
    expect(due).not.toContain('inspect');
    const looked = judged(
      lipo,
      [...flown, inspection(restedDays * DAYS + 6, 'season-start')],
      restedDays * DAYS + 7,
    );
    expect(looked.mayFly).toBe('yes');
    expect(looked.due.find((task) => task.do === 'inspect-season')?.dueAt).toBe(
      START + (2 * restedDays * DAYS + 6) * HOUR_MS,
    );
  });

  it('a storage job is no use; a pack never used has nothing to come back from', () => {
    const jobbed = [...stored, flight(0.1), charge(40 * DAYS, { mode: 'storage' })];
    expect(judged(lipo, jobbed, 61 * DAYS).findings.map(({ rule }) => rule)).toContain('long-rest');
    expect(judged(lipo, stored, 200 * DAYS).findings.map(({ rule }) => rule)).not.toContain('long-rest');
  });

  it('a new pack’s baseline: three resistances, a thickness and a mass', () => {
    const three = [1, 2, 3].map((hours) => resistance(hours, [4, 4, 4, 4]));
    const missing = (records = stored) =>
      judged(lipo, records, 5).findings.flatMap((finding) =>
        finding.rule === 'baseline-missing' ? finding.missing : [],
      );
    expect(missing()).toEqual(['resistance', 'thickness', 'mass']);
    expect(missing([...stored, ...three.slice(1)])).toContain('resistance');
    expect(missing([...stored, ...three])).toEqual(['thickness', 'mass']);
    expect(missing([...stored, ...three, inspection(4, 'receipt', { thicknessMm: 30, massG: 310 })])).toEqual(
      [],
    );
    expect(due(5)).toContainEqual(['complete-baseline', EVEN_KEEL.baselineDays - 1 / 24]);
    const worked = [...stored, ...[1, 2, 3, 4, 5, 6].map((hours) => charge(hours))];
    expect(due(7, worked.slice(0, -1)).map(([task]) => task)).toContain('complete-baseline');
    expect(due(7, worked).map(([task]) => task)).not.toContain('complete-baseline');
  });

  it('a nickel pack is topped up, weighed, and has no thickness to grow', () => {
    const nickel = aPack({ chemistry: 'nimh', series: 6 });
    const said = judged(nickel, [received(-1)], 1);
    expect(said.due.map((task) => task.do)).toEqual(['complete-baseline', 'inspect', 'top-up']);
    expect(said.findings).toMatchObject([{ rule: 'baseline-missing', missing: ['mass'] }]);
  });
});

describe('as delivered', () => {
  const arrived = (cellsMv: readonly number[], more: readonly ReturnType<typeof reading>[] = []) =>
    found(judged(lipo, [received(-1), inspection(0, 'receipt'), reading(0.5, cellsMv), ...more], 2))[
      'not-as-delivered'
    ];

  it.each<[string, readonly number[], string | undefined]>([
    ['level and near storage', [3820, 3820, 3830, 3820], undefined],
    ['just in tolerance', [3820, 3820, 3840, 3820], undefined],
    ['out of balance', [3820, 3820, 3841, 3820], 'watch'],
    ['as far below its band as the rules allow', level(lipo, 3600), undefined],
    ['further below', level(lipo, 3599), 'watch'],
    ['as far above', level(lipo, 3950), undefined],
    ['further above', level(lipo, 3951), 'watch'],
  ])('%s', (_what, cellsMv, severity) => {
    expect(arrived(cellsMv)).toBe(severity);
  });

  it('is judged by the first reading only, and not once it was charged', () => {
    expect(arrived(level(lipo, 3500), [reading(1, level(lipo, 3800))])).toBe('watch');
    expect(arrived(level(lipo, 4200), [charge(0.3, { minutes: 10 })])).toBeUndefined();
  });

  it('asks to send it back before anything else', () => {
    const said = judged(lipo, [received(-1), inspection(0, 'receipt'), reading(0.5, level(lipo, 3951))], 2);
    expect(said.steps.map((step) => step.do)).toContain('send-back');
    expect(said.steps.find((step) => step.do === 'send-back')?.dueAt).toBe(START + HOUR_MS / 2);
  });

  it('is nobody’s finding where no receipt was looked over', () => {
    const said = judged(lipo, [received(-1), reading(0.5, level(lipo, 3500))], 2);
    expect(found(said)['not-as-delivered']).toBeUndefined();
  });
});
