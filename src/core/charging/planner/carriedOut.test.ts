import { charge, discharge, newSimPack } from '../../cellsim';
import type { SimPack } from '../../cellsim';
import { isLithium, socPercent } from '../../chemistry';
import { MINUTE_MS } from '../../measure';
import { seededRandom } from '../../random';
import { anEvening } from '../../testing/evenings';
import type { Family } from '../../testing/evenings';
import { planFaults } from '../planFaults';
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

interface Run {
  readonly minutes: number;
  /** The most watts at the pack in each minute from its start. */
  readonly peakW: readonly number[];
  /** Millivolts of every cell of a pack charged by itself. */
  readonly endMv?: readonly number[];
}

/** How a job really runs: the simulated charger watches cell by cell. Null where the simulation has no such job. */
function carriedOut(job: PlannedJob, input: PlanInput, seed: number, diesAfter?: number): Run | null {
  const own = job.packs.map(({ id }) => input.packs.find((pack) => pack.id === id)!);
  if (own.some(({ need, chemistry }) => need.do === 'cycle' || !isLithium(chemistry))) return null;
  const packs = own.map((pack, i) => simulated(pack, seed * 100 + i));
  const { amps, topMv, mode } = job.setting;
  const { chargeW, dischargeW } = outputOf(job, input);
  if (job.do === 'lower') {
    const runs = packs.map((pack, i) =>
      discharge(pack, {
        amps,
        watts: dischargeW,
        targetMv: topMv!,
        endA: mode === 'storage' ? own[i]!.capacityAh / 10 : null,
      }),
    );
    return { minutes: Math.max(...runs.map(({ minutes }) => minutes)), peakW: [] };
  }
  const settings = {
    amps,
    topMv: topMv!,
    cutOffC: job.do === 'charge' && mode === 'balance' ? 0.05 : 0.1,
    balanceA: mode === 'balance' ? 0.4 : null,
    watts: chargeW,
    ...(diesAfter === undefined ? {} : { diesAfter }),
  };
  if (job.boardId === ('parallel board' as never)) {
    const whole = own.reduce((sum, one) => sum + one.capacityAh, 0);
    const runs = packs.map((pack, i) => {
      const share = own[i]!.capacityAh / whole;
      return charge(pack, { ...settings, amps: amps * share, watts: chargeW * share });
    });
    const longest = Math.max(...runs.map(({ peakW }) => peakW.length));
    return {
      minutes: Math.max(...runs.map(({ minutes }) => minutes)),
      peakW: Array.from({ length: longest }, (_, i) =>
        runs.reduce((sum, { peakW }) => sum + (peakW[i] ?? 0), 0),
      ),
    };
  }
  if (own.length > 1) {
    // Single cells in series are one pack whose cells differ.
    const joined = {
      ...packs[0]!,
      labelAh: Math.min(...own.map(({ capacityAh }) => capacityAh)),
      cells: packs.flatMap((pack) => pack.cells),
    };
    return charge(joined, settings);
  }
  return charge(packs[0]!, settings);
}

function outputOf({ equipmentId, channel }: PlannedJob, { equipment }: PlanInput) {
  const { facts } = equipment.find(({ id }) => id === equipmentId)!;
  if (facts.kind === 'load') return { chargeW: 0, dischargeW: facts.watts };
  if (facts.kind !== 'charger') throw new Error(`${facts.kind} charges nothing`);
  const output = facts.channels.find(({ key }) => key === channel)!;
  // One channel alone cannot take more than all of them share.
  const shared = facts.shared.map(({ watts }) => watts ?? Infinity);
  return { chargeW: Math.min(output.chargeW, ...shared), dischargeW: output.dischargeW ?? 0 };
}

function isNear({ minutes }: Run, { start, end }: PlannedJob): boolean {
  const planned = (end - start) / MINUTE_MS;
  return Math.abs(minutes - planned) <= Math.max(2, planned * 0.1);
}

/** Jobs of a plan with how each really ran, and how many ended within a tenth, or two minutes, of the plan. */
function allCarriedOut(family: Family, evenings: number, packs: number) {
  let [near, all] = [0, 0];
  const plans = Array.from({ length: evenings }, (_, i) => {
    const input = anEvening(family, i + 1, { packs });
    const { jobs } = new Planning(input).plan({ explained: false });
    const runs = jobs.flatMap((job) => {
      const run = carriedOut(job, input, i + 1);
      return run ? [{ job, run }] : [];
    });
    for (const { job, run } of runs) {
      all += 1;
      if (isNear(run, job)) near += 1;
    }
    return { input, runs };
  });
  return { plans, near, all };
}

