import { CHEMISTRY, isLithium, restMv, socPercent } from '../chemistry';
import { MINUTE_MS } from '../measure';
import type { Instant } from '../measure';
import type { HouseRules } from '../rules';
import type { Adapter, Board, Charger, Equipment, ExternalLoad, SharedLimit, Supply } from './equipment';
import type { Attended, PlanInput, PlanPack } from './planner/input';
import type { PlannedJob } from './planner/plan';

/** What a plan is held against: its input, and nothing of how it was made. */
type Given = Pick<PlanInput, 'from' | 'equipment' | 'attended' | 'packs' | 'running' | 'rules'>;

/** What is held against the limits of one job: a planned one, or any that a person put there. */
export type CheckedJob = Pick<
  PlannedJob,
  'do' | 'equipmentId' | 'channel' | 'boardId' | 'adapterId' | 'setting' | 'start' | 'end'
> & { readonly packs: readonly { readonly id: PlanPack['id']; readonly tag: string }[] };

/**
 * Every hard limit a plan breaks, as sentences; empty for a sound one. Written without the planner's code: it goes through the plan
 * minute by minute with physics of its own, so that a mistake of the planner is not made twice.
 */
export function planFaults(given: Given, jobs: readonly CheckedJob[]): string[] {
  return [
    ...jobs.flatMap((job) => [
      ...whoFaults(given, job),
      ...whenFaults(given, job),
      ...benchFaults(given, job),
      ...currentFaults(given, job),
      ...boardFaults(given, job),
      ...lengthFaults(given, job),
    ]),
    ...twiceFaults(jobs),
    ...overlapFaults(given, jobs),
    ...powerFaults(given, jobs),
  ];
}

function name(job: CheckedJob): string {
  return `${job.do} of ${job.packs.map(({ tag }) => tag).join(' + ')}`;
}

function packsOf({ packs }: Given, job: CheckedJob): PlanPack[] {
  return job.packs.flatMap(({ id }) => packs.find((pack) => pack.id === id) ?? []);
}

/** Nothing held, uninspected or unmeasured; nothing that is not wanted. */
function whoFaults(given: Given, job: CheckedJob): string[] {
  const packs = packsOf(given, job);
  return [
    ...(packs.length === job.packs.length && packs.length > 0
      ? []
      : [`${name(job)}: a pack nobody asked for`]),
    ...packs
      .filter(({ bar }) => bar !== null)
      .map(({ tag, bar }) => `${name(job)}: ${tag} is barred (${bar})`),
    ...packs
      .filter(({ chemistry, cellsMv }) => isLithium(chemistry) && cellsMv === null)
      .map(({ tag }) => `${name(job)}: nobody knows what ${tag} holds`),
    ...packs
      .filter(({ need }) => (need.do === 'store') !== (job.do === 'raise' || job.do === 'lower'))
      .map(({ tag, need }) => `${name(job)}: ${tag} wants ${need.do}`),
  ];
}

/** Attended from its first minute to its last, the pack cooled, and full in time for its flight. */
function whenFaults(given: Given, job: CheckedJob): string[] {
  const packs = packsOf(given, job);
  const faults: string[] = [];
  if (job.start < given.from) faults.push(`${name(job)}: begins before now`);
  if (!(job.end > job.start)) faults.push(`${name(job)}: ends before it begins`);
  for (let at = job.start; at < job.end; at += MINUTE_MS) {
    if (isAttended(given.attended, at) && isAttended(given.attended, Math.min(job.end, at + MINUTE_MS) - 1))
      continue;
    faults.push(`${name(job)}: nobody attends at minute ${(at - job.start) / MINUTE_MS}`);
    break;
  }
  for (const { tag, freeFrom, need } of packs) {
    if (job.start < freeFrom) faults.push(`${name(job)}: ${tag} has not cooled`);
    if (need.do === 'fill' && job.do === 'charge' && job.end > need.flightAt - 20 * MINUTE_MS)
      faults.push(`${name(job)}: ${tag} is not ready 20 minutes before its flight`);
  }
  return faults;
}

function isAttended(attended: readonly Attended[], at: Instant): boolean {
  return attended.some(({ from, to }) => from <= at && at < to);
}

type Output = Equipment<Charger> | Equipment<ExternalLoad>;

function outputOf({ equipment }: Given, { equipmentId }: Pick<CheckedJob, 'equipmentId'>): Output | null {
  const found = equipment.find(({ id, inUse }) => id === equipmentId && inUse);
  return found && (found.facts.kind === 'charger' || found.facts.kind === 'load') ? (found as Output) : null;
}

