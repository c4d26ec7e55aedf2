import fc from 'fast-check';
import { CHARGED, MAY_FLY, VERDICTS } from '../assess';
import { DAY_MS } from '../measure';
import type { CraftId, PackId, PackTypeId, PersonId } from '../measure';
import { handOut, notHandedOut } from '.';
import type { FitCheck, HandOutPack } from '.';

const NOW = Date.UTC(2026, 4, 1, 8);
const TYPE = 'type' as PackTypeId;
const HEXA = 'hexa' as CraftId;
const TRAINER = 'trainer' as CraftId;
const FITS: readonly FitCheck[] = [{ check: 'chemistry', outcome: 'ok', chemistry: 'lipo' }];
const UNFIT: readonly FitCheck[] = [{ check: 'chemistry', outcome: 'refused', chemistry: 'lipo' }];

const pack = (tag: string, more: Partial<HandOutPack> = {}): HandOutPack => ({
  id: tag as PackId,
  tag,
  typeId: TYPE,
  verdict: 'fit',
  mayFly: 'yes',
  charged: 'charge-first',
  cycles: 50,
  usedAt: NOW - 10 * DAY_MS,
  holderId: null,
  ...more,
});
const want = (packs: number, craftId: CraftId | null = HEXA) => ({ typeId: TYPE, packs, craftId });
const isTrainer = (craftId: CraftId) => craftId === TRAINER;
const proposed = (packs: readonly HandOutPack[], wants = [want(2)]) =>
  handOut(wants, packs, () => FITS, isTrainer, NOW).lines.map(({ packId, spare }) =>
    spare ? `(${packId})` : packId,
  );

it('takes the least worn, of equally worn ones the longest rested, and a spare', () => {
  const packs = [
    pack('A', { cycles: 60 }),
    pack('B', { cycles: 40, usedAt: NOW - DAY_MS }),
    pack('C', { cycles: 40, usedAt: NOW - 20 * DAY_MS }),
    pack('D', { cycles: 30 }),
  ];
  expect(proposed(packs)).toEqual(['D', 'C', '(B)']);
});

it('a pack that is charged already goes before one a cycle less worn', () => {
  expect(
    proposed([pack('A', { cycles: 40 }), pack('B', { cycles: 41, charged: 'charged' })], [want(1)]),
  ).toEqual(['B', '(A)']);
});

it('one on caution goes to the trainer alone, and after the sound ones', () => {
  const packs = [pack('A', { verdict: 'watch', cycles: 1 }), pack('B')];
  expect(proposed(packs, [want(2, HEXA)])).toEqual(['B']);
  expect(proposed(packs, [want(2, null)])).toEqual(['B']);
  expect(proposed(packs, [want(2, TRAINER)])).toEqual(['B', 'A']);
});

it('says what is missing, and gives no spare before every line has its own', () => {
  const packs = [pack('A'), pack('B'), pack('C')];
  const { lines, short } = handOut([want(2, HEXA), want(2, TRAINER)], packs, () => FITS, isTrainer, NOW);
  expect(lines.map(({ packId, craftId, spare }) => [packId, craftId, spare])).toEqual([
    ['A', HEXA, false],
    ['B', HEXA, false],
    ['C', TRAINER, false],
  ]);
  expect(short).toEqual([{ want: want(2, TRAINER), missing: 1 }]);
});

const anyPack = fc.record({
  verdict: fc.constantFrom(...VERDICTS),
  mayFly: fc.constantFrom(...MAY_FLY),
  charged: fc.constantFrom(...CHARGED),
  cycles: fc.integer({ min: 0, max: 400 }),
  usedAt: fc.option(fc.integer({ min: NOW - 200 * DAY_MS, max: NOW })),
  holderId: fc.option(fc.constantFrom('ada' as PersonId, 'ben' as PersonId)),
  fits: fc.boolean(),
});
const anyWant = fc.record({
  typeId: fc.constant(TYPE),
  packs: fc.integer({ min: 1, max: 12 }),
  craftId: fc.constantFrom(HEXA, TRAINER, null),
});

it('never proposes a pack that is held, retired, unfit, in other hands or on caution off the trainer, nor one twice', () => {
  fc.assert(
    fc.property(fc.array(anyPack, { maxLength: 30 }), fc.array(anyWant, { maxLength: 4 }), (drawn, wants) => {
      const packs = drawn.map((more, i) => ({
        ...pack(`P${i}`),
        ...more,
        // As the judgement has it: out of use is out of use by both answers.
        mayFly: VERDICTS.indexOf(more.verdict) > 1 ? ('no' as const) : more.mayFly,
      }));
      const { lines, short } = handOut(
        wants,
        packs,
        (one) => (packs.find(({ id }) => id === one.id)!.fits ? FITS : UNFIT),
        isTrainer,
        NOW,
      );
      expect(new Set(lines.map(({ packId }) => packId)).size).toBe(lines.length);
      for (const { packId, craftId } of lines) {
        const one = packs.find(({ id }) => id === packId)!;
        expect(one.mayFly).not.toBe('no');
        expect(one.holderId).toBeNull();
        if (craftId !== null) expect(one.fits).toBe(true);
        if (one.verdict === 'watch') expect(craftId).toBe(TRAINER);
      }
      const wanted = wants.reduce((sum, { packs: count }) => sum + count, 0);
      const missing = short.reduce((sum, line) => sum + line.missing, 0);
      expect(lines.filter(({ spare }) => !spare).length + missing).toBe(wanted);
    }),
  );
});

it('names every reason against handing a pack to somebody', () => {
  const ada = 'ada' as PersonId;
  const why = (more: Partial<HandOutPack>, checks = FITS) =>
    notHandedOut(pack('A', more), checks, ada).map((reason) => reason.why);
  expect(why({})).toEqual([]);
  expect(why({ holderId: ada })).toEqual([]);
  expect(why({ verdict: 'hold', mayFly: 'no' })).toEqual(['out-of-use']);
  expect(why({ mayFly: 'inspect-first', holderId: 'ben' as PersonId }, UNFIT)).toEqual([
    'look-first',
    'unfit',
    'in-other-hands',
  ]);
  expect(why({ mayFly: 'measure-first' })).toEqual(['measure-first']);
});
