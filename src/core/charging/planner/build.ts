import { isLithium, socPercent } from '../../chemistry';
import { MINUTE_MS } from '../../measure';
import type { EquipmentId, Instant } from '../../measure';
import type { HouseRules } from '../../rules';
import { storageJob } from '../../storage';
import { adapterFor, channelLimits, CHARGER_EFFICIENCY, samePlug, sharedLimit } from '../equipment';
import type { Adapter, Board, Charger, Equipment, EquipmentFacts, ExternalLoad, Supply } from '../equipment';
import { groupsFor } from '../groups';
import { settingKey } from '../setting';
import type { ChargerSetting } from '../setting';
import { roundedDown } from '../chargeCurrent';
import type { Berth, JobKind, PlanInput, PlanPack } from './input';
import {
  allowedAmps,
  cellsOf,
  emptyCourse,
  fillCourse,
  levels,
  lowerCourse,
  lowest,
  modeFor,
  raiseCourse,
} from './modes';
import type { Course, Load } from './modes';
import { Timetable } from './timetable';
import type { Draw, Fixed, Mode, Occupied, Pool, Problem, Station, Store, Task, Window } from './problem';

/** A channel or a load as the plan names it. */
export interface StationFacts {
  readonly equipment: Equipment<Charger> | Equipment<ExternalLoad>;
  readonly channel: string | null;
  readonly limits: {
    readonly chargeA: number;
    readonly chargeW: number;
    readonly dischargeA: number;
    readonly dischargeW: number;
  };
}

/** What a mode of a task means outside the figures. */
export interface ModeFacts {
  readonly setting: ChargerSetting;
  readonly adapter: Equipment<Adapter> | null;
}

/** What a task of the problem is. */
export interface TaskFacts {
  readonly kind: JobKind;
  readonly packs: readonly PlanPack[];
  readonly board: Equipment<Board> | null;
  readonly modes: readonly ModeFacts[];
}

/** What stands in the way of a job before any search, the nearest miss: the furthest a charger got through the list. */
export const OBSTACLES = [
  'no-charger',
  'chemistry',
  'cells',
  'plug',
  'floor',
  'direction',
  'mode',
  'current',
  'too-long',
  'no-room',
] as const;
export type Obstacle = (typeof OBSTACLES)[number];

/** A pack for which nothing can be planned, and why. */
export interface Refused {
  readonly pack: PlanPack;
  readonly why:
    | NonNullable<PlanPack['bar']>
    | 'nobody-attends'
    | 'unknown-cells'
    | 'cell-in-the-way'
    | 'nothing-to-do'
    | Obstacle;
  /** The minutes the job would take, where it is only too long. */
  readonly minutes?: number;
}

export interface Built {
  readonly problem: Problem;
  readonly stations: readonly StationFacts[];
  readonly tasks: readonly TaskFacts[];
  readonly refused: readonly Refused[];
  /** Packs that would go onto a board and do not fill it. */
  readonly remainders: readonly { readonly board: Equipment<Board>; readonly packs: readonly PlanPack[] }[];
  readonly origin: Instant;
}

/** A pack must be full this long before its flight. */
export const READY_MINUTES = 20;
/** Between a discharge and the charge after it the pack rests. Source: the practice. */
const CYCLE_REST_MINUTES = 30;

