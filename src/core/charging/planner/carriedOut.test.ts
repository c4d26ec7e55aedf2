import { charge, newSimPack } from '../../cellsim';
import type { SimPack } from '../../cellsim';
import { isLithium, socPercent } from '../../chemistry';
import { MINUTE_MS } from '../../measure';
import { seededRandom } from '../../random';
import { anEvening } from '../../testing/evenings';
import type { Family } from '../../testing/evenings';
import type { PlanInput, PlanPack } from './input';
import { Planning } from './plan';
import type { PlannedJob } from './plan';

/** The plan carried out on simulated packs, whose cells differ in what they hold and how they age. */

function simulated(pack: PlanPack, seed: number): SimPack {
  const random = seededRandom(seed);
  const fresh = newSimPack(
    {
      chemistry: pack.chemistry as 'lipo',
      series: pack.series,
      labelAh: pack.capacityAh / 1.01,
      mv: 3800,
      milliohm: pack.cellMilliohm,
    },
    random,
  );
  return {
    ...fresh,
    cells: fresh.cells.map((cell, i) => ({
      ...cell,
      heldAh: (socPercent(pack.chemistry as 'lipo', pack.cellsMv![i]!) / 100) * cell.newAh,
    })),
  };
}

/** Minutes the job really takes: the simulated charger balances cell by cell. Null where the simulation has no such job. */
function reallyTaken(job: PlannedJob, { packs }: PlanInput, seed: number): number | null {
  const own = job.packs.map(({ id }) => packs.find((pack) => pack.id === id)!);
  if (job.do !== 'charge' || own.some(({ need, chemistry }) => need.do === 'cycle' || !isLithium(chemistry)))
    return null;
  const cells = own.map((pack, i) => simulated(pack, seed * 100 + i));
  const { amps, topMv, mode } = job.setting;
  const settings = {
    amps,
    topMv: topMv!,
    cutOffC: mode === 'balance' ? 0.05 : 0.1,
    balanceA: mode === 'balance' ? 0.4 : null,
  };
  if (job.boardId === ('parallel board' as never)) {
    const shares = own.map(
      ({ capacityAh }) => capacityAh / own.reduce((sum, one) => sum + one.capacityAh, 0),
    );
    return Math.max(
      ...cells.map((pack, i) => charge(pack, { ...settings, amps: amps * shares[i]! }).minutes),
    );
  }
  if (own.length > 1) {
    // Single cells in series are one pack whose cells differ.
    const joined = {
      ...cells[0]!,
      labelAh: Math.min(...own.map(({ capacityAh }) => capacityAh)),
      cells: cells.flatMap((pack) => pack.cells),
    };
    return charge(joined, settings).minutes;
  }
  return charge(cells[0]!, settings).minutes;
}

it.each<[Family, number]>([
  ['fly, evening only', 0.95],
  ['many channels', 0.95],
  ['boards', 0.95],
])('%s: charges end within a tenth, or two minutes, of the plan', (family, share) => {
  let near = 0;
  let all = 0;
  for (let seed = 1; seed <= 12; seed++) {
    const input = anEvening(family, seed, { packs: 16 });
    const { jobs } = new Planning(input).plan({ explained: false });
    for (const job of jobs) {
      const taken = job.peakW > wattsOf(job, input) ? null : reallyTaken(job, input, seed);
      if (taken === null) continue;
      const planned = (job.end - job.start) / MINUTE_MS;
      all += 1;
      if (Math.abs(taken - planned) <= Math.max(2, planned * 0.1)) near += 1;
    }
  }
  expect(all).toBeGreaterThan(50);
  expect(near / all).toBeGreaterThanOrEqual(share);
});

/** The simulated charger knows no watts: only jobs that its channel's watts do not hold back are compared. */
function wattsOf(job: PlannedJob, { equipment }: PlanInput): number {
  const facts = equipment.find(({ id }) => id === job.equipmentId)!.facts;
  return facts.kind === 'charger' ? facts.channels[0]!.chargeW : 0;
}
