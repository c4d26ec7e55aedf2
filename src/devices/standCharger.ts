import { bell, chargeFor, drainFor } from '../core/cellsim';
import type { Random, SimPack } from '../core/cellsim';
import type { ChargeMode } from '../core/record';
import { CHEMISTRY } from '../core/chemistry';
import type { LithiumChemistry } from '../core/chemistry';
import type { Link } from '../bridge/link';

export const CHARGER_FAULTS = [
  'none',
  'gives less',
  'quick phase only',
  'times out',
  'never stops',
  'loses contact',
  'repeats',
  'rubbish',
] as const;
export type ChargerFault = (typeof CHARGER_FAULTS)[number];

/** What a channel is set to. The charger keeps it from one pack to the next. */
export interface StandSetting {
  readonly chemistry: LithiumChemistry;
  readonly mode: ChargeMode;
  readonly cells: number;
  readonly topMv: number;
  readonly amps: number;
}

/** A pack on a lead: read and changed where it lies, so that the meter finds it as the charger left it. */
export interface Plugged {
  readonly tag: string;
  get(): SimPack;
  set(pack: SimPack): void;
}

export interface StandChannel {
  readonly key: string;
  plugged: Plugged | null;
  setting: StandSetting;
  state: 'idle' | 'running' | 'ended';
  seconds: number;
  movedMah: number;
  fault: ChargerFault;
  error: string | null;
}

const FIRST_SETTING: StandSetting = { chemistry: 'lipo', mode: 'balance', cells: 3, topMv: 4200, amps: 1 };
/** A pack that rests below this it takes for a broken one. */
const FLOOR_MV = 3_300;
const BALANCE_A = 0.4;
const NOISE_MV = 1.2;
const TIME_LIMIT_SECONDS = 40 * 60;
/** A charger that gives less than it is set to, because it is hot. */
const LESS = 0.6;

/** A charger with channels that share its watts. It sees how many cells there are, and not of what chemistry. */
export class StandCharger {
  readonly channels: readonly StandChannel[];
  #ticks = 0;

  constructor(
    private readonly link: Pick<Link, 'say' | 'raw' | 'drop'>,
    keys: readonly string[],
    private readonly watts: { readonly each: number; readonly all: number },
    private readonly random: Random,
  ) {
    this.channels = keys.map((key) => ({
      key,
      plugged: null,
      setting: FIRST_SETTING,
      state: 'idle',
      seconds: 0,
      movedMah: 0,
      fault: 'none',
      error: null,
    }));
  }

  channel(key: string): StandChannel | null {
    return this.channels.find((one) => one.key === key) ?? null;
  }

  plug(key: string, plugged: Plugged | null): void {
    const channel = this.channel(key);
    if (!channel) return;
    Object.assign(channel, { plugged, state: 'idle', seconds: 0, movedMah: 0, error: null });
    this.#tell(channel, 0, this.#restMv(channel));
  }

  /** Starts as a charger does: it refuses what it can see is wrong, which is little. */
  start(key: string): void {
    const channel = this.channel(key);
    if (!channel?.plugged) return;
    const pack = channel.plugged.get();
    Object.assign(channel, { seconds: 0, movedMah: 0, error: null, state: 'running' });
    if (pack.cells.length !== channel.setting.cells) this.#fail(channel, 'CELL COUNT');
    else if (Math.min(...this.#restMv(channel)) < FLOOR_MV) this.#fail(channel, 'LOW VOLTAGE');
    this.#tell(channel, 0, this.#restMv(channel));
  }

  stop(key: string): void {
    const channel = this.channel(key);
    if (channel?.state !== 'running') return;
    channel.state = 'ended';
    this.#tell(channel, 0, this.#restMv(channel));
  }

  #fail(channel: StandChannel, error: string): void {
    channel.error = error;
    channel.state = 'ended';
  }

  /** So much of its own time passes; a line for each channel with a pack on it. */
  tick(seconds: number): void {
    this.#ticks += 1;
    const running = this.channels.filter(({ state }) => state === 'running');
    const share = running.length === 0 ? 0 : Math.min(this.watts.each, this.watts.all / running.length);
    for (const channel of running) this.#work(channel, seconds, share);
    for (const channel of this.channels)
      if (channel.plugged && channel.state !== 'running' && this.#ticks % 5 === 0)
        this.#tell(channel, 0, this.#restMv(channel));
  }

  #work(channel: StandChannel, seconds: number, watts: number): void {
    const { setting, plugged, fault } = channel;
    if (!plugged) return;
    const before = plugged.get();
    const storage = CHEMISTRY[setting.chemistry].storageRangeMv!;
    const storageMv = (storage.low + storage.high) / 2;
    const takesOut =
      setting.mode === 'discharge' || (setting.mode === 'storage' && this.#mean(channel) > storageMv);
    const topMv =
      setting.mode === 'storage' ? storageMv + 10 : setting.topMv + (fault === 'never stops' ? 90 : 0);
    const amps = setting.amps * (fault === 'gives less' ? LESS : 1);
    const moment = takesOut
      ? drainFor(before, Math.min(amps, 20 / ((this.#mean(channel) / 1000) * setting.cells)), seconds)
      : chargeFor(
          before,
          { amps, topMv, cutOffC: 0.05, balanceA: setting.mode === 'balance' ? BALANCE_A : null, watts },
          seconds,
        );
    plugged.set(moment.pack);
    channel.seconds += seconds;
    channel.movedMah += moment.movedAh * 1000;
    const atTop = Math.max(...moment.mv) >= topMv - 4;
    const drained = takesOut && this.#mean(channel) <= (setting.mode === 'storage' ? storageMv : 3_300);
    if (fault === 'times out' && channel.seconds > TIME_LIMIT_SECONDS) this.#fail(channel, 'TIME LIMIT');
    else if (drained || (moment.full && fault !== 'never stops')) channel.state = 'ended';
    else if (fault === 'quick phase only' && atTop) channel.state = 'ended';
    if (fault === 'loses contact' && this.#ticks % 20 === 10) return this.link.drop();
    if (fault === 'rubbish' && this.#ticks % 3 === 0) this.link.raw('\u0001\u0002 ERR;;;');
    this.#tell(channel, moment.amps, moment.mv);
    if (fault === 'repeats')
      this.link.raw(
        JSON.stringify({
          n: 1,
          type: 'charge',
          channel: channel.key,
          state: 'running',
          seconds: 1,
          amps: 9,
          movedMah: 9,
          cellsMv: [4_200],
        }),
      );
    // After its end a charger shows what rests; only this lets anybody see the resistance.
    if (channel.state === 'ended') this.#tell(channel, 0, this.#restMv(channel));
  }

  #restMv({ plugged }: StandChannel): readonly number[] {
    return plugged ? drainFor(plugged.get(), 0, 0).mv : [];
  }

  #mean(channel: StandChannel): number {
    const mv = this.#restMv(channel);
    return mv.reduce((sum, one) => sum + one, 0) / mv.length;
  }

  #tell(channel: StandChannel, amps: number, mv: readonly number[]): void {
    const { key, state, seconds, movedMah, setting, error } = channel;
    this.link.say({
      type: 'charge',
      channel: key,
      state,
      // Two lines of one moment would be one line.
      seconds: seconds + (state === 'ended' && amps === 0 ? 1 : 0),
      setting,
      ...(mv.length > 0
        ? { cellsMv: mv.map((one) => Math.max(0, Math.round(one + bell(this.random) * NOISE_MV))) }
        : {}),
      amps: Math.round(amps * 100) / 100,
      movedMah: Math.round(movedMah),
      ...(error === null ? {} : { error }),
    });
  }
}