/** The problem in figures that a plan's input poses, and what each of its numbers stands for. */
export function buildProblem(input: PlanInput): Built {
  const origin = Math.ceil(input.from / MINUTE_MS) * MINUTE_MS;
  const minute = (at: Instant) => (at - origin) / MINUTE_MS;
  const windows = mergedWindows(input, minute);
  const bench = benchOf(input.equipment, input);
  const longest = windows.reduce((most, { from, to }) => Math.max(most, to - from), 0);
  const refused: Refused[] = [];
  /** Packs no charger can do by themselves; a board may. */
  const alone: Refused[] = [];
  const tasks: Task[] = [];
  const facts: TaskFacts[] = [];
  const running = new Set(input.running.flatMap(({ packIds }) => packIds));
  const single = new Map<PlanPack, readonly number[]>();
  const maker = new TaskMaker(input.rules, bench);

  const add = (task: Task, fact: TaskFacts): number => {
    facts.push(fact);
    return tasks.push(task) - 1;
  };
  for (const pack of input.packs) {
    if (running.has(pack.id)) continue;
    const why = windows.length === 0 ? 'nobody-attends' : barOf(pack, input.rules);
    if (why) {
      refused.push({ pack, why });
      continue;
    }
    const made = planFor(pack, maker, longest, minute);
    if ('why' in made) alone.push(made);
    else {
      const first = tasks.length;
      single.set(
        pack,
        made.map(({ task, fact }, i) => add(i === 0 ? task : { ...task, after: first + i - 1 }, fact)),
      );
    }
  }
  const candidates = [...single.keys(), ...alone.map(({ pack }) => pack)];
  const remainders = addBoards(candidates, input.rules, bench, maker, single, longest, minute, add);
  refused.push(...alone.filter(({ pack }) => !single.has(pack)));
  const open: Problem = {
    windows,
    pools: bench.pools,
    stores: bench.stores,
    stations: bench.stations.map(({ station }) => station),
    boards: bench.boards.length,
    tasks,
    fixed: [],
    occupied: input.running.flatMap((job) => occupiedBy(job, bench, minute)),
  };
  const wanted = input.locked.flatMap((berth) => fixedAt(berth, minute, facts, tasks, bench, windows) ?? []);
  const problem = { ...open, fixed: thoseThatFit(open, wanted) };
  return {
    problem,
    stations: bench.stations.map(({ facts: one }) => one),
    tasks: facts,
    refused,
    remainders,
    origin,
  };
}

function barOf(pack: PlanPack, rules: HouseRules): Refused['why'] | null {
  if (pack.bar) return pack.bar;
  if (!isLithium(pack.chemistry)) return pack.need.do === 'fill' ? null : 'nothing-to-do';
  if (!pack.cellsMv) return 'unknown-cells';
  if (pack.need.do === 'store') {
    const facts = {
      chemistry: pack.chemistry,
      capacityMah: pack.capacityAh * 1000,
      chargeC: pack.chargeC,
      series: pack.series,
    };
    const job = storageJob(facts, pack.cellsMv, rules);
    if (job?.inTheWay) return 'cell-in-the-way';
    if (!job || job.chargeAh <= 0) return 'nothing-to-do';
  }
  return null;
}

/** Spans of attendance that touch or overlap are one: the bench is handed over. Whole minutes, and none that is over. */
export function mergedWindows(
  { attended }: Pick<PlanInput, 'attended'>,
  minute: (at: Instant) => number,
): Window[] {
  const spans = attended
    .map(({ from, to }) => ({ from: Math.max(0, Math.ceil(minute(from))), to: Math.floor(minute(to)) }))
    .filter(({ from, to }) => to > from)
    .sort((a, b) => a.from - b.from);
  const merged: { from: number; to: number }[] = [];
  for (const span of spans) {
    const last = merged.at(-1);
    if (last && span.from <= last.to) last.to = Math.max(last.to, span.to);
    else merged.push({ ...span });
  }
  return merged;
}

interface Bench {
  readonly stations: readonly {
    readonly station: Station;
    readonly facts: StationFacts;
    readonly pools: readonly PoolShare[];
    readonly stores: readonly StoreShare[];
  }[];
  readonly pools: readonly Pool[];
  readonly stores: readonly Store[];
  readonly boards: readonly Equipment<Board>[];
  readonly adapters: readonly Equipment<Adapter>[];
  /** Pools whose stations could ask for more than there is. */
  readonly short: ReadonlySet<number>;
  readonly settingNumber: (setting: ChargerSetting) => number;
}

/** A pool a station draws on, and how much of the pool a watt or amp at its output costs. */
interface PoolShare {
  readonly pool: number;
  readonly factor: number;
}

interface StoreShare {
  readonly store: number;
  readonly factor: number;
}