function boardOf({ equipment }: Given, { boardId }: Pick<CheckedJob, 'boardId'>): Board | null {
  const found = equipment.find(({ id, inUse }) => id === boardId && inUse)?.facts;
  return found?.kind === 'board' ? found : null;
}

/** The channel works, takes the chemistry, the cells, the plug and the lowest cell, and can go that way. */
function benchFaults(given: Given, job: CheckedJob): string[] {
  const output = outputOf(given, job);
  if (!output) return [`${name(job)}: its charger is not on the bench`];
  const packs = packsOf(given, job);
  const board = boardOf(given, job);
  const faults: string[] = [];
  const plug = board ? board.lead : (packs[0]?.connector ?? null);
  const adapter = given.equipment.find(({ id, inUse }) => id === job.adapterId && inUse)?.facts as
    Adapter | undefined;
  const sockets = output.facts.connectors.map(plain);
  if (plug !== null && sockets.length > 0 && !sockets.includes(plain(plug))) {
    const leads = adapter && sockets.includes(plain(adapter.from)) && plain(adapter.to) === plain(plug);
    if (!leads) faults.push(`${name(job)}: its plug does not fit`);
  }
  const takesOut = job.do === 'lower' || job.do === 'discharge';
  if (output.facts.kind === 'load')
    return takesOut ? faults : [...faults, `${name(job)}: a load cannot charge`];
  const { facts } = output;
  const channel = facts.channels.find(({ key }) => key === job.channel);
  if (!channel || channel.outOfOrder) faults.push(`${name(job)}: its channel does not work`);
  const { setting } = job;
  const range = facts.cells[setting.chemistry];
  if (!range || setting.cells < range.least || setting.cells > range.most)
    faults.push(`${name(job)}: the charger cannot be set to ${setting.cells} cells of ${setting.chemistry}`);
  if (packs.some(({ chemistry }) => chemistry !== setting.chemistry))
    faults.push(`${name(job)}: set to another chemistry`);
  const cells = board?.wiring === 'series' ? packs.length : packs[0]?.series;
  if (setting.cells !== cells) faults.push(`${name(job)}: set to ${setting.cells} cells, has ${cells}`);
  const { fullMv } = CHEMISTRY[setting.chemistry];
  if (!takesOut && fullMv !== null && (setting.topMv === null || setting.topMv > fullMv))
    faults.push(`${name(job)}: its top is above full`);
  if (!facts.modes.includes(setting.mode))
    faults.push(`${name(job)}: the charger has no ${setting.mode} mode`);
  if (takesOut && channel && (channel.dischargeA ?? 0) <= 0)
    faults.push(`${name(job)}: the channel cannot discharge`);
  if (setting.mode === 'storage') {
    const ways = facts.storage === 'both' ? ['raise', 'lower'] : [facts.storage];
    if (!ways.includes(job.do)) faults.push(`${name(job)}: its storage mode does not go that way`);
  }
  const lowestMv = Math.min(...packs.flatMap(({ cellsMv }) => cellsMv ?? []));
  if (!takesOut && facts.floorMv !== null && isLithium(setting.chemistry) && lowestMv < facts.floorMv)
    faults.push(`${name(job)}: a cell is below the charger's floor`);
  const many = setting.cells > 1 && isLithium(setting.chemistry);
  if (job.do === 'charge' && setting.mode === 'fast' && many && packs.some(({ balanceDue }) => balanceDue))
    faults.push(`${name(job)}: its cells are to be balanced`);
  return faults;
}

function plain(text: string): string {
  return text.trim().toLowerCase();
}