it.each<[Family, number]>([
  ['fly, evening only', 0.95],
  ['many channels', 0.95],
  ['boards', 0.95],
  ['pool far short', 0.95],
  ['one supply', 0.95],
  ['store, one span', 0.95],
])('%s: jobs end within a tenth, or two minutes, of the plan', (family, share) => {
  const { near, all } = allCarriedOut(family, 12, 16);
  expect(all).toBeGreaterThan(50);
  expect(near / all).toBeGreaterThanOrEqual(share);
});

it('a shared supply is not asked for more than it has, minute by minute', () => {
  for (const family of ['pool far short', 'fly, evening only'] as const) {
    let [over, minutes, worst] = [0, 0, 0];
    for (const { input, runs } of allCarriedOut(family, 12, 16).plans) {
      for (const { id, facts } of input.equipment) {
        const cap = facts.kind === 'charger' ? facts.shared.find(({ watts }) => watts !== null)?.watts : null;
        if (!cap) continue;
        for (const drawn of drawnFrom(
          runs.filter(({ job }) => job.equipmentId === id),
          input,
        )) {
          minutes += 1;
          if (drawn > cap * 1.02) over += 1;
          worst = Math.max(worst, drawn / cap);
        }
      }
    }
    expect(minutes).toBeGreaterThan(1000);
    expect(over / minutes).toBeLessThan(0.005);
    expect(worst).toBeLessThan(1.15);
  }
});

it('a channel dies half way, and what is planned from there keeps every limit and is carried out as planned', () => {
  let [near, all] = [0, 0];
  for (const family of ['fly, evening only', 'many channels', 'pool far short', 'one supply'] as const) {
    for (let seed = 1; seed <= 4; seed++) {
      const input = anEvening(family, seed, { packs: 18 });
      const { jobs } = new Planning(input).plan({ explained: false });
      const middle = jobs[Math.floor(jobs.length / 3)]!;
      const now = middle.start + Math.round((middle.end - middle.start) / 2 / MINUTE_MS) * MINUTE_MS;
      const begun = jobs.filter(({ start }) => start <= now);
      const done = new Set(begun.flatMap(({ packs }) => packs.map(({ id }) => id)));
      const half = carriedOut(middle, input, seed, (now - middle.start) / MINUTE_MS);
      const cut = input.packs.find(({ id }) => id === middle.packs[0]!.id)!;
      const later: PlanInput = {
        ...input,
        from: now,
        equipment: input.equipment.map((one) =>
          one.id === middle.equipmentId ? withoutChannel(one, middle.channel!) : one,
        ),
        // The pack whose charge broke off is read again, rested.
        packs: [
          ...input.packs.filter(({ id }) => !done.has(id)),
          ...(middle.packs.length === 1 && half?.endMv
            ? [{ ...cut, cellsMv: half.endMv, freeFrom: now + 30 * MINUTE_MS }]
            : []),
        ],
        running: begun
          .filter((job) => job !== middle && job.end > now)
          .map(({ do: kind, packs, equipmentId, channel, boardId, setting, start, end, peakW }) => ({
            id: 'running' as never,
            do: kind,
            packIds: packs.map(({ id }) => id),
            equipmentId,
            channel,
            boardId,
            amps: setting.amps,
            start,
            end,
            peakW,
          })),
      };
      const again = new Planning(later).plan({ explained: false });
      expect(planFaults(later, again.jobs)).toEqual([]);
      const onIt = again.jobs.filter(
        ({ equipmentId, channel }) => equipmentId === middle.equipmentId && channel === middle.channel,
      );
      expect(onIt).toEqual([]);
      for (const job of again.jobs) {
        const run = carriedOut(job, later, seed);
        if (!run) continue;
        all += 1;
        if (isNear(run, job)) near += 1;
      }
    }
  }
  expect(all).toBeGreaterThan(50);
  expect(near / all).toBeGreaterThanOrEqual(0.95);
});

function withoutChannel(charger: PlanInput['equipment'][number], dead: string) {
  if (charger.facts.kind !== 'charger') return charger;
  const channels = charger.facts.channels.map((one) =>
    one.key === dead ? { ...one, outOfOrder: true } : one,
  );
  return { ...charger, facts: { ...charger.facts, channels } };
}

/** Watts drawn in each minute by jobs that begin as planned, but no sooner than the one before is off their channel. */
function drawnFrom(runs: readonly { job: PlannedJob; run: Run }[], input: PlanInput): number[] {
  const drawn: number[] = [];
  const freeFrom = new Map<string | null, number>();
  for (const { job, run } of runs) {
    const from = Math.max((job.start - input.from) / MINUTE_MS, freeFrom.get(job.channel) ?? 0);
    freeFrom.set(job.channel, Math.ceil(from + run.minutes));
    for (const [i, watts] of run.peakW.entries()) drawn[from + i] = (drawn[from + i] ?? 0) + watts;
  }
  return Object.values(drawn);
}
