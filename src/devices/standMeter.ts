import { bell, percentOf } from '../core/cellsim';
import type { Random, SimPack } from '../core/cellsim';
import { restMv } from '../core/chemistry';
import type { Link } from '../bridge/link';

export const METER_FAULTS = ['none', 'repeats', 'rubbish', 'half lines', 'loose plug'] as const;
export type MeterFault = (typeof METER_FAULTS)[number];

const NOISE_MV = 1.5;

/** A meter that reads the cells of whatever is plugged in, and may be a bad one. */
export class StandMeter {
  fault: MeterFault = 'none';
  plugged: { readonly tag: string; readonly pack: () => SimPack } | null = null;
  #contact = 0;
  #ticks = 0;

  constructor(
    private readonly link: Pick<Link, 'say' | 'raw'>,
    private readonly random: Random,
  ) {}

  plug(tag: string, pack: () => SimPack): void {
    this.plugged = { tag, pack };
    this.#contact += 1;
  }

  unplug(): void {
    this.plugged = null;
    this.link.say({ type: 'unplugged' });
  }

  /** Says what it reads; called about twice a second. */
  tick(): void {
    if (!this.plugged) return;
    this.#ticks += 1;
    const pack = this.plugged.pack();
    const cellsMv = pack.cells.map((cell) =>
      Math.max(0, Math.round(restMv(pack.chemistry, percentOf(cell)) + bell(this.random) * NOISE_MV)),
    );
    const line = { type: 'reading', contact: this.#contact, cellsMv };
    if (this.fault === 'rubbish' && this.#ticks % 2 === 0) return this.link.raw('~#ä{{{ 4.2');
    if (this.fault === 'half lines' && this.#ticks % 2 === 0)
      return this.link.raw(JSON.stringify({ n: 1_000_000_000, ...line }).slice(0, 31));
    if (this.fault === 'loose plug') return this.link.say({ ...line, cellsMv: cellsMv.slice(0, -1) });
    this.link.say(line);
    if (this.fault === 'repeats') this.link.raw(JSON.stringify({ n: 1, ...line }));
  }
}