/** On the charger's step, at or under the rates of house and label, the channel's amps, and 1C of a discharge. */
function currentFaults(given: Given, job: CheckedJob): string[] {
  const output = outputOf(given, job);
  const packs = packsOf(given, job);
  if (!output || packs.length === 0) return [];
  const { amps } = job.setting;
  const faults: string[] = [];
  const takesOut = job.do === 'lower' || job.do === 'discharge';
  const { homeC, afterRestC } = given.rules.charge;
  const rates = packs.map((pack) => {
    const ah = Math.min(pack.labelAh, pack.capacityAh);
    return takesOut
      ? pack.capacityAh
      : ah * Math.min(pack.gently ? Math.min(homeC, afterRestC) : homeC, pack.chargeC ?? 1);
  });
  const most =
    boardOf(given, job)?.wiring === 'parallel' ? rates.reduce((a, b) => a + b, 0) : Math.min(...rates);
  if (amps > most + 1e-6) faults.push(`${name(job)}: ${amps} A is more than ${most.toFixed(2)} A`);
  if (output.facts.kind === 'charger') {
    const { stepA, leastA, channels } = output.facts;
    if (Math.abs(amps / stepA - Math.round(amps / stepA)) > 1e-6)
      faults.push(`${name(job)}: ${amps} A is not on the step`);
    if (amps < leastA) faults.push(`${name(job)}: ${amps} A is below the charger's least`);
    const channel = channels.find(({ key }) => key === job.channel);
    const gives = takesOut ? (channel?.dischargeA ?? 0) : (channel?.chargeA ?? 0);
    if (amps > gives + 1e-6) faults.push(`${name(job)}: the channel does no more than ${gives} A`);
  }
  return faults;
}

/** Alike and near enough; a series board is full. */
function boardFaults(given: Given, job: CheckedJob): string[] {
  const packs = packsOf(given, job);
  if (job.boardId === null) return packs.length > 1 ? [`${name(job)}: several packs and no board`] : [];
  const board = boardOf(given, job);
  if (!board) return [`${name(job)}: its board is not on the bench`];
  const faults: string[] = [];
  const [first] = packs;
  if (packs.some((pack) => pack.chemistry !== first!.chemistry || pack.series !== first!.series))
    faults.push(`${name(job)}: unlike packs on one board`);
  const port = board.connector;
  if (packs.some(({ connector }) => port !== null && connector !== null && plain(connector) !== plain(port)))
    faults.push(`${name(job)}: a plug does not fit the board`);
  if (packs.length > board.ports) faults.push(`${name(job)}: more packs than ports`);
  if (board.wiring === 'series' && packs.length !== board.ports) faults.push(`${name(job)}: a port is empty`);
  if (board.wiring === 'series' && packs.some(({ series }) => series !== 1))
    faults.push(`${name(job)}: not single cells`);
  const volts = packs.map(({ cellsMv }) => Math.round(cellsMv!.reduce((a, b) => a + b, 0) / cellsMv!.length));
  if (Math.max(...volts) - Math.min(...volts) > board.toleranceMv)
    faults.push(`${name(job)}: too far apart for the board`);
  return faults;
}

/** A pack has one job, but for the two of a cycle, with a rest between them. */
function twiceFaults(jobs: readonly CheckedJob[]): string[] {
  const by = new Map<string, CheckedJob[]>();
  for (const job of jobs) for (const { id } of job.packs) by.set(id, [...(by.get(id) ?? []), job]);
  return [...by.values()].flatMap((own) => {
    if (own.length < 2)
      return own[0]!.do === 'discharge' ? [`${name(own[0]!)}: emptied and not charged again`] : [];
    const [first, second] = [...own].sort((a, b) => a.start - b.start);
    if (own.length > 2 || first!.do !== 'discharge' || second!.do !== 'charge')
      return [`${name(first!)}: planned twice`];
    return second!.start < first!.end + 30 * MINUTE_MS
      ? [`${name(second!)}: no rest after its discharge`]
      : [];
  });
}

/** One job at a time on a channel, a load and a board, what runs already included. */
function overlapFaults(given: Given, jobs: readonly CheckedJob[]): string[] {
  const spans = [
    ...jobs.map((job) => ({ ...job, what: name(job) })),
    ...given.running.map((job) => ({ ...job, start: given.from, what: 'a running job' })),
  ];
  return spans.flatMap((one, i) =>
    spans.slice(i + 1).flatMap((other) => {
      const clash = one.start < other.end && other.start < one.end;
      const sameChannel = one.equipmentId === other.equipmentId && one.channel === other.channel;
      const sameBoard = one.boardId !== null && one.boardId === other.boardId;
      return clash && (sameChannel || sameBoard) ? [`${one.what} and ${other.what} at once`] : [];
    }),
  );
}

/** A job as the watts and amps it really draws in each minute. */
interface Drawing {
  readonly job: CheckedJob;
  readonly charger: Equipment<Charger>;
  readonly watts: readonly number[];
  readonly amps: readonly number[];
}

