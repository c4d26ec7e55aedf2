import fc from 'fast-check';
import { assess, isOutOfUse } from '../assess';
import { mayDo, ROLES, stepsFrom } from '../lifecycle';
import type { Actor, DisposalPayload, Role } from '../lifecycle';
import { DAY_MS, HOUR_MS, MINUTE_MS } from '../measure';
import type { ConsignmentId, Instant, PersonId, PlaceId } from '../measure';
import { fold } from '../record';
import type { PackRecord } from '../record';
import {
  aPack,
  aRecord,
  charge,
  correction,
  decision,
  disposal,
  EVEN_KEEL,
  flight,
  incident,
  inspection,
  level,
  moved,
  PLAIN,
  reading,
  received,
  release,
  START,
  watchEnded,
} from '../testing/histories';
import { refusalsOf } from '.';
import type { Circumstances } from '.';

/** Random people ask for random things, some of them late from offline; what the gate lets through keeps these promises. */

const pack = aPack();
const CONTAINER = 'container' as PlaceId;
const CONSIGNMENT = 'consignment' as ConsignmentId;
const PLACES: Circumstances['places'] = new Map([
  [CONTAINER, { setApart: false, recycling: true, full: false }],
  ['apart' as PlaceId, { setApart: true, recycling: true, full: false }],
]);
const RULES = [EVEN_KEEL, { ...EVEN_KEEL, retirementNames: 2 as const }];

const OPS = [
  'reading',
  'low-reading',
  'inspection',
  'bad-inspection',
  'incident',
  'watch-ended',
  'hold',
  'evidence',
  'evidence',
  'evidence',
  'release',
  'release',
  'retire',
  'confirm',
  'way-on',
  'way-on',
  'way-on',
  'charge',
  'flight',
  'sign-out',
  'withdraw',
] as const;

interface Ask {
  readonly op: (typeof OPS)[number];
  readonly role: Role;
  readonly person: 1 | 2;
  /** Hours that pass before it is asked, and how long before that it is said to have happened. */
  readonly after: number;
  readonly late: number;
  readonly pick: number;
}

const ask: fc.Arbitrary<Ask> = fc.record({
  op: fc.constantFrom(...OPS),
  role: fc.oneof(
    { weight: 3, arbitrary: fc.constant<Role>('custodian') },
    { weight: 2, arbitrary: fc.constantFrom(...ROLES) },
  ),
  person: fc.constantFrom(1, 2),
  after: fc.constantFrom(0.1, 2, 26),
  late: fc.constantFrom(0, 0, 0, 1, 12, 40),
  pick: fc.nat(40),
});

interface World {
  readonly records: readonly PackRecord[];
  readonly now: Instant;
  readonly rules: typeof EVEN_KEEL;
}

/** What is asked for, as its writer would send it. */
function drafted({ op, late, pick, person }: Ask, { records, now, rules }: World): PackRecord {
  const at = (now - START) / HOUR_MS - late;
  const hours = (now - START) / HOUR_MS;
  switch (op) {
    case 'reading':
      return reading(at, level(pack, 3800));
    case 'low-reading':
      return reading(at, [pick < 5 ? 2800 : 3500, 3800, 3800, 3800]);
    case 'evidence': {
      const { needs } = assess(fold(pack, records), rules, now);
      return needs.some(({ need, met }) => need === 'inspection' && !met)
        ? inspection(hours, 'after-crash', { swelling: 'none' })
        : reading(hours, level(pack, 3800));
    }
    case 'inspection':
      return inspection(at, 'after-crash', { swelling: 'none' });
    case 'bad-inspection':
      return inspection(at, 'scheduled', { swelling: 'soft' });
    case 'incident':
      return incident(at, pick % 5 === 0 ? 'hot-charging' : 'crash');
    case 'watch-ended':
      return watchEnded(hours);
    case 'hold':
      return decision(hours, { to: 'hold' });
    case 'release':
      return release(at, pack, records, { until: now + 60 * DAY_MS }, rules);
    case 'retire':
      return decision(hours, { to: 'retire', because: [], secondWanted: rules.retirementNames === 2 });
    case 'confirm': {
      const decisionId = fold(pack, records).life.decisionId ?? records[0]!.id;
      const payload = { basedOnSeq: records.length, decisionId, reason: null };
      return aRecord(hours, { kind: 'confirmation', payload, supersedes: null });
    }
    case 'way-on':
      return disposal(at, wayOn(records, pick));
    case 'charge':
      return charge(at, { minutes: 30 });
    case 'flight':
      return flight(at, { minutes: 10 });
    case 'sign-out':
      return moved(at, `person ${person}` as PersonId);
    case 'withdraw':
      return correction(hours, records[pick % records.length]!, null);
    default:
      return op satisfies never;
  }
}

