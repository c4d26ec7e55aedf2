import { refusalsOf } from '../admission';
import { assess, isOutOfUse } from '../assess';
import type { Instant } from '../measure';
import { HOUR_MS } from '../measure';
import { fold } from '../record';
import type { PackRecord } from '../record';
import {
  aPack,
  aRecord,
  charge,
  correction,
  decision,
  flight,
  inspection,
  level,
  PLAIN,
  reading,
  release,
  SOMEBODY,
  START,
} from './histories';

/**
 * Random histories of what takes a pack out of use, of releases, and of evidence taken back afterwards, held against an oracle that
 * knows only this: a pack is out of use while anything that happened is not answered, an answer covers what happened before it, and it
 * stands only while a look and a reading made in between are still there.
 */

interface Breach {
  readonly id: string;
  readonly at: Instant;
  readonly rule: string;
  /** The releases that answered it, in order. */
  readonly answers: Release[];
  withdrawn: boolean;
}
interface Release {
  readonly at: Instant;
  /** Everything it answered. */
  readonly of: readonly Breach[];
}
interface Proof {
  readonly id: string;
  readonly at: Instant;
  readonly kind: 'look' | 'reading';
  withdrawn: boolean;
}

const pack = aPack();
const ACTOR = { id: SOMEBODY, role: 'custodian' } as const;

/** What each kind of breach is in the records, and the rule that speaks of it. */
const BREACHES: readonly {
  readonly rule: string;
  readonly record: (hours: number, nth: number) => PackRecord;
}[] = [
  { rule: 'hot-use', record: (hours) => flight(hours, { hottestC: 66 }) },
  { rule: 'hot-charge', record: (hours) => charge(hours, { mode: 'storage', temperatureC: 52 }) },
  {
    rule: 'wrong-setting',
    record: (hours) =>
      charge(hours, {
        mode: 'storage',
        settings: { chemistry: 'nimh', cells: null, topMv: null, currentA: null },
      }),
  },
  { rule: 'overfull', record: (hours) => reading(hours, level(pack, 4300), { condition: 'settling' }) },
  { rule: 'inspection-failed', record: (hours) => inspection(hours, 'after-use', {}, ['leads']) },
  { rule: 'swollen', record: (hours) => inspection(hours, 'after-use', { swelling: 'soft' }) },
  { rule: 'held-by-hand', record: (hours) => decision(hours, { to: 'hold' }) },
  {
    rule: 'incident',
    record: (hours, nth) =>
      aRecord(hours, {
        kind: 'incident',
        payload: { incidentId: `incident ${nth}` as never, kind: 'crash', holds: true },
        supersedes: null,
      }),
  },
  // Nobody releases this one: it stands until it is withdrawn as a slip.
  { rule: 'damage-floor', record: (hours) => reading(hours, level(pack, 2900)) },
];
const OFTEN = [0, 1, 2, 3, 4, 5, 6, 7, 7, 0, 2, 4, 8];

/** One random history of so many steps; the first step at which the program and the oracle disagree, or null. */
export function disagreement(seed: number, steps = 14): string | null {
  const next = dice(seed);
  const records: PackRecord[] = [];
  const breaches: Breach[] = [];
  const proofs: Proof[] = [];
  const log: string[] = [];
  let hours = 0;
  for (let step = 0; step < steps; step++) {
    hours += [0.6, 1.2, 5, 14, 30][next(5)]!;
    const at = START + hours * HOUR_MS;
    const op = next(10);
    if (op < 3) {
      const { rule, record } = BREACHES[OFTEN[next(OFTEN.length)]!]!;
      const made = record(hours, step);
      records.push(made);
      breaches.push({ id: made.id, at, rule, answers: [], withdrawn: false });
      log.push(`${hours} h ${rule}`);
    } else if (op < 6) {
      // A crashed pack wants the list for crashes; it is a full look for everything else too.
      const look = inspection(hours, 'after-crash', { swelling: 'none' });
      const read = reading(hours + 0.1, level(pack, 3800));
      records.push(look, read);
      proofs.push({ id: look.id, at, kind: 'look', withdrawn: false });
      proofs.push({ id: read.id, at: at + 0.1 * HOUR_MS, kind: 'reading', withdrawn: false });
      hours += 0.2;
      log.push(`${hours} h looked over and read`);
    } else if (op < 8) {
      const made = release(hours, pack, records, { until: at + 9_000 * HOUR_MS });
      const draft = made as PackRecord & { kind: 'decision' };
      if (refusalsOf(pack, records, draft, ACTOR, at, PLAIN).length > 0) continue;
      records.push(made);
      const open = breaches.filter((one) => !one.withdrawn && !isAnswered(one, proofs));
      for (const one of open) one.answers.push({ at, of: open });
      log.push(`${hours} h released`);
    } else {
      const pool = [
        ...proofs,
        ...breaches.filter(({ rule }) => rule !== 'held-by-hand' && rule !== 'incident'),
      ];
      const one = pool[next(Math.max(1, pool.length))];
      if (!one || one.withdrawn) continue;
      const original = records.find(({ id }) => id === one.id)!;
      records.push(correction(hours, original, null));
      one.withdrawn = true;
      log.push(`${hours} h withdrawn: ${'kind' in one ? one.kind : one.rule}`);
    }
    const now = START + (hours + 0.3) * HOUR_MS;
    const said = assess(fold(pack, records), PLAIN.rules, now);
    const open = breaches.filter((one) => !one.withdrawn && !isAnswered(one, proofs));
    if (isOutOfUse(said.verdict) !== open.length > 0)
      return `seed ${seed}: ${said.verdict}, open: ${open.map(({ rule }) => rule).join(', ') || 'nothing'}\n${log.join('\n')}`;
  }
  return null;
}

/** A look and a reading between the newest thing of its kind that the release answered, and that still stands, and the release. */
function isAnswered({ answers, rule }: Breach, proofs: readonly Proof[]): boolean {
  return answers.some(({ at, of }) => {
    const since = Math.max(
      ...of.filter((one) => one.rule === rule && !one.withdrawn).map((one) => one.at),
      0,
    );
    return (['look', 'reading'] as const).every((kind) =>
      proofs.some((one) => one.kind === kind && !one.withdrawn && one.at >= since && one.at <= at),
    );
  });
}

/** Small whole numbers from a seed, the same each time. */
function dice(seed: number): (sides: number) => number {
  let state = (seed * 2654435761 + 12345) >>> 0;
  return (sides) => {
    state = (Math.imul(state ^ (state >>> 15), 2246822519) + 3266489917) >>> 0;
    return (state >>> 8) % sides;
  };
}
