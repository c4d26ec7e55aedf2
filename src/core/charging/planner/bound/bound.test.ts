import loadSolver from 'highs';
import type { Highs } from 'highs';
import { anEvening, FAMILIES } from '../../../testing/evenings';
import { buildProblem } from '../build';
import { Planning } from '../plan';
import { PlanSearch } from '../search';
import { proveBound } from './prove';

let solver: Highs;
beforeAll(async () => {
  solver = await loadSolver();
});

const solve = (programme: string) => Promise.resolve(proveBound(solver, programme, 5));

it.each(FAMILIES)('%s: no plan of any seed is better than what is proven', async (family) => {
  for (const evening of [1, 2]) {
    const input = anEvening(family, evening, { packs: 10 });
    const planning = new Planning(input);
    planning.improve(30);
    const bound = await planning.bound(solve);
    if (!bound) continue;
    const { problem } = buildProblem(input);
    for (const seed of [2, 3, 4]) {
      const search = new PlanSearch(problem, { seed });
      search.improve(60);
      const { wishes } = search.best.weighed;
      const has = bound.wish === 'notReady' ? wishes.notReady + wishes.leftOut : wishes[bound.wish];
      const servesAll = wishes.notReady + wishes.leftOut === 0;
      // A plan that leaves packs out has fewer minutes, and is no better for it.
      if (bound.wish === 'notReady' || servesAll) expect(has).toBeGreaterThanOrEqual(bound.atLeast - 1e-6);
    }
  }
});

it('two equal jobs on one channel take as long as they take', async () => {
  const evening = anEvening('many channels', 1, { packs: 1 });
  const [pack] = evening.packs;
  const [charger] = evening.equipment;
  const facts = charger!.facts.kind === 'charger' ? charger!.facts : null;
  const one = { ...charger!, facts: { ...facts!, channels: facts!.channels.slice(0, 1) } };
  const packs = [pack!, { ...pack!, id: 'second' as never }].map((each) => ({
    ...each,
    freeFrom: evening.from,
    need: { do: 'fill', flightAt: evening.attended[0]!.to, dayId: 'day' as never } as const,
  }));
  const planning = new Planning({ ...evening, packs, equipment: [one] });
  planning.improve(20);
  const { wishes } = planning.plan({ explained: false });
  const bound = await planning.bound(solve);
  expect(bound).toMatchObject({ wish: 'fullMinutes', has: wishes.fullMinutes });
  // One ends as late as it may, the other must be off before it; a bucket of ten minutes is what the proof gives away.
  expect(wishes.fullMinutes - bound!.atLeast).toBeLessThanOrEqual(20);
});