/** A step that may follow, or now and then any. */
function wayOn(records: readonly PackRecord[], pick: number): DisposalPayload {
  const load = { by: 'resistor', ohms: 20, ratedW: 50 } as const;
  const all: DisposalPayload[] = [
    { step: 'marked' },
    { step: 'discharging', load, where: 'outdoors', attendant: 'Ineke' },
    { step: 'verified', cellsMv: level(pack, 60) },
    { step: 'unsafe', why: 'no load at hand' },
    { step: 'insulated', how: 'tape' },
    { step: 'binned', placeId: pick % 2 ? CONTAINER : ('apart' as PlaceId) },
    { step: 'consigned', consignmentId: CONSIGNMENT },
    { step: 'recycled', consignmentId: CONSIGNMENT },
    { step: 'reinstated', reason: 'the wrong tag' },
  ];
  const { state } = fold(pack, records).life;
  const next = all.filter(
    ({ step }) => pick % 7 !== 0 && step !== 'reinstated' && stepsFrom(state).includes(step),
  );
  return next.length > 0 ? next[pick % next.length]! : all[pick % all.length]!;
}

function run(
  asks: readonly Ask[],
  rules: typeof EVEN_KEEL,
  check: (taken: PackRecord, world: World) => void,
) {
  let world: World = { records: [received(-1000)], now: START, rules };
  for (const one of asks) {
    world = { ...world, now: world.now + one.after * HOUR_MS };
    const actor: Actor = { id: `person ${one.person}` as PersonId, role: one.role };
    const draft = {
      ...drafted(one, world),
      by: actor.id,
      seq: world.records.length + 1,
      recordedAt: world.now,
    };
    if (!mayDo(actor.role, `record.${draft.kind}`)) continue;
    const consigning = draft.kind === 'disposal' && 'consignmentId' in draft.payload;
    const through = draft.kind === 'incident' ? 'incident' : consigning ? 'consignment' : 'records';
    const circumstances = { ...PLAIN, rules, places: PLACES, through } as const;
    if (refusalsOf(pack, world.records, draft, actor, world.now, circumstances).length > 0) continue;
    check(draft, world);
    world = { ...world, records: [...world.records, draft] };
  }
  return world;
}

const withdrawn = (records: readonly PackRecord[], { id }: PackRecord) =>
  records.some((other) => other.kind === 'correction' && other.supersedes === id);

/** Told without the program's own judgement: what stopped it before `at`, and nothing has lifted since. */
function stoppedAt(records: readonly PackRecord[], at: Instant): string | null {
  for (const record of records) {
    if (record.at > at || withdrawn(records, record)) continue;
    const stops =
      record.kind === 'incident' ||
      (record.kind === 'inspection' && record.payload.swelling === 'soft') ||
      (record.kind === 'decision' && record.payload.what.to === 'hold');
    const released = records.some(
      (other) =>
        other.kind === 'decision' &&
        other.payload.what.to === 'release' &&
        other.at <= at &&
        other.at >= record.at,
    );
    if (stops && !released) return record.kind;
    if (record.kind !== 'decision' || record.payload.what.to !== 'retire') continue;
    const back = records.some(
      (other) =>
        other.kind === 'disposal' &&
        other.payload.step === 'reinstated' &&
        other.at <= at &&
        other.at >= record.at,
    );
    if (!back) return 'retired';
  }
  return null;
}

const RUNS = { numRuns: 400, seed: 20_261_125 };
const scenario = fc.tuple(fc.array(ask, { minLength: 50, maxLength: 90 }), fc.constantFrom(...RULES));