function benchOf(equipment: readonly Equipment[], { lastSettings }: PlanInput): Bench {
  const inUse = equipment.filter((one) => one.inUse);
  const of = <Facts extends EquipmentFacts>(kind: Facts['kind']) =>
    inUse.filter((one) => one.facts.kind === kind) as unknown as Equipment<Facts>[];
  const settings = new Map<string, number>();
  const settingNumber = (setting: ChargerSetting) => {
    const key = settingKey(setting);
    if (!settings.has(key)) settings.set(key, settings.size);
    return settings.get(key)!;
  };
  const pools: Pool[] = [];
  const stores: Store[] = [];
  const supplyPools = new Map<EquipmentId, PoolShare>();
  const supplyStores = new Map<EquipmentId, StoreShare>();
  for (const { id, facts } of of<Supply>('supply')) {
    if (facts.watts !== null)
      supplyPools.set(id, {
        pool: pools.push({ unit: 'W', cap: facts.watts }) - 1,
        factor: 1 / CHARGER_EFFICIENCY,
      });
    if (facts.energyWh !== null)
      supplyStores.set(id, {
        store: stores.push({ wh: facts.energyWh }) - 1,
        factor: 1 / CHARGER_EFFICIENCY,
      });
  }
  const supplies = new Map(of<Supply>('supply').map((supply) => [supply.id, supply]));
  const classes = new Map<string, number>();
  const stations: Bench['stations'][number][] = [];
  const klassOf = (key: string) => {
    if (!classes.has(key)) classes.set(key, classes.size);
    return classes.get(key)!;
  };
  for (const charger of of<Charger>('charger')) {
    const supply = charger.facts.supplyId === null ? null : (supplies.get(charger.facts.supplyId) ?? null);
    const kind = supply?.facts.supply ?? 'mains';
    const shared = sharedLimit(charger.facts, kind);
    const shares: PoolShare[] = [];
    if (shared?.split === 'pool') {
      if (shared.watts !== null)
        shares.push({ pool: pools.push({ unit: 'W', cap: shared.watts }) - 1, factor: 1 });
      if (shared.amps !== null)
        shares.push({ pool: pools.push({ unit: 'A', cap: shared.amps }) - 1, factor: 1 });
    }
    if (supply && supplyPools.has(supply.id)) shares.push(supplyPools.get(supply.id)!);
    const fromStores = supply && supplyStores.has(supply.id) ? [supplyStores.get(supply.id)!] : [];
    for (const channel of charger.facts.channels) {
      if (channel.outOfOrder) continue;
      const limits = channelLimits(charger.facts, channel, kind);
      // A supply that takes charge back lets a channel lower a pack faster than its own load can.
      const backW = supply?.facts.takesBackW ?? 0;
      const all = {
        chargeA: limits.amps,
        chargeW: limits.watts,
        dischargeA: channel.dischargeA ?? 0,
        dischargeW: channel.dischargeA === null ? 0 : Math.max(channel.dischargeW ?? 0, backW),
      };
      const last = lastSettings.find(
        ({ equipmentId, channel: key }) => equipmentId === charger.id && key === channel.key,
      );
      stations.push({
        station: {
          klass: klassOf(`${charger.id} ${JSON.stringify(all)}`),
          lastSetting: last ? settingNumber(last.setting) : -1,
        },
        facts: { equipment: charger, channel: channel.key, limits: all },
        pools: shares,
        stores: fromStores,
      });
    }
  }
  for (const load of of<ExternalLoad>('load')) {
    const limits = { chargeA: 0, chargeW: 0, dischargeA: load.facts.amps, dischargeW: load.facts.watts };
    stations.push({
      station: { klass: klassOf(`${load.id}`), lastSetting: -1 },
      facts: { equipment: load, channel: null, limits },
      pools: [],
      stores: [],
    });
  }
  const short = new Set(
    pools.flatMap(({ unit, cap }, pool) => {
      const asked = stations.reduce((sum, one) => {
        const share = one.pools.find((each) => each.pool === pool);
        return (
          sum +
          (share ? share.factor * (unit === 'W' ? one.facts.limits.chargeW : one.facts.limits.chargeA) : 0)
        );
      }, 0);
      return asked > cap ? [pool] : [];
    }),
  );
  return {
    stations,
    pools,
    stores,
    boards: of<Board>('board'),
    adapters: of<Adapter>('adapter'),
    short,
    settingNumber,
  };
}

