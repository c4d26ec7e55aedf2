import type { CraftAnswer } from '../../contract';
import type { CraftId, PackId, PersonId } from '../../core/measure';
import { aRow, REGISTER } from '../testing/rows';
import { NOTHING_TAKEN, takeOutLines, withChanged, withoutPack, withPack } from './takeOut';

const ADA = 'ada' as PersonId;
const BEN = 'ben' as PersonId;
const type = REGISTER.types[0]!;
const craft: CraftAnswer = {
  id: 'craft' as CraftId,
  version: 1,
  name: 'Hexacopter',
  inUse: true,
  facts: {
    chemistries: [type.chemistry],
    cells: { least: type.series, most: type.series },
    capacityMah: { least: null, most: null },
    massG: { least: null, most: null },
    sustainedA: 1,
    burstA: null,
    connector: null,
    usualMinutes: null,
    usualMah: null,
    cutOff: { mode: 'lithium', cells: type.series, cellMv: 3_300 },
    trainer: false,
    costly: false,
    overWater: false,
    overPeople: false,
  },
  changes: [],
};
const id = (tag: string) => `id-${tag}` as PackId;
const listOf = (...tags: readonly string[]) => tags.map(id).reduce(withPack, NOTHING_TAKEN);
const sound = { mayFly: 'yes', charged: 'charged', verdict: 'fit', holderId: null } as const;

it('a scan adds a pack once, and keeps what was said of it', () => {
  const said = withChanged(listOf('A'), id('A'), { short: true });
  expect(withPack(withPack(said, id('B')), id('A')).packs.map((one) => [one.id, one.short])).toEqual([
    [id('A'), true],
    [id('B'), false],
  ]);
  expect(withoutPack(said, id('A')).packs).toEqual([]);
});

it('a sound, charged, fitting pack that nobody has can be taken; anything else says why', () => {
  const rows = [
    aRow('A', sound),
    aRow('B', { ...sound, mayFly: 'no', verdict: 'hold' }),
    aRow('C', { ...sound, charged: 'charge-first' }),
    aRow('D', { ...sound, holderId: BEN }),
    aRow('E', { ...sound, holderId: ADA }),
  ];
  const lines = takeOutLines(listOf('A', 'B', 'C', 'D', 'E', 'gone'), rows, craft, REGISTER, ADA);
  expect(lines.map(({ row, isReady, against }) => [row.tag, isReady, against.map(({ why }) => why)])).toEqual(
    [
      ['A', true, []],
      ['B', false, ['out-of-use']],
      ['C', false, []],
      ['D', false, ['in-other-hands']],
      ['E', true, []],
    ],
  );
});

it('a short flight or a hand-over is said by hand, and lifts only what it answers', () => {
  const rows = [aRow('A', { ...sound, charged: 'unknown', holderId: BEN, mayFly: 'yes' })];
  const ready = (part: object) =>
    takeOutLines(withChanged(listOf('A'), id('A'), part), rows, craft, REGISTER, ADA)[0]!.isReady;
  expect(ready({ short: true })).toBe(false);
  expect(ready({ handedOver: true })).toBe(false);
  expect(ready({ short: true, handedOver: true })).toBe(true);
});

it('a pack with a cell too many for the craft stays here', () => {
  const small = { ...craft, facts: { ...craft.facts, cells: { least: 1, most: type.series - 1 } } };
  const [line] = takeOutLines(listOf('A'), [aRow('A', sound)], small, REGISTER, ADA);
  expect(line).toMatchObject({ isReady: false, against: [{ why: 'unfit' }] });
});