it('no pack is charged, flown or signed out while it is held, retired or worse', () => {
  let uses = 0;
  fc.assert(
    fc.property(scenario, ([asks, rules]) => {
      run(asks, rules, (taken, { records }) => {
        const out = taken.kind === 'moved' && taken.payload.holderId !== null;
        if (taken.kind !== 'charge' && taken.kind !== 'flight' && !out) return;
        uses += 1;
        const minutes = taken.kind === 'moved' ? 0 : (taken.payload.minutes ?? 0);
        expect(stoppedAt(records, taken.at - minutes * MINUTE_MS)).toBeNull();
      });
    }),
    RUNS,
  );
  expect(uses).toBeGreaterThan(100);
});

it('no pack is released without a look and a reading after its watch', () => {
  let releases = 0;
  fc.assert(
    fc.property(scenario, ([asks, rules]) => {
      run(asks, rules, (taken, { records, now }) => {
        if (taken.kind !== 'decision' || taken.payload.what.to !== 'release') return;
        releases += 1;
        const stops = records.filter(({ kind, id }) => kind === 'incident' && unanswered(records, id));
        for (const { at } of stops) {
          const early = records.find(({ kind }) => kind === 'watch-ended')?.at ?? Infinity;
          const from = Math.min(at + HOUR_MS, Math.max(at, early));
          const looked = records.some(
            (one) => one.kind === 'inspection' && one.at >= from && one.payload.swelling === 'none',
          );
          expect(looked).toBe(true);
          expect(records.some((one) => one.kind === 'reading' && one.at >= from && one.at <= now)).toBe(true);
        }
      });
    }),
    RUNS,
  );
  expect(releases).toBeGreaterThan(50);
});

function unanswered(records: readonly PackRecord[], id: PackRecord['id']): boolean {
  return !records.some(
    ({ kind, payload }) =>
      kind === 'decision' &&
      payload.what.to === 'release' &&
      payload.what.answers.some((answer) => answer.records.includes(id)),
  );
}

it('every state reached has its evidence in the ledger, and none is recycled but through a consignment', () => {
  const reached = new Map<string, number>();
  fc.assert(
    fc.property(scenario, ([asks, rules]) => {
      const { records, now } = run(asks, rules, () => undefined);
      const { life } = fold(pack, records);
      reached.set(life.state, (reached.get(life.state) ?? 0) + 1);
      const did = (step: DisposalPayload['step']) =>
        records.filter(({ kind, payload }) => kind === 'disposal' && payload.step === step);
      if (life.state === 'in-service') return;
      expect(assess(fold(pack, records), rules, now)).toMatchObject({ mayFly: 'no' });
      const decided = records.find(({ id }) => id === life.decisionId)!;
      expect(decided.kind).toBe('decision');
      if (life.state !== 'retiring' && rules.retirementNames === 2)
        expect(records.some(({ kind, by }) => kind === 'confirmation' && by !== decided.by)).toBe(true);
      if (['insulated', 'binned', 'consigned', 'recycled'].includes(life.state)) {
        const emptied = did('verified');
        const twice = emptied.some((one) => emptied.some((other) => other.at - one.at >= DAY_MS));
        expect(life.apart ? did('unsafe').length > 0 : twice).toBe(true);
        expect(did('marked').length).toBeGreaterThan(0);
      }
      if (life.state === 'recycled') expect(did('consigned').length).toBeGreaterThan(0);
    }),
    { ...RUNS, numRuns: 800 },
  );
  // The random walk goes all the way now and then; else the property would say nothing.
  for (const state of ['in-service', 'retiring', 'retired', 'unsafe', 'insulated', 'recycled'])
    expect(reached.get(state) ?? 0).toBeGreaterThan(0);
});

it('folded in any order of arrival, the pack stands the same', () => {
  fc.assert(
    fc.property(scenario, fc.infiniteStream(fc.nat()), ([asks, rules], order) => {
      const { records, now } = run(asks, rules, () => undefined);
      const shuffled = records
        .map((record) => ({ record, at: order.next().value as number }))
        .sort((a, b) => a.at - b.at)
        .map(({ record }) => record);
      const said = assess(fold(pack, shuffled), rules, now);
      expect(said.verdict).toBe(assess(fold(pack, records), rules, now).verdict);
      expect(isOutOfUse(said.verdict)).toBe(said.mayFly === 'no');
    }),
    { ...RUNS, numRuns: 150 },
  );
});