/** A taper is not reckoned on to the minute: its draw may fall by this much later. A plan with more of it wastes the pool. */
const LATE_MINUTES = 1;

/** Makes the modes of a load on every class of station, or says how near the nearest came. */
class TaskMaker {
  constructor(
    readonly rules: HouseRules,
    readonly bench: Bench,
  ) {}

  modes(
    load: Load,
    kind: JobKind,
    board: Equipment<Board> | null,
  ): { readonly modes: Mode[]; readonly facts: ModeFacts[]; readonly obstacle: Obstacle } {
    const modes: Mode[] = [];
    const facts: ModeFacts[] = [];
    let obstacle: Obstacle = 'no-charger';
    const seen = new Set<number>();
    for (const { station, facts: at, pools, stores } of this.bench.stations) {
      if (seen.has(station.klass)) continue;
      seen.add(station.klass);
      const fit = this.#fit(load, kind, board, at);
      if (typeof fit === 'string') {
        if (OBSTACLES.indexOf(fit) > OBSTACLES.indexOf(obstacle)) obstacle = fit;
        continue;
      }
      const short = pools.some(({ pool }) => this.bench.short.has(pool));
      const courses = this.#courses(load, kind, at, short);
      if (courses.length === 0) obstacle = later(obstacle, 'current');
      for (const course of courses) {
        modes.push({
          klass: station.klass,
          amps: course.setting.amps,
          minutes: course.minutes,
          draws: pools.map(({ pool, factor }) => this.#draw(pool, factor, course)),
          energy: stores.map(({ store, factor }) => ({
            store,
            wh: (course.watts.reduce((sum, one) => sum + one, 0) / 60) * factor,
          })),
          setting: this.bench.settingNumber(course.setting),
          board: board ? this.bench.boards.indexOf(board) : -1,
        });
        facts.push({ setting: course.setting, adapter: fit.adapter });
      }
    }
    return { modes, facts, obstacle };
  }

  /**
   * What a pool must keep for a course: at each minute the most of the minutes from LATE_MINUTES before it on, so that a taper that
   * begins a little later than reckoned passes nothing, nor a job that ends in the middle of its last minute.
   */
  #draw(pool: number, factor: number, { watts, amps }: Course): Draw {
    const asked = this.bench.pools[pool]!.unit === 'W' ? watts : amps;
    const perMinute = Float64Array.from(asked, (_, i) => asked[Math.max(0, i - LATE_MINUTES)]! * factor);
    for (let i = perMinute.length - 2; i >= 0; i--) perMinute[i] = Math.max(perMinute[i]!, perMinute[i + 1]!);
    return { pool, perMinute };
  }

