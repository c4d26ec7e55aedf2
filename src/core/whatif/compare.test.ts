import { HOUR_MS } from '../measure';
import { fold } from '../record';
import type { PackRecord } from '../record';
import { PRESET_RULES, withRuleValue } from '../rules';
import { aPack, charge, EVEN_KEEL, level, reading, START } from '../testing/histories';
import { effectWords } from '../wording';
import { effectOn, standingUnder, sumsOf } from '.';

const lipo = aPack();
const at = (hours: number) => START + hours * HOUR_MS;
const effect = (records: readonly PackRecord[], hours: number, after = PRESET_RULES['long-service']) => {
  const [was, becomes] = [EVEN_KEEL, after].map((rules) =>
    standingUnder(fold(lipo, records), rules, at(hours)),
  );
  return effectOn(lipo.id, was!, becomes!);
};

it('a shorter allowance makes a running clock overdue, and a longer one relaxes it', () => {
  expect(effect([charge(0)], 30)).toMatchObject({ clock: ['running', 'overdue'], verdict: ['fit', 'fit'] });
  expect(effect([charge(0)], 60, PRESET_RULES['ready-state'])).toMatchObject({
    clock: ['overdue', 'running'],
  });
});

it('a narrower band starts a clock', () => {
  const records = [reading(0, level(lipo, 3720))];
  expect(effect(records, 1)).toMatchObject({ clock: ['still', 'running'] });
});

it('a tighter spread moves a verdict', () => {
  const tighter = withRuleValue(EVEN_KEEL, { path: 'spread.watchMv' }, 30);
  expect(effect([reading(0, [4190, 4190, 4190, 4155])], 1, tighter)).toMatchObject({
    verdict: ['fit', 'watch'],
  });
});

it('a pack that is out of use has no clock to change', () => {
  expect(effect([reading(0, level(lipo, 2900))], 13)).toBeNull();
});

it('what does not change is no effect', () => {
  expect(effect([reading(0, level(lipo, 3800))], 1)).toBeNull();
  expect(effect([charge(0)], 400, EVEN_KEEL)).toBeNull();
});

it('adds up to the sentence a custodian reads before adopting', () => {
  const moved = (verdict: readonly [string, string], clock: readonly [string, string] = ['still', 'still']) =>
    ({ packId: lipo.id, verdict, clock }) as never;
  const effects = [
    ...Array.from({ length: 7 }, () => moved(['fit', 'watch'])),
    moved(['watch', 'hold']),
    moved(['fit', 'fit'], ['running', 'overdue']),
    moved(['fit', 'fit'], ['still', 'overdue']),
    moved(['fit', 'fit'], ['overdue', 'running']),
    moved(['fit', 'fit'], ['still', 'running']),
    moved(['fit', 'fit'], ['running', 'still']),
  ];
  expect(effectWords(sumsOf(effects))).toBe(
    '7 packs move to caution, 1 pack moves to hold, 2 clocks become overdue, 1 clock is overdue no longer, 1 clock starts, 1 clock stops.',
  );
  expect(effectWords(sumsOf([]))).toBe('Nothing would change for any pack.');
});
