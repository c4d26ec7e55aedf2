import { fleetPack, lifetimeOf, lifetimeOfNew, lossRate, paceOf, purchaseRun } from '../../core/fleet';
import type { FleetPack, FleetType, Lifetime, Purchase } from '../../core/fleet';
import { siblingsOf } from '../../core/health';
import type { Instant, PackId, PackTypeId } from '../../core/measure';
import type { PackHistory } from '../../core/record';
import type { HouseRules } from '../../core/rules';
import { allHistories } from './histories';

/** What the register is: asked anew when its rules or its packs change. */
export interface FleetBasis {
  readonly rules: HouseRules;
  readonly now: Instant;
  readonly typeOf: Readonly<Record<PackId, PackTypeId>>;
}

/** What is assumed of the years to come. */
export interface FleetPlan {
  /** Packs of a type that are to be in service; as many as today for a type that is not named. */
  readonly wanted: Readonly<Record<PackTypeId, number>>;
  readonly prices: Readonly<Record<PackTypeId, number | null>>;
  /** How much is flown against today. */
  readonly flying: number;
  /** The share of the time packs lie full; null for as today. */
  readonly full: number | null;
  readonly quarters: number;
}

export interface FleetQuestion {
  readonly id: number;
  readonly basis: FleetBasis;
  readonly plan: FleetPlan;
}

/** One type as it stands. */
export interface TypeNow {
  readonly typeId: PackTypeId;
  readonly inService: number;
  /** Of these, to be retired already. */
  readonly over: number;
  readonly cyclesAYear: number;
  readonly fullShare: number;
  /** How many packs told how this type wears. */
  readonly learntFrom: number;
}

export type FleetMessage = { readonly id: number } & (
  | { readonly kind: 'reading'; readonly done: number; readonly of: number }
  | { readonly kind: 'following'; readonly done: number; readonly of: number }
  | { readonly kind: 'drawing'; readonly done: number; readonly of: number }
  | {
      readonly kind: 'done';
      readonly types: readonly TypeNow[];
      readonly purchase: Purchase<PackTypeId>;
      readonly lost: number;
      readonly packYears: number;
      readonly milliseconds: number;
    }
  | { readonly kind: 'failed' }
);

/** A few thousand futures: their tenth and ninetieth percentile no longer move by a pack. */
const DRAWS = 2_000;
const DRAWS_AT_ONCE = 50;
const SEED = 20;
/** Up to so many records the histories are kept for the second look; a larger register is read twice. */
const KEPT_RECORDS = 150_000;

interface Fleet {
  readonly packs: readonly FleetPack[];
  readonly lives: ReadonlyMap<PackId, Lifetime>;
  readonly fresh: ReadonlyMap<PackTypeId, Lifetime>;
}

/** The question asked last; work on an older one ends at its next step. */
let latest = 0;
let known: { readonly key: string; readonly fleet: Fleet } | null = null;

self.onmessage = ({ data }: MessageEvent<FleetQuestion>) => {
  latest = data.id;
  void answer(data).catch(() => tell({ id: data.id, kind: 'failed' }));
};

async function answer({ id, basis, plan }: FleetQuestion): Promise<void> {
  const began = performance.now();
  const key = JSON.stringify(basis);
  if (known?.key !== key) {
    const fleet = await read(id, basis);
    if (!fleet) return;
    known = { key, fleet };
  }
  const { packs, lives, fresh } = known.fleet;
  const types = typesNow(packs, basis.typeOf);
  const asked: FleetType<PackTypeId>[] = types.map(({ typeId, inService, fullShare }) => ({
    id: typeId,
    lives: packs
      .filter(({ packId }) => basis.typeOf[packId] === typeId)
      .flatMap(({ packId }) => {
        const life = lives.get(packId);
        return life ? [life] : [];
      }),
    fresh: fresh.get(typeId)!,
    wanted: plan.wanted[typeId] ?? inService,
    price: plan.prices[typeId] ?? null,
    pace: paceOf(plan.flying, fullShare, plan.full ?? fullShare),
  }));
  const lost = packs.filter(({ state }) => state === 'lost').length;
  const packYears = packs.reduce((sum, { years }) => sum + years, 0);
  const run = purchaseRun(asked, {
    lossesAYear: lossRate(lost, packYears),
    quarters: plan.quarters,
    draws: DRAWS,
    seed: SEED,
  });
  while (!run.go(DRAWS_AT_ONCE)) {
    tell({ id, kind: 'drawing', done: run.done(), of: DRAWS });
    await turn();
    if (id !== latest) return;
  }
  tell({
    id,
    kind: 'done',
    types,
    purchase: run.answer(),
    lost,
    packYears,
    milliseconds: performance.now() - began,
  });
}

