import { seededId } from '../core/cellsim';
import type { Random } from '../core/cellsim';
import { HOUR_MS } from '../core/measure';
import { answeredItems, DEFAULT_CHECKLISTS } from '../core/inspection';
import type { Marks, Occasion, Swelling } from '../core/inspection';
import type { Actor } from '../core/lifecycle';
import type { CraftId, Instant, PersonId, PlaceId, RecordId } from '../core/measure';
import type { ReadingCondition } from '../core/reading';
import { BLANK_CHARGE, BLANK_FLIGHT, BLANK_RETURNED, BLANK_TAKEN_OUT } from '../core/record';
import type { ChargePayload, FlightPayload, RecordBody, RecordDraft } from '../core/record';
import { PEOPLE } from './cast';
import type { PersonKey, PlaceKey } from './cast';

/** One record of the made-up past and who wrote it. */
export interface Entry {
  readonly by: PersonKey;
  readonly draft: RecordDraft;
}

/** How the story puts ids to the names it uses. */
export interface Directory {
  readonly person: (key: PersonKey) => PersonId;
  readonly place: (key: PlaceKey) => PlaceId;
  /** Null for what is no craft: a transmitter, the ground station. */
  readonly craft: (name: string) => CraftId | null;
}

/** The hexacopter flew with other arms before the season began. */
const SETUP_OF: Readonly<Record<string, number>> = { 'Mapping hexacopter': 1 };

/** Notes records down in the order they happen. */
export class Diary {
  readonly entries: Entry[] = [];

  constructor(
    private readonly random: Random,
    private readonly directory: Directory,
    /** Chance of its own for what was looked at, so that a changed checklist changes no voltage of the season. */
    private readonly looks: Random,
  ) {}

  write(by: PersonKey, at: Instant, body: RecordBody, random = this.random): RecordId {
    const id = seededId(random, at) as RecordId;
    this.entries.push({ by, draft: { ...body, id, at: Math.round(at) } });
    return id;
  }

  reading(
    by: PersonKey,
    at: Instant,
    cellsMv: readonly number[],
    condition: ReadingCondition,
    remarks: string | null = null,
  ): RecordId {
    const bench = condition === 'rested' && (by === 'ineke' || by === 'tolle');
    return this.write(by, at, {
      kind: 'reading',
      payload: {
        volts: { of: 'cells', cellsMv },
        condition,
        instrument: bench ? 'Bench meter' : 'Field cell checker',
        meterErrorMv: bench ? 3 : 10,
        temperatureC: null,
        remarks,
      },
      supersedes: null,
    });
  }

  /** Takes back the last entry where it is a reading: nobody took it. */
  notRead(): void {
    if (this.entries.at(-1)?.draft.kind === 'reading') this.entries.pop();
  }

  total(by: PersonKey, at: Instant, packMv: number): RecordId {
    return this.write(by, at, {
      kind: 'reading',
      payload: {
        volts: { of: 'pack', packMv },
        condition: 'rested',
        instrument: 'Bench meter',
        meterErrorMv: 3,
        temperatureC: null,
        remarks: null,
      },
      supersedes: null,
    });
  }

  charge(by: PersonKey, at: Instant, charge: Partial<ChargePayload> & Pick<ChargePayload, 'mode'>): RecordId {
    return this.write(by, at, {
      kind: 'charge',
      payload: { ...BLANK_CHARGE, ...charge },
      supersedes: null,
    });
  }

  flight(by: PersonKey, at: Instant, flight: Partial<FlightPayload>): RecordId {
    const craftId = flight.craft ? this.directory.craft(flight.craft) : null;
    return this.write(by, at, {
      kind: 'flight',
      payload: {
        ...BLANK_FLIGHT,
        ...flight,
        ...(craftId ? { craftId, craftSetup: SETUP_OF[flight.craft!] ?? 0 } : {}),
      },
      supersedes: null,
    });
  }

  resistance(by: PersonKey, at: Instant, irMilliohm: readonly number[], temperatureC: number): RecordId {
    return this.write(by, at, {
      kind: 'resistance',
      payload: { irMilliohm, temperatureC, instrument: 'Bench meter', remarks: null },
      supersedes: null,
    });
  }

  /** A look over the pack by the practice's checklist: all in order but what is named. */
  inspection(
    by: PersonKey,
    at: Instant,
    occasion: Occasion,
    more: { thicknessMm?: number; massG?: number; swelling?: Swelling; wrong?: Marks; remarks?: string } = {},
  ): RecordId {
    const { thicknessMm = null, massG = null, swelling = 'none', wrong = {}, remarks = null } = more;
    const items = answeredItems(DEFAULT_CHECKLISTS[occasion], wrong);
    const payload = { occasion, items, swelling, thicknessMm, massG, remarks };
    return this.write(by, at, { kind: 'inspection', payload, supersedes: null }, this.looks);
  }

  moved(by: PersonKey, at: Instant, place: PlaceKey, holder: PersonKey | null): void {
    this.write(by, at, {
      kind: 'moved',
      payload: { placeId: this.directory.place(place), holderId: holder && this.directory.person(holder) },
      supersedes: null,
    });
  }

  /** Somebody takes it along, wanted back so many hours later; nobody says when where that is null. */
  takenOut(
    by: PersonKey,
    at: Instant,
    craft: string,
    hours: number | null,
    more: { random?: Random; from?: PersonKey } = {},
  ): void {
    const payload = {
      ...BLANK_TAKEN_OUT,
      craftId: this.directory.craft(craft),
      fromId: more.from ? this.directory.person(more.from) : null,
      dueBackAt: hours === null ? null : Math.round(at + hours * HOUR_MS),
    };
    this.write(by, at, { kind: 'taken-out', payload, supersedes: null }, more.random);
  }

  returned(by: PersonKey, at: Instant, place: PlaceKey): void {
    const payload = { ...BLANK_RETURNED, placeId: this.directory.place(place), unplugged: true };
    this.write(by, at, { kind: 'returned', payload, supersedes: null });
  }

  /** An entry whose chance is its own, so that it changes no voltage of the season. */
  alsoTakenOut(by: PersonKey, at: Instant, craft: string, hours: number): void {
    this.takenOut(by, at, craft, hours, { random: this.looks });
  }

  note(by: PersonKey, at: Instant, text: string): void {
    this.write(by, at, { kind: 'note', payload: { text }, supersedes: null });
  }

  /** Puts a mistyped reading right. */
  corrected(
    by: PersonKey,
    at: Instant,
    supersedes: RecordId,
    cellsMv: readonly number[],
    reason: string,
  ): void {
    this.write(by, at, {
      kind: 'correction',
      supersedes,
      payload: {
        reason,
        replacement: {
          kind: 'reading',
          payload: {
            volts: { of: 'cells', cellsMv },
            condition: 'rested',
            instrument: 'Bench meter',
            meterErrorMv: 3,
            temperatureC: null,
            remarks: null,
          },
        },
      },
    });
  }
}

/** Whoever a key of the cast stands for, as the ledger knows them. */
export function actorOf(key: PersonKey, directory: Directory): Actor {
  return { id: directory.person(key), role: PEOPLE.find((person) => person.key === key)!.role };
}