  #fit(
    load: Load,
    kind: JobKind,
    board: Equipment<Board> | null,
    { equipment, limits }: StationFacts,
  ): { adapter: Equipment<Adapter> | null } | Obstacle {
    const pack = load.packs[0]!;
    const takesOut = kind === 'lower' || kind === 'discharge';
    const { facts } = equipment;
    const plug = adapterFor(facts.connectors, board ? board.facts.lead : pack.connector, this.bench.adapters);
    if (facts.kind === 'load') {
      if (!takesOut) return 'direction';
      if (board) return 'plug';
      return plug === null ? 'plug' : { adapter: plug === 'direct' ? null : plug };
    }
    const cells = facts.cells[pack.chemistry];
    if (!cells) return 'chemistry';
    const wanted = cellsOf(load);
    if (wanted < cells.least || wanted > cells.most) return 'cells';
    if (plug === null) return 'plug';
    if (
      !takesOut &&
      facts.floorMv !== null &&
      isLithium(pack.chemistry) &&
      load.packs.some((one) => lowest(one) < facts.floorMv!)
    )
      return 'floor';
    if (takesOut && (limits.dischargeA <= 0 || limits.dischargeW <= 0)) return 'direction';
    if (kind !== 'charge' && modeFor(kind, facts) === null) return 'direction';
    return { adapter: plug === 'direct' ? null : plug };
  }

  #courses(
    load: Load,
    kind: JobKind,
    { equipment: { facts }, limits }: StationFacts,
    short: boolean,
  ): Course[] {
    const allowed = allowedAmps(load, this.rules);
    const found = (course: Course | null) => (course ? [course] : []);
    if (facts.kind === 'load') {
      const most = { amps: Math.min(facts.amps, capacityLimit(load)), watts: facts.watts };
      return found(
        kind === 'lower'
          ? lowerCourse(load, most, 'discharge', this.rules)
          : emptyCourse(load, most, this.rules),
      );
    }
    const own = facts.storageA;
    switch (kind) {
      case 'charge':
        return levels(Math.min(allowed, limits.chargeA), facts, short).flatMap((amps) =>
          found(fillCourse(load, amps, limits.chargeW, facts, this.rules)),
        );
      case 'raise':
        return levels(Math.min(allowed, limits.chargeA, own ?? Infinity), facts, short).flatMap((amps) =>
          found(raiseCourse(load, amps, limits.chargeW, this.rules)),
        );
      case 'lower':
      case 'discharge': {
        const mode = modeFor(kind, facts)!;
        const most = Math.min(
          limits.dischargeA,
          capacityLimit(load),
          mode === 'storage' ? (own ?? Infinity) : Infinity,
        );
        const amps = roundedDown(most, facts.stepA);
        if (amps < facts.leastA || amps <= 0) return [];
        const out = { amps, watts: limits.dischargeW };
        return found(
          kind === 'lower' ? lowerCourse(load, out, mode, this.rules) : emptyCourse(load, out, this.rules),
        );
      }
      default:
        return kind satisfies never;
    }
  }
}

/** A pack is discharged at no more than 1C on the bench. */
function capacityLimit({ packs, board }: Load): number {
  const each = packs.map(({ capacityAh }) => capacityAh);
  return board?.wiring === 'parallel' ? each.reduce((sum, one) => sum + one, 0) : Math.min(...each);
}

function later(one: Obstacle, other: Obstacle): Obstacle {
  return OBSTACLES.indexOf(one) > OBSTACLES.indexOf(other) ? one : other;
}

interface MadeTask {
  readonly task: Task;
  readonly fact: TaskFacts;
}

function kindsOf(pack: PlanPack, rules: HouseRules): readonly JobKind[] {
  switch (pack.need.do) {
    case 'fill':
      return ['charge'];
    case 'store':
      return [directionOf(pack, rules)];
    case 'cycle':
      return ['discharge', 'charge'];
    default:
      return pack.need satisfies never;
  }
}

function directionOf(pack: PlanPack, rules: HouseRules): JobKind {
  const facts = {
    chemistry: pack.chemistry,
    capacityMah: pack.capacityAh * 1000,
    chargeC: pack.chargeC,
    series: pack.series,
  };
  return storageJob(facts, pack.cellsMv!, rules)!.direction === 'charge' ? 'raise' : 'lower';
}

function planFor(
  pack: PlanPack,
  maker: TaskMaker,
  longest: number,
  minute: (at: Instant) => number,
): MadeTask[] | Refused {
  const made: MadeTask[] = [];
  for (const kind of kindsOf(pack, maker.rules)) {
    // What is charged after it was emptied begins from there, not from what it holds now.
    const before = kind === 'charge' && made.length > 0 ? emptied(pack, maker.rules) : pack;
    const load = { packs: [before], board: null };
    const { modes, facts, obstacle } = maker.modes(load, kind, null);
    if (modes.length === 0) return { pack, why: obstacle };
    const least = Math.min(...modes.map(({ minutes }) => minutes));
    if (least > longest) return { pack, why: 'too-long', minutes: least };
    const fitting = modes.flatMap((mode, i) => (mode.minutes <= longest ? [i] : []));
    made.push({
      task: taskOf(
        [pack],
        fitting.map((i) => modes[i]!),
        made.length > 0 ? CYCLE_REST_MINUTES : 0,
        kind,
        minute,
      ),
      fact: { kind, packs: [pack], board: null, modes: fitting.map((i) => facts[i]!) },
    });
  }
  return made;
}