/** Reads the register and follows every pack; null where another question came meanwhile. */
async function read(id: number, { rules, now, typeOf }: FleetBasis): Promise<Fleet | null> {
  const packs: FleetPack[] = [];
  const kept: PackHistory[] = [];
  let records = 0;
  for await (const page of allHistories()) {
    records += page.records;
    for (const pack of page.passing) {
      if (!(pack.facts.id in typeOf)) continue;
      const history = await pack.history();
      packs.push(fleetPack(history, rules, now));
      if (records <= KEPT_RECORDS) kept.push(history);
      if (packs.length % 10 === 0) await turn();
      if (id !== latest) return null;
    }
    tell({ id, kind: 'reading', done: page.packsSoFar, of: page.packs });
  }
  const byType = grouped(packs, typeOf);
  const lives = new Map<PackId, Lifetime>();
  const stateOf = new Map(packs.map(({ packId, state }) => [packId, state]));
  const serving = packs.filter(({ state }) => state === 'in-service' || state === 'over').length;
  const follow = async (history: PackHistory) => {
    const { id: packId } = history.pack;
    const state = stateOf.get(packId);
    if (state === 'over') lives.set(packId, [Float64Array.of(0)]);
    if (state === 'in-service') {
      const others = byType.get(typeOf[packId]!)!.filter((one) => one.packId !== packId);
      lives.set(
        packId,
        lifetimeOf(
          history,
          rules,
          now,
          others.flatMap(({ shown }) => shown),
        ),
      );
    }
    if (lives.size % 10 !== 0) return;
    tell({ id, kind: 'following', done: lives.size, of: serving });
    await turn();
  };
  if (records <= KEPT_RECORDS) for (const history of kept) await follow(history);
  else
    for await (const page of allHistories()) {
      for (const pack of page.passing) await follow(await pack.history());
      if (id !== latest) return null;
    }
  if (id !== latest) return null;
  const fresh = new Map(
    [...byType].map(([typeId, ofType]) => [
      typeId,
      lifetimeOfNew(rules, siblingsOf(ofType.flatMap(({ shown }) => shown))),
    ]),
  );
  return { packs, lives, fresh };
}

function typesNow(packs: readonly FleetPack[], typeOf: FleetBasis['typeOf']): TypeNow[] {
  return [...grouped(packs, typeOf)].map(([typeId, ofType]) => {
    const serving = ofType.filter(({ state }) => state === 'in-service' || state === 'over');
    const mean = (of: (pack: FleetPack) => number) =>
      serving.reduce((sum, pack) => sum + of(pack), 0) / Math.max(1, serving.length);
    return {
      typeId,
      inService: serving.length,
      over: serving.filter(({ state }) => state === 'over').length,
      cyclesAYear: mean(({ cyclesAYear }) => cyclesAYear),
      fullShare: mean(({ fullShare }) => fullShare),
      learntFrom: ofType.filter(({ shown }) => shown.length > 0).length,
    };
  });
}

function grouped(packs: readonly FleetPack[], typeOf: FleetBasis['typeOf']): Map<PackTypeId, FleetPack[]> {
  const groups = new Map<PackTypeId, FleetPack[]>();
  for (const pack of packs) {
    const typeId = typeOf[pack.packId]!;
    groups.set(typeId, [...(groups.get(typeId) ?? []), pack]);
  }
  return groups;
}

/** Lets messages in, so that a newer question is heard. */
function turn(): Promise<void> {
  return new Promise((done) => setTimeout(done, 0));
}

function tell(message: FleetMessage): void {
  self.postMessage(message);
}
