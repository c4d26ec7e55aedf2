import { capacityAh, newSimPack, seededRandom } from '../core/cellsim';
import type { SimPack } from '../core/cellsim';
import { socPercent } from '../core/chemistry';
import type { LithiumChemistry } from '../core/chemistry';
import { Link } from '../bridge/link';
import type { DeviceAnswerLine, DeviceCan } from '../contract';
import { StandCharger } from './standCharger';
import { StandMeter } from './standMeter';
import { newMemory, StandReader } from './standReader';

/** A pack of the register, for the stand-ins to have one like it. */
export interface PackFacts {
  readonly tag: string;
  readonly chemistry: LithiumChemistry;
  readonly series: number;
  readonly capacityAh: number;
  /** As the register last knew them; null for a pack nobody has read, which lies at storage. */
  readonly cellsMv: readonly number[] | null;
  /** The cycles a smart pack has counted; absent for a pack without a memory. */
  readonly ownCycles?: number | null;
}

export interface ChargerFacts {
  readonly name: string;
  readonly key: string;
  readonly channels: readonly string[];
  readonly watts: { readonly each: number; readonly all: number };
}

export interface StandInOptions {
  readonly url: string;
  readonly meterKey: string | null;
  /** Absent where no reader of smart packs is wanted. */
  readonly readerKey?: string | null;
  readonly chargers: readonly ChargerFacts[];
  readonly packs: readonly PackFacts[];
}

const TICK_MS = 500;
const STORED_MV = 3_820;

/** A bench that is not there: a meter and chargers with simulated packs, which speak to the register as real ones do. */
export class StandIns {
  readonly meter: StandMeter | null;
  readonly reader: StandReader | null;
  readonly chargers: readonly { readonly name: string; readonly charger: StandCharger }[];
  /** So many seconds of a charge pass in one second. */
  speed = 1;
  readonly #packs = new Map<string, SimPack>();
  readonly #links: Link[] = [];
  readonly #timer: ReturnType<typeof setInterval>;

  constructor({ url, meterKey, readerKey = null, chargers, packs }: StandInOptions) {
    const random = seededRandom(1);
    for (const facts of packs) this.#packs.set(facts.tag, simulated(facts));
    const link = (
      key: string,
      can: readonly DeviceCan[] = [],
      onAnswer?: (line: DeviceAnswerLine) => void,
    ) => {
      const made = new Link({ url, key, software: 'a stand-in', can, ...(onAnswer ? { onAnswer } : {}) });
      this.#links.push(made);
      return made;
    };
    this.meter = meterKey === null ? null : new StandMeter(link(meterKey), random);
    const memories = new Map(
      packs.flatMap(({ tag, ownCycles }) => (ownCycles == null ? [] : [[tag, newMemory(tag, ownCycles)]])),
    );
    const reader: StandReader | null =
      readerKey === null
        ? null
        : new StandReader(
            link(readerKey, ['write'], (line) => reader?.hear(line)),
            memories,
          );
    this.reader = reader;
    this.chargers = chargers.map(({ name, key, channels, watts }) => {
      const charger: StandCharger = new StandCharger(
        link(key, ['stop'], (line) => line.type === 'stop' && charger.stop(line.channel)),
        channels,
        watts,
        random,
      );
      return { name, charger };
    });
    this.#timer = setInterval(() => {
      this.meter?.tick();
      this.reader?.tick();
      for (const { charger } of this.chargers) charger.tick((TICK_MS / 1000) * this.speed);
    }, TICK_MS);
  }

  get tags(): readonly string[] {
    return [...this.#packs.keys()];
  }

  /** Plugs a pack into the meter; false for a pack there is none of. */
  read(tag: string | null): boolean {
    if (tag === null) this.meter?.unplug();
    else if (this.#packs.has(tag)) this.meter?.plug(tag, () => this.#packs.get(tag)!);
    else return false;
    return true;
  }

  /** Puts a pack on a channel, or takes off what is there. */
  plug(charger: StandCharger, channel: string, tag: string | null): boolean {
    if (tag !== null && !this.#packs.has(tag)) return false;
    charger.plug(
      channel,
      tag === null
        ? null
        : { tag, get: () => this.#packs.get(tag)!, set: (pack) => void this.#packs.set(tag, pack) },
    );
    return true;
  }

  /** The pack as it is now, for whoever wants to hold what was told against it. */
  truth(tag: string): SimPack {
    return this.#packs.get(tag)!;
  }

  close(): void {
    clearInterval(this.#timer);
    for (const link of this.#links) link.close();
  }
}

/** A pack whose cells rest where the register says. */
function simulated({ tag, chemistry, series, capacityAh: ah, cellsMv }: PackFacts): SimPack {
  const seed = [...tag].reduce((sum, letter) => sum * 31 + letter.charCodeAt(0), 7) % 2_147_483_647;
  const pack = newSimPack({ chemistry, series, labelAh: ah, mv: STORED_MV }, seededRandom(seed));
  if (cellsMv?.length !== series) return pack;
  return {
    ...pack,
    cells: pack.cells.map((cell, i) => ({
      ...cell,
      heldAh: (socPercent(chemistry, cellsMv[i]!) / 100) * capacityAh(cell),
    })),
  };
}
