import { v7 as newId } from 'uuid';
import { z } from 'zod';
import { deviceHello, deviceLine, PROTOCOL_VERSION } from '../../contract';
import type { DeviceAnswer, DeviceAnswerLine, DeviceLine } from '../../contract';
import { contactAfter, gathered, LONGEST_LINE, patternOf, pickFirst } from '../../core/instruments';
import type { Contact, Gathering, Pattern } from '../../core/instruments';
import type { DeviceReadingId, Instant } from '../../core/measure';
import type { OwnMemory } from '../../core/record';
import { timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import { announce } from '../platform/live';
import { BenchWatch } from './benchWatch';
import type { ChargeLine } from './benchWatch';
import { deviceByKey } from './devices';
import type { KnownDevice } from './devices';

/** What a conversation needs from the server it is held in. */
export interface Surroundings {
  entities(): Entities;
  now(): Instant;
  /** Milliseconds that only ever go forward, for how often and how long; the register's clock may stand still. */
  elapsed(): number;
}

/** More lines a second than any display shows; what comes beyond them is refused. */
const MOST_LINES_A_SECOND = 20;
/** What a device did not say in these seconds it may say at once: a network, or a busy server, hands its lines on in bunches. */
const SAVED_SECONDS = 5;
/** Lines of a display that are kept for whoever writes patterns. */
const LINES_KEPT = 20;
const LINES_EVERY_MS = 1_000;
/** A meter that shows the same goes on being written this often, so that its time stays true. */
const SAME_EVERY_MS = 10_000;
const LONGEST_MESSAGE = 8_000;
/** No cell that a meter could be used on is this low: nothing is plugged in. */
const NOTHING_MV = 500;

type ReadingLine = Extract<DeviceLine, { type: 'reading' }>;
type MemoryLine = Extract<DeviceLine, { type: 'memory' }>;

/** Which kind of device says which kind of line. */
const SAID_BY = { reading: 'meter', unplugged: 'meter', charge: 'charger', memory: 'memory-reader' } as const;
const DEVICE_WORDS = { meter: 'a meter', charger: 'a charger', 'memory-reader': 'a memory reader' } as const;
const KIND_SAYS = {
  meter: 'A meter tells what it reads',
  charger: 'A charger tells what its channels do',
  'memory-reader': 'A memory reader tells what a pack remembers',
} as const;

/**
 * One device talking: lines in, answers out. Whatever it says is either kept and answered `taken`, or refused with a reason; nothing it can
 * say throws, and nothing it says becomes a record.
 */
export class Conversation {
  readonly #connection = newId();
  #device: KnownDevice | null = null;
  #patterns: readonly Pattern[] = [];
  #taken = 0;
  #run = '';
  /** How far the device's clock is behind the register's, milliseconds. */
  #clockOff = 0;
  /** How many lines may be heard at the moment `at`, and when the device was last told that it says too much. */
  #allowance = { lines: MOST_LINES_A_SECOND * SAVED_SECONDS, at: 0 };
  #toldTooFastAt = -Infinity;
  #meter: { readonly shows: NonNullable<DeviceAnswer['meter']>; readonly writtenAt: number } | null = null;
  /** What was plugged in when the meter's reading was last written. */
  #lastContact = '';
  #remembered: {
    readonly text: string;
    readonly updating: number | null;
    readonly readingId: DeviceReadingId;
    readonly writtenAt: number;
  } | null = null;
  #contact: Contact | null = null;
  #gathering: Gathering = { cells: [] };
  #lines: string[] = [];
  #linesWrittenAt = -Infinity;
  #bench: BenchWatch | null = null;
  #ended = false;

  constructor(
    private readonly here: Surroundings,
    private readonly answer: (line: DeviceAnswerLine) => void,
    private readonly close: () => void,
  ) {}

  /** The device's id once it has said hello. */
  get deviceId(): KnownDevice['id'] | null {
    return this.#device?.id ?? null;
  }

  /** Takes a message: one JSON object, or several with a line end between them. */
  async hear(message: string): Promise<void> {
    if (this.#ended) return;
    if (message.length > LONGEST_MESSAGE) return this.#refuse(null, null, 'This message is too long.');
    for (const line of message.split('\n')) {
      if (line.trim() !== '') await this.#hearLine(line);
      if (this.#ended) return;
    }
  }

  async #hearLine(line: string): Promise<void> {
    // Counted before anything is looked at: rubbish costs as much as sense.
    if (this.#device && this.#tooFast()) return;
    let said: unknown;
    try {
      said = JSON.parse(line);
    } catch {
      return this.#refuse(null, null, 'This line is no JSON.');
    }
    if (!this.#device) return this.#hello(said);
    const parsed = deviceLine.safeParse(said);
    if (!parsed.success) return this.#refuseOdd(said, parsed.error);
    const { data } = parsed;
    if (data.n <= this.#taken) return this.answer({ type: 'taken', n: this.#taken });
    await this.#take(data);
  }

  async #hello(said: unknown): Promise<void> {
    const parsed = deviceHello.safeParse(said);
    if (!parsed.success) {
      const [issue] = parsed.error.issues;
      return this.end(`Say hello first: ${issue?.path.join('.') ?? ''} ${issue?.message ?? ''}`.trim());
    }
    const { protocol, key, run, software = null, now = null, can = [] } = parsed.data;
    if (protocol !== PROTOCOL_VERSION)
      return this.end(
        `This register speaks version ${PROTOCOL_VERSION} of the protocol, and this device version ${protocol}. Update the older of the two.`,
      );
    const em = this.here.entities();
    const device = await deviceByKey(em, key);
    if (!device) return this.end('This key is none, or was ended. Make a new one under Settings, Devices.');
    const at = this.here.now();
    this.#clockOff = now === null ? 0 : at - now;
    const [state]: { taken: number }[] = await em.execute(
      `insert into device_state (device_id, connection, run, taken, is_open, can_stop, can_write, seen_at, software, problem)
       values (?, ?, ?, 0, true, ?, ?, ?, ?, null)
       on conflict (device_id) do update set connection = excluded.connection,
         taken = case when device_state.run = excluded.run then device_state.taken else 0 end, run = excluded.run, is_open = true,
         can_stop = excluded.can_stop, can_write = excluded.can_write, seen_at = excluded.seen_at, software = excluded.software, problem = null, meter = null, memory = null,
         channels = case when device_state.run = excluded.run then device_state.channels else '{}' end
       returning taken`,
      [
        device.id,
        this.#connection,
        run,
        can.includes('stop'),
        can.includes('write'),
        timestamp(at),
        software,
      ],
    );
    this.#run = run;
    this.#taken = state!.taken;
    this.#know(device);
    if (device.kind === 'charger' && device.equipmentId)
      this.#bench = new BenchWatch(this.here, device.id, device.equipmentId, (channel, why) => {
        if (can.includes('stop')) this.answer({ type: 'stop', channel, why });
        return can.includes('stop');
      });
    await announce(em, { about: 'devices' });
    this.answer({
      type: 'welcome',
      protocol: PROTOCOL_VERSION,
      name: device.name,
      kind: device.kind,
      taken: this.#taken,
      now: at,
    });
  }

  #know(device: KnownDevice): void {
    this.#device = device;
    this.#patterns = device.patterns.flatMap((text) => {
      const made = patternOf(text);
      return 'fault' in made ? [] : [made];
    });
  }

  /** Whether the device has said all it may by now; one line too many a second is answered, the others are only dropped. */
  #tooFast(): boolean {
    const now = this.here.elapsed();
    const saved = this.#allowance.lines + ((now - this.#allowance.at) / 1_000) * MOST_LINES_A_SECOND;
    const lines = Math.min(saved, MOST_LINES_A_SECOND * SAVED_SECONDS);
    const isOver = lines < 1;
    this.#allowance = { lines: isOver ? lines : lines - 1, at: now };
    if (isOver && now - this.#toldTooFastAt >= 1_000) {
      this.#toldTooFastAt = now;
      this.#refuse(
        null,
        null,
        `More than ${MOST_LINES_A_SECOND} lines a second. Send the newest of each second.`,
      );
    }
    return isOver;
  }

  async #take(line: DeviceLine): Promise<void> {
    const kind = this.#device!.kind;
    const saidBy = line.type === 'text' ? kind : SAID_BY[line.type];
    const isMine = saidBy === kind || (line.type === 'unplugged' && kind === 'memory-reader');
    if (!isMine)
      return this.#refuse(line.n, 'type', `${KIND_SAYS[kind]}; this is a line of ${DEVICE_WORDS[saidBy]}.`);
    switch (line.type) {
      case 'reading':
        if (line.cellsMv === undefined && line.packMv === undefined)
          return this.#refuse(line.n, 'cellsMv', 'A reading tells cells or the sum of the pack.');
        return this.#read(line);
      case 'unplugged':
        return this.#unplug(line.n);
      case 'charge':
        return this.#charge(line);
      case 'memory':
        return this.#remember(line);
      case 'text':
        return this.#print(line.n, line.text);
    }
  }

  /** When a line was written, by the register's clock; one from ahead of it is of now. */
  #moment(at: Instant | undefined): Instant {
    const now = this.here.now();
    return at === undefined ? now : Math.min(now, at + this.#clockOff);
  }

  async #read({ n, at, contact, cellsMv, packMv, celsius }: ReadingLine): Promise<void> {
    const before = this.#meter;
    const name = `${this.#run}:${contact}`;
    const shows = {
      readingId: before?.shows.readingId ?? null,
      at: this.#moment(at),
      cellsMv: cellsMv ?? null,
      packMv: packMv ?? null,
      celsius: celsius ?? null,
    };
    const isSame =
      before !== null &&
      this.#lastContact === name &&
      JSON.stringify({ ...shows, at: 0 }) === JSON.stringify({ ...before.shows, at: 0 });
    if (isSame && this.here.elapsed() - before.writtenAt < SAME_EVERY_MS) {
      this.#taken = n;
      return this.answer({ type: 'taken', n });
    }
    const said = JSON.stringify(cellsMv ?? [packMv]);
    await this.#write(n, async (em) => {
      const [kept]: { id: DeviceReadingId }[] = await em.execute(
        `insert into device_reading (id, device_id, contact, began_at, at, lowest, highest, is_total) values (?, ?, ?, ?, ?, ?, ?, ?)
         on conflict (device_id, contact) do update set at = excluded.at,
           lowest = case when jsonb_array_length(device_reading.lowest) = jsonb_array_length(excluded.lowest)
             then (select jsonb_agg(least(a.v::int, b.v::int) order by a.i) from jsonb_array_elements_text(device_reading.lowest) with ordinality a(v, i)
                   join jsonb_array_elements_text(excluded.lowest) with ordinality b(v, i) using (i)) else excluded.lowest end,
           highest = case when jsonb_array_length(device_reading.highest) = jsonb_array_length(excluded.highest)
             then (select jsonb_agg(greatest(a.v::int, b.v::int) order by a.i) from jsonb_array_elements_text(device_reading.highest) with ordinality a(v, i)
                   join jsonb_array_elements_text(excluded.highest) with ordinality b(v, i) using (i)) else excluded.highest end,
           is_total = excluded.is_total
         returning id`,
        [
          newId(),
          this.#device!.id,
          name,
          timestamp(shows.at),
          timestamp(shows.at),
          said,
          said,
          cellsMv === undefined,
        ],
      );
      const meter = { ...shows, readingId: kept!.id };
      this.#meter = { shows: meter, writtenAt: this.here.elapsed() };
      this.#lastContact = name;
      await em.execute('update device_state set meter = ? where device_id = ?', [
        JSON.stringify(meter),
        this.#device!.id,
      ]);
      await announce(em, { about: 'device', deviceId: this.#device!.id, meter });
    });
  }

  /** What the pack on the reader remembers. A line that says the same as the one before is only counted. */
  async #remember({ n, at, contact, updating: percent, ...said }: MemoryLine): Promise<void> {
    const memory: OwnMemory = {
      number: said.number ?? null,
      storage: said.storage
        ? {
            isOn: said.storage.isOn,
            afterHours: said.storage.afterHours ?? null,
            mv: said.storage.mv ?? null,
          }
        : null,
      topMv: said.topMv ?? null,
      chargeA: said.amps ?? null,
      cycles: said.cycles ?? null,
      overCharges: said.overCharges ?? null,
      overDischarges: said.overDischarges ?? null,
      overTemperatures: said.overTemperatures ?? null,
      firmware: said.firmware ?? null,
      firmwareDate: said.firmwareDate ?? null,
    };
    const updating = percent ?? null;
    // Every different memory is a reading of its own: what was read back is not what was read before.
    const text = JSON.stringify([contact, memory]);
    const before = this.#remembered?.text === text ? this.#remembered : null;
    if (before?.updating === updating && this.here.elapsed() - before.writtenAt < SAME_EVERY_MS) {
      this.#taken = n;
      return this.answer({ type: 'taken', n });
    }
    const moment = this.#moment(at);
    const readingId = before?.readingId ?? (newId() as DeviceReadingId);
    const name = `${this.#run}:${contact}:${readingId}`;
    await this.#write(n, async (em) => {
      await em.execute(
        `insert into device_reading (id, device_id, contact, began_at, at, lowest, highest, is_total, memory) values (?, ?, ?, ?, ?, '[]', '[]', false, ?)
         on conflict (device_id, contact) do update set at = excluded.at`,
        [readingId, this.#device!.id, name, timestamp(moment), timestamp(moment), JSON.stringify(memory)],
      );
      const shows = { readingId, at: moment, memory, updating };
      this.#remembered = { text, updating, readingId, writtenAt: this.here.elapsed() };
      await em.execute('update device_state set memory = ? where device_id = ?', [
        JSON.stringify(shows),
        this.#device!.id,
      ]);
      await announce(em, { about: 'device', deviceId: this.#device!.id, memory: shows });
    });
  }

  async #forget(n: number): Promise<void> {
    await this.#write(n, async (em) => {
      this.#remembered = null;
      await em.execute('update device_state set memory = null where device_id = ?', [this.#device!.id]);
      await announce(em, { about: 'device', deviceId: this.#device!.id, memory: null });
    });
  }

  async #unplug(n: number): Promise<void> {
    if (this.#remembered) return this.#forget(n);
    if (this.#meter === null) {
      this.#taken = n;
      return this.answer({ type: 'taken', n });
    }
    await this.#write(n, async (em) => {
      this.#meter = null;
      await em.execute('update device_state set meter = null where device_id = ?', [this.#device!.id]);
      await announce(em, { about: 'device', deviceId: this.#device!.id, meter: null });
    });
  }

  async #charge(line: ChargeLine): Promise<void> {
    if (line.cellsMv === undefined && line.packMv === undefined && line.state === 'running')
      return this.#refuse(line.n, 'cellsMv', 'A running channel tells cells or the sum of the pack.');
    const told = await this.#bench!.take(line, this.#moment(line.at), (n, work) => this.#write(n, work));
    if (!told) this.#taken = line.n;
  }

  /** A line of a display: what the patterns pick out of it is taken as if the device had said it. */
  async #print(n: number, text: string): Promise<void> {
    // A NUL is no part of a display, and PostgreSQL cannot keep one.
    const line = text.replaceAll('\u0000', '').slice(0, LONGEST_LINE);
    this.#lines = [...this.#lines, line].slice(-LINES_KEPT);
    if (this.here.elapsed() - this.#linesWrittenAt >= LINES_EVERY_MS) {
      this.#linesWrittenAt = this.here.elapsed();
      await this.here
        .entities()
        .execute('update device_state set lines = ? where device_id = ? and connection = ?', [
          JSON.stringify(this.#lines),
          this.#device!.id,
          this.#connection,
        ]);
    }
    const picked = pickFirst(this.#patterns, line);
    const pass = () => {
      this.#taken = n;
      this.answer({ type: 'taken', n });
    };
    if (!picked) return pass();
    if (this.#device!.kind === 'memory-reader') return pass();
    if (this.#device!.kind === 'charger') {
      const { channel = '1', amps = 0, movedMah = 0, seconds, cellsMv, packMv, milliohm, celsius } = picked;
      const charge = {
        type: 'charge',
        n,
        channel,
        state: this.#bench!.stateOf(channel, amps, picked.phase ?? null),
        seconds: seconds ?? this.#bench!.secondsOf(channel, this.here.elapsed()),
        amps,
        movedMah,
        ...(cellsMv ? { cellsMv } : {}),
        ...(packMv === undefined ? {} : { packMv }),
        ...(milliohm ? { milliohm } : {}),
        ...(celsius === undefined ? {} : { celsius }),
      };
      return this.#takePicked(n, charge);
    }
    let cells = picked.cellsMv;
    if (picked.cell) {
      const { whole, next } = gathered(this.#gathering, picked.cell);
      this.#gathering = next;
      if (!whole) return pass();
      cells = whole;
    }
    const said = cells ?? (picked.packMv === undefined ? null : [picked.packMv]);
    if (!said) return pass();
    // A meter with nothing plugged in prints noughts.
    if (said.every((mv) => mv < NOTHING_MV)) {
      this.#contact = this.#contact && { ...this.#contact, cellsMv: [] };
      return this.#unplug(n);
    }
    this.#contact = contactAfter(this.#contact, said, this.here.elapsed());
    return this.#takePicked(n, {
      type: 'reading',
      n,
      contact: this.#contact.no,
      ...(cells ? { cellsMv: cells } : { packMv: said[0] }),
      ...(picked.celsius === undefined ? {} : { celsius: picked.celsius }),
    });
  }

  /** What was picked out of a line is held to the same schema as what a device says by itself. */
  async #takePicked(n: number, said: unknown): Promise<void> {
    const parsed = deviceLine.safeParse(said);
    if (parsed.success) return this.#take(parsed.data);
    this.#taken = n;
    this.#refuseOdd(said, parsed.error);
  }

  /** Keeps what a line said together with its number, unless another connection of the device has taken over. */
  async #write(n: number, work: (em: Entities) => Promise<void>): Promise<void> {
    const taken = await this.here.entities().transactional(async (tx) => {
      const mine: unknown[] = await tx.execute(
        `update device_state set taken = greatest(taken, ?), seen_at = ? where device_id = ? and connection = ? returning device_id`,
        [n, timestamp(this.here.now()), this.#device!.id, this.#connection],
      );
      if (mine.length === 0) return false;
      await work(tx);
      return true;
    });
    if (!taken) return this.end('Another connection with this key took over, or the key was ended.');
    this.#taken = Math.max(this.#taken, n);
    this.answer({ type: 'taken', n: this.#taken });
  }

  /** Says that the device is still there, and hears whether it still may be. */
  async beat(): Promise<void> {
    if (!this.#device || this.#ended) return;
    const em = this.here.entities();
    const mine: unknown[] = await em.execute(
      'update device_state set seen_at = ? where device_id = ? and connection = ? returning device_id',
      [timestamp(this.here.now()), this.#device.id, this.#connection],
    );
    if (mine.length === 0) this.end('Another connection with this key took over, or the key was ended.');
  }

  /** The device's name or patterns may have changed, or its key ended. */
  async lookAgain(): Promise<void> {
    await this.beat();
    if (!this.#device || this.#ended) return;
    const [device]: KnownDevice[] = await this.here
      .entities()
      .execute('select id, name, kind, equipment_id as "equipmentId", patterns from device where id = ?', [
        this.#device.id,
      ]);
    if (device) this.#know(device);
  }

  /** Somebody stops a channel. */
  stop(channel: string, why: string): void {
    this.answer({ type: 'stop', channel, why });
  }

  /** Somebody sets the pack that is on the reader. */
  write(line: Extract<DeviceAnswerLine, { type: 'write' }>): void {
    this.answer(line);
  }

  /** The connection is gone. */
  async gone(): Promise<void> {
    this.#ended = true;
    if (!this.#device) return;
    const em = this.here.entities();
    const mine: unknown[] = await em.execute(
      `update device_state set is_open = false, meter = null, memory = null where device_id = ? and connection = ? returning device_id`,
      [this.#device.id, this.#connection],
    );
    if (mine.length > 0) await announce(em, { about: 'devices' });
  }

  end(message: string): void {
    if (this.#ended) return;
    this.answer({ type: 'end', message });
    this.#ended = true;
    this.close();
  }

  #refuseOdd(said: unknown, error: z.ZodError): void {
    const number = z.object({ n: z.int() }).safeParse(said);
    const [issue] = error.issues;
    const unknown = issue?.code === 'unrecognized_keys' ? issue.keys[0] : undefined;
    const field = unknown ?? issue?.path.join('.') ?? null;
    this.#refuse(
      number.success ? number.data.n : null,
      field === '' ? null : field,
      unknown ? 'This field is not known here.' : (issue?.message ?? 'This line is not understood.'),
    );
  }

  #refuse(n: number | null, field: string | null, message: string): void {
    this.answer({ type: 'refused', n, field, message });
    if (!this.#device) return;
    const told = field === null ? message : `${field}: ${message}`;
    void this.here
      .entities()
      .execute('update device_state set problem = ? where device_id = ? and connection = ?', [
        told,
        this.#device.id,
        this.#connection,
      ])
      .catch(() => undefined);
  }
}