function emptied(pack: PlanPack, rules: HouseRules): PlanPack {
  if (!isLithium(pack.chemistry)) return pack;
  const down =
    socPercent(pack.chemistry, lowest(pack)) -
    socPercent(pack.chemistry, rules.floors[pack.chemistry].rechargeSoonMv);
  if (down <= 0) return pack;
  return { ...pack, cellsMv: pack.cellsMv!.map(() => rules.floors[pack.chemistry].rechargeSoonMv) };
}

function taskOf(
  packs: readonly PlanPack[],
  modes: readonly Mode[],
  gap: number,
  kind: JobKind,
  minute: (at: Instant) => number,
): Task {
  const needs = packs.map(({ need }) => need);
  const flights = needs.flatMap((need) => (need.do === 'fill' ? [minute(need.flightAt)] : []));
  const dues = needs.flatMap((need) =>
    need.do === 'store' && need.dueAt !== null ? [minute(need.dueAt)] : [],
  );
  const release = Math.max(0, ...packs.map(({ freeFrom }) => Math.ceil(minute(freeFrom))));
  const due = Math.min(Infinity, ...dues);
  const flight = kind === 'charge' && flights.length > 0 ? Math.min(...flights) : Number.NaN;
  const quickest = Math.min(...modes.map(({ minutes }) => minutes));
  return {
    packs: packs.length,
    release,
    // An hour nobody can meet any more is no wish; the job is done as soon as can be all the same.
    due: release + quickest > due ? Infinity : due,
    flight,
    ready: flight - READY_MINUTES,
    underFloor: needs.some((need) => need.do === 'store' && need.underFloor),
    after: -1,
    gap,
    modes,
    replaces: [],
  };
}

/** Adds the loads of every board as tasks of their own, which stand for those of their packs. */
function addBoards(
  packs: readonly PlanPack[],
  rules: HouseRules,
  bench: Bench,
  maker: TaskMaker,
  single: Map<PlanPack, readonly number[]>,
  longest: number,
  minute: (at: Instant) => number,
  add: (task: Task, fact: TaskFacts) => number,
): Built['remainders'] {
  const remainders: { board: Equipment<Board>; packs: readonly PlanPack[] }[] = [];
  for (const board of bench.boards) {
    const byNeed = new Map<string, PlanPack[]>();
    for (const pack of packs) {
      const [kind, ...more] = kindsOf(pack, rules);
      if (!isLithium(pack.chemistry) || more.length > 0) continue;
      if (kind === 'discharge' || (kind === 'lower' && board.facts.wiring === 'series')) continue;
      if (board.facts.wiring === 'series' && pack.series !== 1) continue;
      const { connector } = board.facts;
      if (connector !== null && pack.connector !== null && !samePlug(connector, pack.connector)) continue;
      const flight = pack.need.do === 'fill' ? pack.need.flightAt : 0;
      const key = `${pack.typeId} ${kind} ${flight}`;
      byNeed.set(key, [...(byNeed.get(key) ?? []), pack]);
    }
    for (const alike of byNeed.values()) {
      const joinable = alike.map((pack) => ({
        pack,
        chemistry: pack.chemistry,
        series: pack.series,
        mv: meanMv(pack),
      }));
      const { groups, remainder } = groupsFor(board.facts, joinable);
      if (remainder.length > 0 && board.facts.wiring === 'series')
        remainders.push({ board, packs: remainder.map(({ pack }) => pack) });
      for (const group of groups) {
        const loaded = group.map(({ pack }) => pack);
        const kind = kindsOf(loaded[0]!, rules)[0]!;
        const { modes, facts } = maker.modes({ packs: loaded, board: board.facts }, kind, board);
        const fitting = modes.flatMap((mode, i) => (mode.minutes <= longest ? [i] : []));
        if (fitting.length === 0) continue;
        // What only a board can do has a task that finds no place by itself.
        for (const pack of loaded)
          if (!single.has(pack))
            single.set(pack, [
              add(taskOf([pack], [], 0, kind, minute), { kind, packs: [pack], board: null, modes: [] }),
            ]);
        const replaces = loaded.flatMap((pack) => single.get(pack)!);
        const task = taskOf(
          loaded,
          fitting.map((i) => modes[i]!),
          0,
          kind,
          minute,
        );
        add({ ...task, replaces }, { kind, packs: loaded, board, modes: fitting.map((i) => facts[i]!) });
      }
    }
  }
  return remainders;
}