/** Nowhere more than a channel alone, a charger's shared limit, or a supply gives; and no more in all than a supply holds. */
function powerFaults(given: Given, jobs: readonly CheckedJob[]): string[] {
  const drawing = jobs.flatMap((job): Drawing[] => {
    const output = outputOf(given, job);
    if (output?.facts.kind !== 'charger' || job.do === 'lower' || job.do === 'discharge') return [];
    const charger = output as Equipment<Charger>;
    return [{ job, charger, ...drawn(given, job, charger) }];
  });
  const faults: string[] = [];
  const check = (
    what: string,
    those: readonly Drawing[],
    unit: 'watts' | 'amps',
    cap: number,
    factor: number,
  ) => {
    const perMinute = new Map<number, number>();
    for (const { job, [unit]: values } of those) {
      const first = Math.round((job.start - given.from) / MINUTE_MS);
      values.forEach((value, i) =>
        perMinute.set(first + i, (perMinute.get(first + i) ?? 0) + value * factor),
      );
    }
    const most = Math.max(0, ...perMinute.values());
    // Its own physics are not the planner's; two parts in a hundred are the difference between the two.
    if (most > cap * 1.02 + 0.5) faults.push(`${what}: ${most.toFixed(1)} of ${cap} ${unit} at once`);
  };
  const chargers = [...new Set(drawing.map(({ charger }) => charger))];
  for (const charger of chargers) {
    const those = drawing.filter((one) => one.charger === charger);
    const limit = charger.facts.shared.find(({ supply }) => supply === supplyOf(given, charger)) ?? null;
    if (limit?.split === 'pool' && limit.watts !== null) check(charger.name, those, 'watts', limit.watts, 1);
    if (limit?.split === 'pool' && limit.amps !== null) check(charger.name, those, 'amps', limit.amps, 1);
    for (const one of those) {
      const channel = charger.facts.channels.find(({ key }) => key === one.job.channel);
      if (channel) check(name(one.job), [one], 'watts', channelWatts(charger, channel.chargeW, limit), 1);
    }
  }
  for (const { id, facts, name: called } of given.equipment) {
    if (facts.kind !== 'supply') continue;
    const those = drawing.filter(({ charger }) => charger.facts.supplyId === id);
    if (facts.watts !== null) check(called, those, 'watts', facts.watts, 1 / 0.88);
    const wh = those.reduce((sum, { watts }) => sum + watts.reduce((a, b) => a + b, 0) / 60 / 0.88, 0);
    if (facts.energyWh !== null && wh > facts.energyWh * 1.02 + 0.5)
      faults.push(`${called}: ${wh.toFixed(0)} Wh of ${facts.energyWh}`);
  }
  return faults;
}

function supplyOf({ equipment }: Given, { facts }: Equipment<Charger>): Supply['supply'] {
  const supply = equipment.find(({ id, inUse }) => id === facts.supplyId && inUse)?.facts;
  return supply?.kind === 'supply' ? supply.supply : 'mains';
}

function channelWatts({ facts }: Equipment<Charger>, own: number, limit: SharedLimit | null): number {
  if (!limit) return own;
  if (limit.split === 'shares') return Math.min(own, (limit.watts ?? Infinity) / facts.channels.length);
  return Math.min(own, limit.aloneW ?? Infinity, limit.watts ?? Infinity);
}

/** A charge followed in half minutes: one cell that stands for all, its current held by the set amps, the watts and the top. */
function drawn(given: Given, job: CheckedJob, charger: Equipment<Charger>): Pick<Drawing, 'watts' | 'amps'> {
  const { chemistry, cells, topMv, amps: set } = job.setting;
  const minutes = Math.round((job.end - job.start) / MINUTE_MS);
  const channel = charger.facts.channels.find(({ key }) => key === job.channel);
  const limit = charger.facts.shared.find(({ supply }) => supply === supplyOf(given, charger)) ?? null;
  const mostW = channel ? channelWatts(charger, channel.chargeW, limit) : 0;
  if (!isLithium(chemistry)) {
    const volts = (cells * 1_500) / 1000;
    const amps = Math.min(set, mostW / volts);
    return {
      watts: Array.from({ length: minutes }, () => amps * volts),
      amps: Array.from({ length: minutes }, () => amps),
    };
  }
  const { percent: from, capacityAh, ohm } = asOneCell(given, job);
  const watts: number[] = [];
  const amps: number[] = [];
  let percent = from;
  for (let minute = 0; minute < minutes; minute++) {
    let [w, a] = [0, 0];
    for (let half = 0; half < 2; half++) {
      const ocv = percent >= 100 ? restMv(chemistry, 100) : restMv(chemistry, percent);
      const toTop = Math.max(0, (topMv! - ocv) / 1000 / ohm);
      const current = Math.min(
        set,
        toTop,
        mostW / ((cells * ocv) / 1000 + Math.min(set, toTop) * ohm * cells),
      );
      percent += ((current / 120) * 100) / capacityAh;
      w += (current * ((cells * ocv) / 1000 + current * ohm * cells)) / 2;
      a += current / 2;
    }
    watts.push(w);
    amps.push(a);
  }
  return { watts, amps };
}

