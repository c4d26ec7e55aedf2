import type { RecordRefusal } from '../admission';
import { RECOVERY_LACKS } from '../admission';
import type { ReleaseNeed } from '../assess';
import { CAUSES, INCIDENT_KINDS } from '../incident';
import type { EntryRefusal } from '../incident';
import { stepsFrom } from '../lifecycle';
import type { DisposalPayload } from '../lifecycle';
import type { ConsignmentId, PlaceId } from '../measure';
import { DAY_MS, HOUR_MS } from '../measure';
import {
  aPack,
  aRecord,
  decision,
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
import {
  CAUSE_WORDS,
  disposalLine,
  drainRefusalSentence,
  entryRefusalSentence,
  figuresOf,
  INCIDENT_WORDS,
  lackWords,
  needSentence,
  recordRefusalSentence,
  sentence,
} from '.';

const pack = aPack();
const readerAt = (hours: number) => ({ now: START + hours * HOUR_MS, zone: 'UTC' });
const sound = (hours: number) => reading(hours, level(pack, 3800));

/** Every way the gate refuses what is about holds, decisions and the way out: what is wrong, then what to do. */
const REFUSALS: readonly (readonly [RecordRefusal, RegExp])[] = [
  [{ code: 'out-of-use', field: 'f', verdict: 'hold' }, /was on hold at that time.*report it as an incident/],
  [{ code: 'out-of-use', field: 'f', verdict: 'retired' }, /was retired at that time/],
  [{ code: 'not-among-sound', field: 'f', verdict: 'hold' }, /not lie among sound ones\. Choose a place/],
  [{ code: 'would-release', field: 'f', lacks: 'right' }, /only the custodian or a deputy may\. Ask them/],
  [{ code: 'would-release', field: 'f', lacks: 'inspection' }, /Inspect the pack again first/],
  [{ code: 'through-its-own', field: 'f', what: 'incident' }, /Report the incident/],
  [{ code: 'through-its-own', field: 'f', what: 'consignment' }, /Put the pack on a consignment/],
  [{ code: 'watch-not-running', field: 'f' }, /No such quarantine is running/],
  [{ code: 'recycled', field: 'f' }, /Only a note can still be added/],
  [{ code: 'not-in-service', field: 'f' }, /retired already/],
  [{ code: 'nothing-to-release', field: 'f' }, /nothing to release/],
  [{ code: 'answers-other', field: 'f' }, /Look at it again, then decide/],
  [
    {
      code: 'release-lacks',
      field: 'f',
      needs: [{ need: 'reading', because: 'incident', met: false, since: 0 }],
    },
    /^Not yet: Read its cells rested\.$/,
  ],
  [{ code: 'watch-wanted', field: 'f', which: 'a-day' }, /Say until when it stays on caution/],
  [{ code: 'watch-wanted', field: 'f', which: 'for-good' }, /on caution for good/],
  [{ code: 'watch-wanted', field: 'f', which: 'some' }, /A crashed pack stays on caution/],
  [{ code: 'watch-wanted', field: 'f', which: 'future' }, /passed already/],
  [{ code: 'watch-wanted', field: 'f', which: 'sooner' }, /more than two years/],
  [{ code: 'names-other', field: 'f', secondWanted: true }, /two names/],
  [{ code: 'names-other', field: 'f', secondWanted: false }, /one name only/],
  [{ code: 'no-second-wanted', field: 'f' }, /waits for a second name/],
  [{ code: 'same-person', field: 'f' }, /must come from another person/],
  [{ code: 'before-last-record', field: 'f', lastAt: 0 }, /cannot be dated before/],
  [
    { code: 'no-way-on', field: 'f', step: 'insulated', state: 'discharging' },
    /does not follow: the pack is being discharged/,
  ],
  [{ code: 'harmed', field: 'f' }, /must not be discharged\. Declare it unsafe/],
  [{ code: 'not-empty', field: 'f', cell: 2, mv: 180 }, /Cell 2 still reads 0\.18 V\. Empty is 0\.10 V/],
  [{ code: 'too-soon', field: 'f', from: 0 }, /rest for its full time/],
  [{ code: 'wrong-container', field: 'f', wanted: 'recycling' }, /Choose a recycling container/],
  [{ code: 'wrong-container', field: 'f', wanted: 'apart' }, /packs set apart/],
  [{ code: 'wrong-container', field: 'f', wanted: 'sound' }, /for harmed packs/],
  [{ code: 'container-full', field: 'f' }, /at its limit\. Consign what lies in it/],
  [{ code: 'other-consignment', field: 'f' }, /another consignment/],
  [{ code: 'before-last-step', field: 'f', lastAt: 0 }, /dated before the step/],
  [{ code: 'wrong-load', field: 'f', why: { code: 'not-a-load' } }, /Give what the label says/],
  [{ code: 'recovery-lacks', field: 'f', lacks: ['damaged'] }, /^No recovery: .*fault/],
  [{ code: 'no-recovery-runs', field: 'f' }, /No recovery of this pack is running/],
  [{ code: 'recovery-current', field: 'f', mostA: 0.33 }, /up to 0\.33 A/],
  [{ code: 'recovery-time-over', field: 'f', endedAt: 0 }, /time was over/],
  [{ code: 'recovery-warm', field: 'f' }, /got warm/],
];

it.each(REFUSALS)('%j', (why, words) => {
  expect(recordRefusalSentence(why)).toMatch(words);
});

const NEEDS: readonly (readonly [ReleaseNeed, RegExp])[] = [
  [{ need: 'watch-over', because: 'incident', met: false, until: START + HOUR_MS }, /Keep off until.*09:00/],
  [{ need: 'watch-over', because: 'incident', met: true, until: START }, /^The quarantine is over\.$/],
  [
    {
      need: 'inspection',
      because: 'incident',
      met: false,
      since: START,
      afterCrash: true,
      found: 'none yet',
    },
    /^Inspect it by the after-crash list, from today 08:00 on\.$/,
  ],
  [
    { need: 'inspection', because: 'swollen', met: false, since: START, afterCrash: false, found: 'faults' },
    /found faults\. Inspect it again by a full list/,
  ],
  [
    { need: 'inspection', because: 'swollen', met: true, since: START, afterCrash: false, found: 'sound' },
    /^Inspected by a full list and found sound\.$/,
  ],
  [{ need: 'reading', because: 'incident', met: true, since: START }, /^Read rested since\.$/],
  [{ need: 'recovery', because: 'damage-floor', met: false, readFrom: null }, /Only a supervised recovery/],
  [
    { need: 'recovery', because: 'damage-floor', met: false, readFrom: START + DAY_MS },
    /Read it rested from tomorrow 08:00 on/,
  ],
  [{ need: 'recovery', because: 'damage-floor', met: true, readFrom: START }, /^Recovered under supervision/],
  [{ need: 'nothing-releases', because: 'incident', met: false }, /it is to be retired/],
  [{ need: 'a-day', because: 'capacity', met: true }, /until a day you name/],
];

it.each(NEEDS)('%j', (need, words) => {
  expect(needSentence(need, readerAt(0))).toMatch(words);
});

const ENTRIES: readonly (readonly [EntryRefusal['code'], RegExp])[] = [
  ['not-reported', /not been reported/],
  ['reported-already', /add to it instead/],
  ['is-closed', /Open it again with a reason/],
  ['is-open', /open already/],
  ['no-such-task', /no such follow-up/],
  ['cause-missing', /Name the cause first/],
];

it.each(ENTRIES)('an entry: %s', (code, words) => {
  expect(entryRefusalSentence({ code, field: 'f' } as EntryRefusal)).toMatch(words);
});

it('counts follow-ups as a person would', () => {
  const open = (count: number) => entryRefusalSentence({ code: 'tasks-open', field: 'f', count });
  expect(open(1)).toBe('1 follow-up is not done yet.');
  expect(open(3)).toBe('3 follow-ups are not done yet.');
});

describe('the cards', () => {
  it.each(INCIDENT_KINDS)('%s says what to do, what never to do, and when to leave', (kind) => {
    const { name, now, never, leave } = INCIDENT_WORDS[kind];
    expect(name.length).toBeLessThan(45);
    expect(now.length).toBeGreaterThanOrEqual(3);
    expect(now.length).toBeLessThanOrEqual(4);
    for (const step of now) expect(step.length).toBeLessThan(120);
    expect(never).toMatch(/^(Do not|If it is found, do not)/);
    expect(`${now.join(' ')} ${leave}`).toMatch(/fire service/);
  });

  it('nobody is coached to fight a fire, or to bring a pack up in another chemistry', () => {
    const all = JSON.stringify(INCIDENT_WORDS);
    expect(all).not.toMatch(/extinguish|douse|smother|sand on/i);
    expect(INCIDENT_WORDS['smoke-fire'].now[0]).toMatch(/^Get everybody away/);
    expect(INCIDENT_WORDS['over-discharged'].never).toMatch(/another chemistry’s mode/);
  });

  it('every cause has its word', () => {
    for (const cause of CAUSES) expect(CAUSE_WORDS[cause]).toBeTruthy();
    for (const lack of RECOVERY_LACKS) expect(lackWords(lack)).toMatch(/\.$/);
  });
});

describe('what is said of a pack', () => {
  const told = (records: Parameters<typeof judged>[1], hours: number) =>
    judged(pack, records, hours).findings.map((finding) => sentence(finding, readerAt(hours), true));
  const crashed = [received(), sound(0), incident(10)];

  it('follows its watch', () => {
    expect(told(crashed, 10.2)[0]).toBe(
      'Crash or drop, today 18:00: out of use. The pack is in quarantine until today 19:00.',
    );
    expect(told(crashed, 12)[0]).toMatch(/The quarantine is over\.$/);
    expect(told([...crashed, watchEnded(10.5)], 10.6)[0]).toMatch(/The quarantine was ended early\.$/);
    const bent = [...crashed, inspection(11.5, 'after-crash', {}, ['case'])];
    expect(told(bent, 12)[0]).toMatch(/A look after that found the pack out of shape \(case and wrap\)/);
    expect(told([received(), sound(0), incident(1, 'smoke-fire')], 2)[0]).toMatch(/does not fly again/);
  });

  it('names a hand that held it, and a look that was asked for', () => {
    expect(told([received(), sound(0), decision(1, { to: 'hold' })], 2)[0]).toBe(
      'The pack was put on hold by hand today 09:00: looked at',
    );
    const asked = aRecord(1, {
      kind: 'inspection-asked',
      payload: { reason: 'a sibling failed', incidentId: null },
      supersedes: null,
    });
    expect(told([received(), sound(0), asked], 2)[0]).toMatch(/to be inspected before its next use/);
    const retired = decision(1, { to: 'retire', because: [], secondWanted: true });
    expect(told([received(), sound(0), retired], 2)[0]).toMatch(/want a second name/);
  });

  it.each([
    [null, /runs since .* must end by/],
    ['reached', /stays on caution for life/],
    ['warm', /got warm/],
    ['time', /did not come up/],
    ['given-up', /was given up/],
  ] as const)('a recovery: %s', (how, words) => {
    const begun = recovery(1, {
      step: 'begun',
      basedOnSeq: 1,
      cause: 'stored-flat',
      causeText: 'forgotten',
      charger: 'Bench charger',
      currentA: 0.3,
      attendant: 'Ineke',
    });
    const ended = how ? [recovery(1.3, { step: 'ended', how, cellsMv: null, remarks: null })] : [];
    expect(told([received(), sound(0), begun, ...ended], 1.4).join(' ')).toMatch(words);
  });

  it('shows the figures each rests on, and keeps them when it is answered', () => {
    const evidence = [...crashed, inspection(11.2, 'after-crash'), sound(11.5)];
    const until = { until: START + 40 * DAY_MS };
    const released = judged(pack, [...evidence, release(12, pack, evidence, until)], 13);
    expect(found(released)).toMatchObject({ incident: 'watch' });
    expect(figuresOf(released.findings[0]!, readerAt(13)).map(({ label }) => label)).toEqual([
      'Happened',
      'In quarantine until',
      'House rule after a crash',
    ]);
  });
});

describe('the way out in words', () => {
  const place = () => 'the box';
  const consignmentId = 'c' as ConsignmentId;
  const lines: readonly (readonly [DisposalPayload, RegExp])[] = [
    [{ step: 'marked' }, /red band/],
    [
      {
        step: 'discharging',
        load: { by: 'lamp', ratedV: 24, ratedW: 70 },
        where: 'outdoors',
        attendant: 'Ineke',
      },
      /lamp 24 V 70 W, outdoors, watched by Ineke/,
    ],
    [
      {
        step: 'discharging',
        load: { by: 'resistor', ohms: 8.2, ratedW: 50 },
        where: 'fireproof',
        attendant: 'x',
      },
      /resistor 8\.2 Ω 50 W/,
    ],
    [
      {
        step: 'discharging',
        load: { by: 'charger', charger: 'Bench charger' },
        where: 'outdoors',
        attendant: 'x',
      },
      /Bench charger, end-of-life mode/,
    ],
    [{ step: 'verified', cellsMv: [40, 50] }, /0\.04 0\.05 V/],
    [{ step: 'unsafe', why: 'swollen' }, /unsafe to discharge: swollen/],
    [{ step: 'insulated', how: 'tape' }, /covered: tape/],
    [{ step: 'binned', placeId: 'p' as PlaceId }, /container: the box/],
    [{ step: 'consigned', consignmentId }, /consignment/],
    [{ step: 'recycled', consignmentId }, /recycler/],
    [{ step: 'taken-back', consignmentId, reason: 'full' }, /off the consignment: full/],
    [{ step: 'reinstated', reason: 'wrong tag' }, /service: wrong tag/],
  ];
  it.each(lines)('%j', (payload, words) => {
    expect(disposalLine(payload, place)).toMatch(words);
  });

  it('a load is refused with what to take instead', () => {
    expect(drainRefusalSentence({ code: 'lamp-below-pack', ratedV: 12, packV: 22.2 })).toMatch(
      /Take one rated for 23 V or more/,
    );
    expect(drainRefusalSentence({ code: 'resistor-too-small', ratedW: 5, peakW: 17.64 })).toMatch(
      /would get 17\.6 W and stands 5 W/,
    );
    expect(drainRefusalSentence({ code: 'load-beyond-pack', amps: 4.2, mostA: 2.2 })).toMatch(
      /draws 4\.2 A, more than a gentle 2\.2 A/,
    );
  });

  it('nothing leads on from the recycler', () => {
    expect(stepsFrom('recycled')).toEqual([]);
  });
});
