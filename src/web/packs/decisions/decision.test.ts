import type { HealthReport } from '../../../core/health';
import { DAY_MS } from '../../../core/measure';
import { fold } from '../../../core/record';
import { aPack, EVEN_KEEL, flight, level, reading, received, START } from '../../../core/testing/histories';
import { costLines, inFavour } from './decision';

type Measure = HealthReport['measures'][number];
const measure = (value: number | null, more: Partial<Measure>): Measure =>
  ({
    id: 'capacity',
    direction: 'falling',
    watch: 80,
    points: value === null ? [] : [{ at: START, value, records: [] }],
    ...more,
  }) as unknown as Measure;

describe('what speaks for a pack', () => {
  it.each([
    ['falls but stands above its line', measure(92, {}), 1],
    ['has fallen to its line', measure(80, {}), 0],
    ['rises but stands below its line', measure(8, { id: 'spread', direction: 'rising', watch: 15 }), 1],
    ['has risen to its line', measure(15, { id: 'spread', direction: 'rising', watch: 15 }), 0],
    ['was never measured', measure(null, {}), 0],
    ['the house watches by no line', measure(92, { watch: null }), 0],
  ])('a measure that %s', (_, one, count) => {
    expect(inFavour({ measures: [one] })).toHaveLength(count);
  });

  it('is said with its figure and its line', () => {
    expect(inFavour({ measures: [measure(92, {})] })[0]).toMatch(/92.*caution from.*80/);
  });
});

describe('what a pack cost', () => {
  const pack = aPack();
  const now = START + 365 * DAY_MS;
  const lines = (records: Parameters<typeof fold>[1], price: number | null) =>
    Object.fromEntries(
      costLines(fold(pack, records), { contents: null }, { price }, EVEN_KEEL, now).map((line) => [
        line.name,
        line.value,
      ]),
    );

  it('is its price over what it gave', () => {
    const flown = [received(), ...[1, 2, 3, 4].map((hours) => flight(hours, { usedMah: 1_600 }))];
    expect(lines(flown, 50)).toMatchObject({
      Uses: '4',
      'Price a use': '12.50',
      'Age, years': '1.0',
      'Another costs': '50.00',
    });
  });

  it('is not guessed where nothing was flown or no price is noted', () => {
    expect(lines([received()], 50)).toMatchObject({ Uses: '0', 'Price a use': '–', 'Charge now': '–' });
    expect(lines([received(), flight(1)], null)).toMatchObject({
      'Price a use': '–',
      'Another costs': 'no price noted',
    });
  });

  it('tells how long it stood full', () => {
    const full = [
      received(),
      reading(0, level(pack, 4200)),
      reading(10 * 24, level(pack, 4195)),
      reading(10 * 24 + 1, level(pack, 3800)),
    ];
    const days = Number(lines(full, null)['Full-charge days']);
    expect(days).toBeGreaterThan(5);
    expect(days).toBeLessThan((now - START) / DAY_MS);
    const stored = [received(), reading(0, level(pack, 3800)), reading(1, level(pack, 3800))];
    expect(lines(stored, null)['Full-charge days']).toBe('0.0');
  });
});
