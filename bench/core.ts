import { assess } from '../src/core/assess';
import { between, seededRandom } from '../src/core/cellsim';
import { HOUR_MS } from '../src/core/measure';
import type { RecordId } from '../src/core/measure';
import { parseVolts } from '../src/core/reading';
import { fold } from '../src/core/record';
import type { PackRecord } from '../src/core/record';
import { PRESET_RULES } from '../src/core/rules';
import { aPack, SOMEBODY, START } from '../src/core/testing/histories';
import { say } from './measure';

const PACKS = 200;
const RECORDS = 400;

/** How many records a second can be folded and judged, and how long one verdict takes while somebody types. */
export function benchCore(): void {
  const random = seededRandom(1);
  const pack = aPack({ series: 6 });
  const rules = PRESET_RULES['even-keel'];
  const histories = Array.from({ length: PACKS }, () => ledger(random));
  const now = START + RECORDS * 10 * HOUR_MS;

  const folds = perSecond(() => histories.forEach((records) => fold(pack, records)));
  // What was judged once is kept with the history, so each is folded anew.
  const judgements = perSecond(() => histories.forEach((records) => assess(fold(pack, records), rules, now)));
  say(
    'Folds a second (packs of 400 records)',
    `${Math.round(folds * PACKS)}`,
    `${Math.round(folds * PACKS * RECORDS)} records/s`,
  );
  say('Folded and judged a second (packs of 400 records)', `${Math.round(judgements * PACKS)}`);
  const keystroke = perSecond(() => {
    parseVolts('384 383 385 384 384 383', pack);
    assess(fold(pack, histories[0]!), rules, now);
  });
  say(
    'Typed reading to verdict, core only, 400 records (wanted 50 ms)',
    `${(1000 / keystroke).toFixed(3)} ms`,
  );
}

function ledger(random: () => number): PackRecord[] {
  return Array.from({ length: RECORDS }, (_, i) => ({
    kind: 'reading' as const,
    payload: {
      volts: { of: 'cells' as const, cellsMv: Array.from({ length: 6 }, () => between(random, 3600, 4200)) },
      condition: i % 4 === 0 ? ('loaded' as const) : ('rested' as const),
      instrument: null,
      meterErrorMv: 5,
      temperatureC: null,
      remarks: null,
    },
    supersedes: null,
    id: `record-${String(i).padStart(6, '0')}` as RecordId,
    packId: aPack().id,
    seq: i + 1,
    at: START + i * 10 * HOUR_MS,
    recordedAt: START + i * 10 * HOUR_MS,
    by: SOMEBODY,
    rulesVersion: 1,
  }));
}

function perSecond(work: () => void): number {
  for (let i = 0; i < 3; i++) work();
  const start = performance.now();
  let rounds = 0;
  while (performance.now() - start < 1000) {
    work();
    rounds++;
  }
  return (rounds * 1000) / (performance.now() - start);
}