function meanMv({ cellsMv }: PlanPack): number {
  return Math.round(cellsMv!.reduce((sum, mv) => sum + mv, 0) / cellsMv!.length);
}

/** Where a locked job stands in the figures; null where it can no longer stand there. */
function fixedAt(
  { packIds, do: kind, equipmentId, channel, boardId, amps, start }: Berth,
  minute: (at: Instant) => number,
  facts: readonly TaskFacts[],
  tasks: readonly Task[],
  bench: Bench,
  windows: readonly Window[],
): Fixed | null {
  const station = bench.stations.findIndex(
    ({ facts: one }) => one.equipment.id === equipmentId && one.channel === channel,
  );
  const task = facts.findIndex(
    (one) =>
      one.kind === kind &&
      (one.board?.id ?? null) === boardId &&
      one.packs.length === packIds.length &&
      one.packs.every(({ id }) => packIds.includes(id)),
  );
  if (station < 0 || task < 0) return null;
  const { klass } = bench.stations[station]!.station;
  const ways = tasks[task]!.modes.flatMap((one, i) => (one.klass === klass ? [{ i, ...one }] : []));
  // Moved to another channel, a job takes the most that channel gives.
  const mode = (ways.find((one) => one.amps === amps) ?? ways.sort((a, b) => b.amps - a.amps)[0])?.i ?? -1;
  const from = Math.round(minute(start));
  const to = from + (tasks[task]!.modes[mode]?.minutes ?? 0);
  const attended = windows.some((window) => from >= window.from && to <= window.to);
  return mode < 0 || !attended || from < tasks[task]!.release ? null : { task, mode, station, start: from };
}

/** Locked jobs that still stand beside each other; one that no longer fits is planned anew like any other. */
function thoseThatFit(problem: Problem, wanted: readonly Fixed[]): Fixed[] {
  const timetable = new Timetable(problem);
  return wanted.filter(({ task, mode, station, start }) => {
    const { modes, after, gap, replaces } = problem.tasks[task]!;
    const way = modes[mode]!;
    if (timetable.placed[task] || replaces.some((one) => timetable.placed[one])) return false;
    const before = after < 0 ? null : timetable.placed[after];
    if (after >= 0 && (!before || before.end + gap > start)) return false;
    if (timetable.earliest(way, station, start, start + way.minutes) !== start) return false;
    timetable.put({ task, mode: way, station, start });
    return true;
  });
}

function occupiedBy(
  job: PlanInput['running'][number],
  bench: Bench,
  minute: (at: Instant) => number,
): Occupied[] {
  const station = bench.stations.findIndex(
    ({ facts }) => facts.equipment.id === job.equipmentId && facts.channel === job.channel,
  );
  if (station < 0) return [];
  const to = Math.max(1, Math.ceil(minute(job.end)));
  const { pools, facts } = bench.stations[station]!;
  const charges = job.do === 'charge' || job.do === 'raise';
  // What it draws is no more than its channel gives; how far its taper has come is not known here.
  const draws = charges
    ? pools.map(({ pool, factor }) => {
        const most = bench.pools[pool]!.unit === 'W' ? Math.min(facts.limits.chargeW, job.peakW) : job.amps;
        return { pool, perMinute: new Float64Array(to).fill(most * factor) };
      })
    : [];
  const board = bench.boards.findIndex(({ id }) => id === job.boardId);
  return [{ station, board, from: 0, to, draws }];
}
