import { DAY_MS } from '../measure';
import { balanceTo, between, draw, newSimPack, readCells, rest, seededId, seededRandom, weaken } from '.';

const lowest = (cells: readonly number[]) => Math.min(...cells);
const mean = (cells: readonly number[]) => cells.reduce((sum, mv) => sum + mv, 0) / cells.length;

describe('a simulated pack', () => {
  it('is the same for the same seed', () => {
    const life = (seed: number) => {
      const random = seededRandom(seed);
      return readCells(draw(balanceTo(newSimPack('lipo', 6, 3800, random), 4200, random), 92), random);
    };
    expect(life(7)).toEqual(life(7));
    expect(life(7)).not.toEqual(life(8));
  });

  it('drains by what is drawn and by lying', () => {
    const random = seededRandom(1);
    const full = balanceTo(newSimPack('lipo', 4, 3800, random), 4200, random);
    expect(mean(readCells(full, random))).toBeGreaterThan(4180);
    expect(mean(readCells(draw(full, 60), random))).toBeCloseTo(3800, -2);
    expect(mean(readCells(rest(full, 300 * DAY_MS), random))).toBeLessThan(4120);
  });

  it('shows a weak cell after use, at the end of the discharge', () => {
    const random = seededRandom(2);
    const pack = weaken(balanceTo(newSimPack('lipo', 6, 3800, random), 4200, random), 4, 0.9, 12);
    const cells = readCells(draw(pack, 85), random);
    expect(cells.indexOf(lowest(cells))).toBe(3);
    expect(Math.max(...cells) - lowest(cells)).toBeGreaterThan(70);
  });

  it('never reads below nothing or above full', () => {
    const random = seededRandom(3);
    const pack = draw(newSimPack('liion', 4, 3680, random), 500);
    expect(readCells(pack, random).every((mv) => mv >= 2700)).toBe(true);
  });
});

describe('seeded chance', () => {
  it('draws whole numbers evenly from the whole range', () => {
    const random = seededRandom(4);
    const drawn = Array.from({ length: 3000 }, () => between(random, 1, 6));
    const counts = [1, 2, 3, 4, 5, 6].map((face) => drawn.filter((one) => one === face).length);
    expect(Math.min(...counts)).toBeGreaterThan(400);
    expect(Math.max(...counts)).toBeLessThan(600);
  });

  it('makes ids that sort by time', () => {
    const random = seededRandom(5);
    const ids = [1_700_000_000_000, 1_700_000_000_001, 1_800_000_000_000].map((at) => seededId(random, at));
    expect([...ids].sort()).toEqual(ids);
    expect(ids[0]).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
  });
});
