import type { PersonId } from '../measure';
import { HOUR_MS } from '../measure';
import type { Actor } from '../lifecycle';
import type { DecisionPayload, PackRecord } from '../record';
import { PRESET_RULES } from '../rules';
import {
  aPack,
  aRecord,
  correction,
  decision,
  disposal,
  EVEN_KEEL,
  flight,
  incident,
  inspection,
  level,
  PLAIN,
  reading,
  received,
  recovery,
  release,
  SOMEBODY,
  START,
} from '../testing/histories';
import { refusalsOf } from '.';

const pack = aPack();
const CUSTODIAN: Actor = { id: SOMEBODY, role: 'custodian' };
const OTHER: Actor = { id: '0195a000-0000-7000-8000-000000000002' as PersonId, role: 'deputy' };
const sound = (hours: number) => reading(hours, level(pack, 3800));
const CRASHED = [received(), sound(0), incident(10)];
const EVIDENCE = [...CRASHED, inspection(11.2, 'after-crash'), sound(11.5)];
const A_MONTH = { until: START + 40 * 24 * HOUR_MS };

interface Given {
  readonly actor?: Actor;
  readonly rules?: typeof EVEN_KEEL;
  readonly hours?: number;
}
const codes = (
  draft: PackRecord,
  records: readonly PackRecord[],
  { actor = CUSTODIAN, rules = EVEN_KEEL, hours }: Given = {},
) => {
  const now = hours === undefined ? draft.at : START + hours * HOUR_MS;
  return refusalsOf(pack, records, draft, actor, now, { ...PLAIN, rules }).map(({ code }) => code);
};

describe('a release', () => {
  it('is taken with its evidence', () => {
    expect(codes(release(12, pack, EVIDENCE, A_MONTH), EVIDENCE)).toEqual([]);
  });

  it.each([
    ['while the watch runs', CRASHED, 10.5],
    ['without an inspection', [...CRASHED, sound(11.5)], 12],
    ['without a reading', [...CRASHED, inspection(11.2, 'after-crash')], 12],
    ['with a look made too early', [...CRASHED, inspection(10.5, 'after-crash'), sound(11.5)], 12],
    ['of a bent pack', [...CRASHED, inspection(11.2, 'after-crash', {}, ['dents']), sound(11.5)], 12],
  ])('is refused %s', (_, records, hours) => {
    expect(codes(release(hours, pack, records, A_MONTH), records)).toEqual(['release-lacks']);
  });

  it('backdating it to before what it rests on does not help', () => {
    const early = { ...release(12, pack, EVIDENCE, A_MONTH), at: START + 9 * HOUR_MS };
    expect(codes(early, EVIDENCE, { hours: 12 })).toEqual(['before-last-record']);
  });

  it('answers what speaks against the pack now, no more and no less', () => {
    const nothing: DecisionPayload['what'] = { to: 'release', answers: [], watch: A_MONTH };
    expect(codes(decision(12, nothing), EVIDENCE)).toEqual(['answers-other']);
    const before = release(12, pack, EVIDENCE, A_MONTH);
    const more = [...EVIDENCE, decision(11.8, { to: 'hold' }), inspection(11.9), sound(12)];
    expect(codes({ ...before, at: START + 12.1 * HOUR_MS }, more)).toEqual(['answers-other']);
  });

  it('of a crashed pack wants a watch, of a trend a day, and of a fit pack nothing', () => {
    expect(codes(release(12, pack, EVIDENCE, 'none'), EVIDENCE)).toEqual(['watch-wanted']);
    const past = release(12, pack, EVIDENCE, { until: START });
    expect(codes(past, EVIDENCE)).toEqual(['watch-wanted']);
    const far = release(12, pack, EVIDENCE, { until: START + 1_000 * 24 * HOUR_MS });
    expect(codes(far, EVIDENCE)).toEqual(['watch-wanted']);
    const weak = [received(), flight(1), reading(3, [3800, 3800, 3580, 3800])];
    expect(codes(release(4, pack, weak, 'for-good'), weak)).toEqual(['watch-wanted']);
    expect(codes(release(4, pack, weak, A_MONTH), weak)).toEqual([]);
    expect(codes(release(4, pack, [received(), sound(1)]), [received(), sound(1)])).toEqual([
      'nothing-to-release',
    ]);
  });
});

