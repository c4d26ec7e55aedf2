import type { DeviceAnswerLine, MemorySettings } from '../contract';
import type { Link } from '../bridge/link';

export const READER_FAULTS = [
  'none',
  'repeats',
  'rubbish',
  'says another pack’s memory',
  'has no data contact',
  'does not keep what is written',
  'counts back',
] as const;
export type ReaderFault = (typeof READER_FAULTS)[number];

/** What a simulated smart pack remembers. */
export interface StandMemory {
  readonly number: string;
  readonly settings: MemorySettings;
  readonly cycles: number;
  readonly overCharges: number;
  readonly overDischarges: number;
  readonly overTemperatures: number;
  readonly firmware: string;
  readonly firmwareDate: string;
}

/** What every such pack is set to when it is made, and again after an update of its program. */
const AS_MADE: MemorySettings = { storage: { isOn: true, afterHours: 120, mv: 3850 }, topMv: 4200, amps: 4 };
/** An update takes so many turns of the reader's clock. */
const UPDATE_TICKS = 20;

/** A memory as it comes out of the box, so many cycles old. */
export function newMemory(tag: string, cycles: number): StandMemory {
  return {
    number: `N-${tag}`,
    settings: AS_MADE,
    cycles,
    overCharges: 0,
    overDischarges: 0,
    overTemperatures: 0,
    firmware: '1.02',
    firmwareDate: '2025-03-10',
  };
}

/** A reader of smart packs, and the packs' memories; either may be a bad one. */
export class StandReader {
  fault: ReaderFault = 'none';
  plugged: string | null = null;
  #contact = 0;
  #ticks = 0;
  #updating: number | null = null;

  constructor(
    private readonly link: Pick<Link, 'say' | 'raw'>,
    private readonly memories: Map<string, StandMemory>,
  ) {}

  get tags(): readonly string[] {
    return [...this.memories.keys()];
  }

  memoryOf(tag: string): StandMemory | null {
    return this.memories.get(tag) ?? null;
  }

  plug(tag: string): boolean {
    if (!this.memories.has(tag)) return false;
    this.plugged = tag;
    this.#contact += 1;
    return true;
  }

  unplug(): void {
    this.plugged = null;
    this.#updating = null;
    this.link.say({ type: 'unplugged' });
  }

  /** Adds a fault to what the pack on the reader counted, as a bad flight would. */
  countFault(): void {
    const memory = this.plugged === null ? null : this.memoryOf(this.plugged);
    if (memory) this.memories.set(this.plugged!, { ...memory, overDischarges: memory.overDischarges + 1 });
  }

  /** Begins to give the pack another version of its program; at its end every setting is as it was made. */
  update(): void {
    if (this.plugged !== null) this.#updating = 0;
  }

  /** Does what the register says. */
  hear(line: DeviceAnswerLine): void {
    if (line.type !== 'write' || this.plugged === null || this.fault === 'does not keep what is written')
      return;
    const memory = this.memories.get(this.plugged)!;
    const { type: _, ...settings } = line;
    this.memories.set(this.plugged, { ...memory, settings: { ...memory.settings, ...settings } });
  }

  /** Says what it reads; called about twice a second. */
  tick(): void {
    if (this.plugged === null || this.fault === 'has no data contact') return;
    this.#ticks += 1;
    this.#goOnUpdating();
    const line = this.#line();
    if (this.fault === 'rubbish' && this.#ticks % 2 === 0) return this.link.raw('memory: \u0000 {{ 48h');
    this.link.say(line);
    if (this.fault === 'repeats') this.link.raw(JSON.stringify({ n: 1, ...line }));
  }

  #goOnUpdating(): void {
    if (this.#updating === null) return;
    this.#updating += 1;
    if (this.#updating < UPDATE_TICKS) return;
    this.#updating = null;
    const memory = this.memories.get(this.plugged!)!;
    this.memories.set(this.plugged!, {
      ...memory,
      settings: AS_MADE,
      firmware: '1.05',
      firmwareDate: '2026-01-20',
    });
  }

  #line(): object {
    const tag =
      this.fault === 'says another pack’s memory'
        ? (this.tags.find((one) => one !== this.plugged) ?? this.plugged!)
        : this.plugged!;
    const { settings, ...memory } = this.memories.get(tag)!;
    return {
      type: 'memory',
      contact: this.#contact,
      ...memory,
      ...settings,
      ...(this.fault === 'counts back' ? { cycles: 0 } : {}),
      ...(this.#updating === null ? {} : { updating: (this.#updating * 100) / UPDATE_TICKS }),
    };
  }
}