function asOneCell(given: Given, job: CheckedJob): { percent: number; capacityAh: number; ohm: number } {
  const packs = packsOf(given, job);
  const board = boardOf(given, job);
  const chemistry = packs[0]!.chemistry;
  if (!isLithium(chemistry)) return { percent: 0, capacityAh: packs[0]!.capacityAh, ohm: 0.01 };
  const full = (pack: PlanPack) => Math.max(...pack.cellsMv!.map((mv) => socPercent(chemistry, mv)));
  const cycled = packs[0]!.need.do === 'cycle';
  const floor = socPercent(chemistry, given.rules.floors[chemistry].rechargeSoonMv);
  if (board?.wiring === 'parallel') {
    const capacityAh = packs.reduce((sum, pack) => sum + pack.capacityAh, 0);
    const percent = packs.reduce((sum, pack) => sum + full(pack) * pack.capacityAh, 0) / capacityAh;
    return {
      percent,
      capacityAh,
      ohm: 1 / packs.reduce((sum, { cellMilliohm }) => sum + 1000 / cellMilliohm, 0),
    };
  }
  // On a series board the cell with the least room decides when the taper begins.
  const decides = packs.reduce((a, b) => (room(b) < room(a) ? b : a));
  function room(pack: PlanPack): number {
    return pack.capacityAh * (100 - full(pack));
  }
  return {
    percent: cycled ? Math.min(full(decides), floor) : full(decides),
    capacityAh: decides.capacityAh,
    ohm: decides.cellMilliohm / 1000,
  };
}

/** No shorter than the charge it moves takes at its current: a plan that promises too much is refused, too. */
function lengthFaults(given: Given, job: CheckedJob): string[] {
  const packs = packsOf(given, job);
  const [first] = packs;
  if (!first || !isLithium(first.chemistry) || !first.cellsMv) return [];
  const least = leastMinutes(given.rules, packs, job);
  const planned = (job.end - job.start) / MINUTE_MS;
  return planned < least * 0.97 - 2
    ? [`${name(job)}: ${planned} minutes, but it takes ${least.toFixed(0)}`]
    : [];
}

/**
 * Charge moved ÷ the current that was set: no job is quicker than that. It is over as soon as the display shows the target, and under
 * current a display is off by what the cells' resistance takes.
 */
function leastMinutes(
  rules: HouseRules,
  packs: readonly PlanPack[],
  { do: kind, setting, boardId }: CheckedJob,
): number {
  const { chemistry } = packs[0]!;
  if (!isLithium(chemistry)) return 0;
  const percents = packs.map(({ cellsMv }) => cellsMv!.map((mv) => socPercent(chemistry, mv)));
  const { targetMv } = rules.storage[chemistry];
  const offMv = setting.amps * Math.max(...packs.map(({ cellMilliohm }) => cellMilliohm));
  const shown = socPercent(chemistry, targetMv + (kind === 'lower' ? offMv : -offMv));
  const band = {
    low: socPercent(chemistry, rules.storage[chemistry].bandLowMv),
    high: socPercent(chemistry, rules.storage[chemistry].bandHighMv),
  };
  const moved = packs.map(({ capacityAh }, i) => {
    const [low, high] = [Math.min(...percents[i]!), Math.max(...percents[i]!)];
    // A storage job may stop where another cell would leave the band.
    if (kind === 'raise') return capacityAh * Math.max(0, Math.min(shown - low, band.high - high));
    if (kind === 'lower') return capacityAh * Math.max(0, Math.min(high - shown, low - band.low));
    return 0;
  });
  const shared = boardId !== null && packs.length > 1 && packs[0]!.series > 1;
  const ah = (shared ? moved.reduce((a, b) => a + b, 0) : Math.min(...moved)) / 100;
  return (ah / setting.amps) * 60;
}