describe('a retirement', () => {
  const retire = (secondWanted: boolean, hours = 5) =>
    decision(hours, { to: 'retire', because: [], secondWanted });
  const two = { ...EVEN_KEEL, retirementNames: 2 as const };
  const fit = [received(), sound(0)];

  it('asks for as many names as the house does', () => {
    expect(codes(retire(false), fit)).toEqual([]);
    expect(codes(retire(false), fit, { rules: two })).toEqual(['names-other']);
    expect(codes(retire(true), fit)).toEqual(['names-other']);
  });

  it('takes its second name from another person, once', () => {
    const first = retire(true);
    const waiting = [...fit, first];
    const second = aRecord(6, {
      kind: 'confirmation',
      payload: { basedOnSeq: 3, decisionId: first.id, reason: null },
      supersedes: null,
    });
    expect(codes(second, waiting, { rules: two })).toEqual(['same-person']);
    expect(codes(second, waiting, { rules: two, actor: OTHER })).toEqual([]);
    const done = [...waiting, { ...second, by: OTHER.id }];
    expect(codes(second, done, { rules: two, actor: OTHER })).toEqual(['no-second-wanted']);
  });

  it('is not decided twice', () => {
    expect(codes(retire(false, 6), [...fit, retire(false)])).toEqual(['not-in-service']);
    expect(codes(decision(6, { to: 'hold' }), [...fit, retire(false)])).toEqual(['not-in-service']);
  });

  it('is taken back only before the discharge', () => {
    const back = (hours: number) => disposal(hours, { step: 'reinstated', reason: 'the wrong tag' });
    const load = { by: 'resistor', ohms: 20, ratedW: 50 } as const;
    const marked = [...fit, retire(false), disposal(6, { step: 'marked' })];
    expect(codes(back(7), marked)).toEqual([]);
    const drained = disposal(7, { step: 'discharging', load, where: 'outdoors', attendant: 'Ineke' });
    expect(codes(drained, marked)).toEqual([]);
    expect(codes(back(8), [...marked, drained])).toEqual(['no-way-on']);
  });
});

describe('a correction that would end a hold', () => {
  const slip = reading(1, [2800, 3800, 3800, 3800]);
  const held = [received(), slip];
  const right = correction(2, slip, reading(1, level(pack, 3800)));
  const looked = inspection(1, 'scheduled', { swelling: 'soft' });

  it('is for whoever may release', () => {
    expect(codes(right, held, { actor: { id: SOMEBODY, role: 'pilot' } })).toEqual(['would-release']);
    expect(codes(right, held, { actor: OTHER })).toEqual([]);
  });

  it('takes back an inspection only after another found the pack sound', () => {
    const withdrawn = correction(5, looked, null);
    expect(codes(withdrawn, [received(), looked])).toEqual(['would-release']);
    const again = inspection(3, 'scheduled', { swelling: 'none' });
    expect(codes(withdrawn, [received(), looked, again])).toEqual([]);
  });

  it('cannot be made of an incident, a decision or a step', () => {
    const crash = incident(1);
    expect(codes(correction(2, crash, null), [received(), crash])).toEqual(['corrects-nothing']);
  });
});

describe('a supervised recovery', () => {
  const RECOVERS = PRESET_RULES['ready-state'];
  const begun = (more: object = {}) =>
    recovery(3, {
      step: 'begun',
      basedOnSeq: 1,
      cause: 'stored-flat',
      causeText: 'forgotten in the van',
      charger: 'Bench charger',
      currentA: 0.33,
      attendant: 'Ineke',
      ...more,
    } as never);
  const flat = [received(), reading(0, [2900, 2950, 2950, 2900]), inspection(2)];
  const rules = { rules: RECOVERS };
  const lacks = (draft: PackRecord, records: readonly PackRecord[], given: Given = rules) => {
    const [why] = refusalsOf(pack, records, draft, CUSTODIAN, draft.at, { ...PLAIN, ...given });
    return why?.code === 'recovery-lacks' ? why.lacks : (why?.code ?? []);
  };

  it('begins when the records show all it asks for', () => {
    expect(lacks(begun(), flat)).toEqual([]);
  });

  it.each([
    ['the rules say to retire such packs', flat, {}, EVEN_KEEL, ['not-the-school']],
    ['the pack is sound', [received(), sound(0)], {}, RECOVERS, ['not-over-discharged']],
    ['nobody looked', flat.slice(0, 2), {}, RECOVERS, ['no-inspection']],
    [
      'a cell went too low',
      [received(), reading(0, [2500, 2900, 2900, 2900]), inspection(2)],
      {},
      RECOVERS,
      ['cell-too-low'],
    ],
    [
      'it is swollen',
      [...flat, inspection(2.5, 'scheduled', { swelling: 'hard' })],
      {},
      RECOVERS,
      ['damaged'],
    ],
    ['the cause is damage', flat, { cause: 'mechanical' }, RECOVERS, ['cause-unknown']],
    ['the cause is not known', flat, { cause: 'unknown' }, RECOVERS, ['cause-unknown']],
    ['the current is more than gentle', flat, { currentA: 0.34 }, RECOVERS, 'recovery-current'],
  ] as const)('does not begin when %s', (_, records, more, house, expected) => {
    expect(lacks(begun(more), records, { rules: house })).toEqual(expected);
  });

  it('is not tried twice, and ends as warm once it was warm', () => {
    const running = [...flat, begun()];
    const looked = recovery(3.1, { step: 'looked', feels: 'warm', cellsMv: null });
    const ended = (how: 'reached' | 'warm', hours = 3.2) =>
      recovery(hours, { step: 'ended', how, cellsMv: null, remarks: null });
    expect(lacks(begun(), running)).toEqual(['running']);
    expect(codes(ended('reached'), [...running, looked], rules)).toEqual(['recovery-warm']);
    expect(codes(ended('warm'), [...running, looked], rules)).toEqual([]);
    expect(codes(ended('reached', 3.6), running, rules)).toEqual(['recovery-time-over']);
    expect(lacks(begun(), [...running, ended('warm')])).toEqual(['tried-before']);
    expect(codes(looked, flat, rules)).toEqual(['no-recovery-runs']);
  });
});
