import { handOut } from '../src/core/flying';
import type { HandOutPack } from '../src/core/flying';
import { DAY_MS } from '../src/core/measure';
import type { CraftId, Instant, PackId, PackTypeId } from '../src/core/measure';
import { between, seededRandom } from '../src/core/random';
import type { Random } from '../src/core/random';
import { median, say } from './measure';

/** A season of a small club: packs of one type on one craft, two or three flying days a week, one charger in the evenings. */
const SEASON_DAYS = 180;
const SEASONS = 40;
const PACKS = 16;
/** So many packs are charged, or brought down to storage, in an evening. */
const JOBS_AN_EVENING = 8;
const FLIGHTS = { least: 3, most: 8 };
/** Of ten mornings one is rained off after its packs were charged; of a hundred packs one is found unfit at the shelf and lies two weeks. */
const RAINED_OFF = 0.1;
const FOUND_UNFIT = 0.01;
const UNFIT_DAYS = 14;
/** A flight takes so much of a cycle. */
const A_FLIGHT = 0.7;
/** A full pack may wait so many days before it is brought down. */
const ALLOWED_DAYS = 2;

const TYPE = 'type' as PackTypeId;
const CRAFT = 'craft' as CraftId;

interface ClubPack {
  readonly id: PackId;
  cycles: number;
  state: 'storage' | 'full' | 'flown';
  fullSince: number;
  usedAt: number;
  unfitUntil: number;
}

/** Which packs somebody means to fly, best first, and where a pack is put that comes back. */
interface Habit {
  readonly name: string;
  readonly choose: (packs: readonly ClubPack[], wanted: number, day: number) => readonly ClubPack[];
}

/** The list Malle proposes, a spare with it. */
const PROPOSED: Habit = {
  name: 'proposed hand-out',
  choose: (packs, wanted, day) => {
    const now: Instant = day * DAY_MS;
    const rows = packs.map((pack): HandOutPack => {
      const unfit = pack.unfitUntil > day;
      return {
        id: pack.id,
        tag: pack.id,
        typeId: TYPE,
        verdict: unfit ? 'hold' : 'fit',
        mayFly: unfit ? 'no' : 'yes',
        charged: pack.state === 'full' ? 'charged' : 'charge-first',
        cycles: pack.cycles,
        usedAt: pack.usedAt * DAY_MS,
        holderId: null,
      };
    });
    const { lines } = handOut(
      [{ typeId: TYPE, packs: wanted, craftId: CRAFT }],
      rows,
      () => [],
      () => false,
      now,
    );
    return lines.map(({ packId }) => packs.find(({ id }) => id === packId)!);
  },
};

/** What lies on top: whatever came back last, a full one before one that is not. */
const ON_TOP: Habit = {
  name: 'what lies on top',
  choose: (packs, wanted, day) =>
    packs
      .filter(({ unfitUntil }) => unfitUntil <= day)
      .sort((a, b) => Number(b.state === 'full') - Number(a.state === 'full') || b.usedAt - a.usedAt)
      .slice(0, wanted),
};

interface Season {
  readonly spread: number;
  readonly hoursAtFull: number;
  readonly lost: number;
  readonly flights: number;
}

function season(habit: Habit, seed: number): Season {
  const random = seededRandom(seed);
  const packs = Array.from({ length: PACKS }, (_, i): ClubPack => ({
    id: `P-${String(i + 1).padStart(2, '0')}` as PackId,
    cycles: between(random, 0, 20),
    state: 'storage',
    fullSince: 0,
    usedAt: -i,
    unfitUntil: 0,
  }));
  let [hoursAtFull, lost, flights] = [0, 0, 0];
  const daysOf = calendar(random);
  for (let day = 1; day < SEASON_DAYS; day++) {
    const wanted = daysOf.get(day) ?? 0;
    const tomorrow = daysOf.get(day + 1) ?? 0;
    if (wanted > 0 && random() >= RAINED_OFF) {
      const taken = habit.choose(packs, wanted, day);
      let flown = 0;
      for (const pack of taken) {
        if (flown === wanted) break;
        if (random() < FOUND_UNFIT) pack.unfitUntil = day + UNFIT_DAYS;
        else if (pack.state === 'full') {
          pack.cycles += A_FLIGHT;
          pack.state = 'flown';
          pack.usedAt = day;
          flown += 1;
        }
      }
      flights += wanted;
      lost += wanted - flown;
    }
    evening(packs, tomorrow > 0 ? habit.choose(packs, tomorrow, day) : [], day);
    hoursAtFull += packs.filter(({ state }) => state === 'full').length * 24;
  }
  const cycles = packs.map((pack) => pack.cycles);
  return { spread: Math.max(...cycles) - Math.min(...cycles), hoursAtFull, lost, flights };
}

/** The same days and the same wishes for both habits. */
function calendar(random: Random): ReadonlyMap<number, number> {
  const days = new Map<number, number>();
  for (let day = 2; day < SEASON_DAYS; day += between(random, 2, 4))
    days.set(day, between(random, FLIGHTS.least, FLIGHTS.most));
  return days;
}

/** What flies tomorrow is charged first; then what was full too long, or came back, goes to storage. */
function evening(packs: readonly ClubPack[], flies: readonly ClubPack[], day: number): void {
  let jobs = JOBS_AN_EVENING;
  for (const pack of flies) {
    if (jobs === 0 || pack.state === 'full') continue;
    pack.state = 'full';
    pack.fullSince = day;
    jobs -= 1;
  }
  for (const pack of packs) {
    const due = pack.state === 'flown' || (pack.state === 'full' && day - pack.fullSince >= ALLOWED_DAYS);
    if (jobs === 0 || !due || flies.includes(pack)) continue;
    pack.state = 'storage';
    jobs -= 1;
  }
}

/** Proposed hand-outs against taking what lies on top, over the same seasons. */
export function benchRotation(): void {
  say(
    `Rotation: ${SEASONS} seasons of ${SEASON_DAYS} days, ${PACKS} packs, ${JOBS_AN_EVENING} jobs an evening.`,
  );
  for (const habit of [ON_TOP, PROPOSED]) {
    const seasons = Array.from({ length: SEASONS }, (_, seed) => season(habit, seed + 1));
    const of = (value: (one: Season) => number) => median(seasons.map(value));
    const flights = seasons.reduce((sum, one) => sum + one.flights, 0);
    const lost = seasons.reduce((sum, one) => sum + one.lost, 0);
    say(
      `  ${habit.name}: ${of(({ spread }) => spread).toFixed(1)} cycles between the most and the least worn, ` +
        `${Math.round(of(({ hoursAtFull }) => hoursAtFull))} pack-hours at full, ` +
        `${((lost / flights) * 100).toFixed(2)} % of ${flights} flights lost`,
    );
  }
}
