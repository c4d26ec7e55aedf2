import type { Role } from '../lifecycle';
import type { CraftId, IncidentId, PlaceId, RecordId } from '../measure';
import { BLANK_CHARGE, BLANK_FLIGHT, BLANK_MEMORY, BLANK_RETURNED, BLANK_TAKEN_OUT } from './blank';
import type { Correctable, RecordBody, RecordKind } from './record';

/** What a record may name by its id in the register. */
export type Named =
  | 'place'
  | 'person'
  | 'photo'
  | 'incident'
  | 'consignment'
  | 'equipment'
  | 'craft'
  | 'flying_day'
  | 'device'
  | 'charge_curve';

/** Something a record names, and the field of its payload that names it. */
export interface NamedAt {
  readonly table: Named;
  readonly id: string;
  readonly field: string;
}

export type PayloadOf<Kind extends RecordKind> = Extract<RecordBody, { kind: Kind }>['payload'];

/** What the program must know of one kind of record. */
export interface KindFacts<Kind extends RecordKind> {
  /** What it says of a pack, for whoever reads the formats. */
  readonly says: string;
  /** The least role that may write it; every greater one may too. */
  readonly writtenBy: Exclude<Role, 'reader' | 'officer'>;
  /** Whether it can be put right by a correction, or stands and is answered by later records. */
  readonly correctable: Kind extends Correctable['kind'] ? true : false;
  /** What the register must know before it can be kept. */
  readonly names: (payload: PayloadOf<Kind>) => readonly NamedAt[];
  /** A payload as it may be written. */
  readonly example: PayloadOf<Kind>;
}

const nothing = () => [];

function named(table: Named, id: string | null, field: string): readonly NamedAt[] {
  return id === null ? [] : [{ table, id, field }];
}

const EXAMPLE_ID = '0195a000-0000-7000-8000-000000000001';

/**
 * Every kind of record there is, one entry a kind. Who may write it, whether it can be corrected, what it names, the contract's schema and
 * the formats derive from here, and a kind without an entry does not compile.
 */
export const RECORD_KINDS: { readonly [Kind in RecordKind]: KindFacts<Kind> } = {
  received: {
    says: 'The pack came into the register.',
    writtenBy: 'deputy',
    correctable: true,
    names: ({ placeId }) => named('place', placeId, 'placeId'),
    example: { source: 'a delivery', placeId: null },
  },
  reading: {
    says: 'Its volts, cell by cell, or in sum where it has no taps.',
    writtenBy: 'pilot',
    correctable: true,
    names: ({ measured }) => named('device', measured?.deviceId ?? null, 'measured.deviceId'),
    example: {
      volts: { of: 'cells', cellsMv: [3840, 3830, 3850, 3840] },
      condition: 'rested',
      instrument: 'Bench meter',
      meterErrorMv: 3,
      temperatureC: null,
      remarks: null,
    },
  },
  resistance: {
    says: 'Its internal resistance, milliohms a cell, at a temperature.',
    writtenBy: 'pilot',
    correctable: true,
    names: nothing,
    example: { irMilliohm: [4.1, 4, 4.2, 4.1], temperatureC: 21, instrument: 'Bench meter', remarks: null },
  },
  charge: {
    says: 'One job on a charger; `at` is its end.',
    writtenBy: 'pilot',
    correctable: true,
    names: ({ bench, curveId }) => [
      ...named('equipment', bench?.equipmentId ?? null, 'bench.equipmentId'),
      ...named('charge_curve', curveId ?? null, 'curveId'),
    ],
    example: {
      ...BLANK_CHARGE,
      charger: 'Bench charger',
      settings: { chemistry: 'lipo', cells: 4, topMv: 4200, currentA: 3.3 },
      movedMah: 1900,
      minutes: 48,
      balanced: true,
    },
  },
  flight: {
    says: 'One flight or other use; `at` is its end. `pilotId` is null where the writer flew.',
    writtenBy: 'pilot',
    correctable: true,
    names: ({ pilotId, craftId }) => [
      ...named('person', pilotId, 'pilotId'),
      ...named('craft', craftId ?? null, 'craftId'),
    ],
    example: { ...BLANK_FLIGHT, craft: 'survey wing', minutes: 14, usedMah: 2300, hottestC: 41 },
  },
  inspection: {
    says: 'A look over it by a checklist, every item answered as it was asked.',
    writtenBy: 'pilot',
    correctable: true,
    names: ({ items }) =>
      items.flatMap(({ photoIds }, i) => photoIds.flatMap((id) => named('photo', id, `items.${i}.photoIds`))),
    example: {
      occasion: 'after-use',
      items: [
        {
          key: 'swelling',
          asks: 'Swelling',
          failMeans: 'hold',
          answer: 'ok',
          note: null,
          photoIds: [],
        },
      ],
      swelling: 'none',
      thicknessMm: null,
      massG: null,
      remarks: null,
    },
  },
  moved: {
    says: 'Where it lies and who has it, null for neither.',
    writtenBy: 'pilot',
    correctable: true,
    names: ({ placeId, holderId }) => [
      ...named('place', placeId, 'placeId'),
      ...named('person', holderId, 'holderId'),
    ],
    example: { placeId: EXAMPLE_ID as PlaceId, slot: 3, holderId: null },
  },
  'taken-out': {
    says: 'Somebody took it to fly; `holderId` is null where the writer did, `fromId` whom they took it from as they knew it.',
    writtenBy: 'pilot',
    correctable: true,
    names: ({ holderId, fromId, craftId, dayId }) => [
      ...named('person', holderId, 'holderId'),
      ...named('person', fromId, 'fromId'),
      ...named('craft', craftId, 'craftId'),
      ...named('flying_day', dayId, 'dayId'),
    ],
    example: { ...BLANK_TAKEN_OUT, craftId: EXAMPLE_ID as CraftId, dueBackAt: 1_772_500_000_000 },
  },
  returned: {
    says: 'It came back; its flights are records of their own, and `used` is false where there was none.',
    writtenBy: 'pilot',
    correctable: true,
    names: ({ placeId }) => named('place', placeId, 'placeId'),
    example: {
      ...BLANK_RETURNED,
      placeId: EXAMPLE_ID as PlaceId,
      unplugged: true,
      counters: { cycles: 41, faults: 0 },
    },
  },
  memory: {
    says: 'What a smart pack’s own memory said, or was set to; null where it could not be read, which is never “no faults”.',
    writtenBy: 'pilot',
    correctable: true,
    names: ({ adapterId, measured }) => [
      ...named('equipment', adapterId, 'adapterId'),
      ...named('device', measured?.deviceId ?? null, 'measured.deviceId'),
    ],
    example: {
      did: 'read',
      memory: {
        ...BLANK_MEMORY,
        storage: { isOn: true, afterHours: 48, mv: 3850 },
        topMv: 4200,
        cycles: 41,
        overCharges: 0,
        overDischarges: 0,
        overTemperatures: 0,
      },
      adapterId: null,
      remarks: null,
    },
  },
  note: {
    says: 'What nothing else says.',
    writtenBy: 'pilot',
    correctable: true,
    names: nothing,
    example: { text: 'New wrap, printed label.' },
  },
  incident: {
    says: 'The pack was in an incident; written with the incident, never by itself.',
    writtenBy: 'pilot',
    correctable: false,
    names: ({ incidentId }) => named('incident', incidentId, 'incidentId'),
    example: { incidentId: EXAMPLE_ID as IncidentId, kind: 'crash', holds: true },
  },
  'watch-ended': {
    says: 'The watch after an incident was ended before its time.',
    writtenBy: 'deputy',
    correctable: false,
    names: ({ incidentId }) => named('incident', incidentId, 'incidentId'),
    example: { incidentId: EXAMPLE_ID as IncidentId, reason: 'Cold and quiet.' },
  },
  'inspection-asked': {
    says: 'It is to be looked over before it is used again.',
    writtenBy: 'deputy',
    correctable: false,
    names: ({ incidentId }) => named('incident', incidentId, 'incidentId'),
    example: { incidentId: null, reason: 'A pack of the same delivery swelled.' },
  },
  decision: {
    says: 'A hold, a release with the findings it answers, or a retirement; names the record it was based on.',
    writtenBy: 'deputy',
    correctable: false,
    names: nothing,
    example: { basedOnSeq: 12, reason: 'Looked over and read.', what: { to: 'hold' } },
  },
  confirmation: {
    says: 'The second name under a retirement.',
    writtenBy: 'deputy',
    correctable: false,
    names: nothing,
    example: { basedOnSeq: 13, decisionId: EXAMPLE_ID as RecordId, reason: null },
  },
  recovery: {
    says: 'A step of bringing an over-discharged pack up again, never left alone.',
    writtenBy: 'custodian',
    correctable: false,
    names: nothing,
    example: { step: 'looked', feels: 'cool', cellsMv: [3010, 3020, 3010, 3020] },
  },
  disposal: {
    says: 'A step on the way out; `consigned`, `taken-back` and `recycled` are written by a consignment only.',
    writtenBy: 'deputy',
    correctable: false,
    names: (payload) => {
      if ('placeId' in payload) return named('place', payload.placeId, 'placeId');
      return 'consignmentId' in payload ? named('consignment', payload.consignmentId, 'consignmentId') : [];
    },
    example: { step: 'marked' },
  },
  correction: {
    says: 'What `supersedes` names should have said, or null where it should not be there.',
    writtenBy: 'pilot',
    correctable: false,
    names: ({ replacement }) =>
      replacement
        ? namedBy(replacement).map(({ field, ...one }) => ({ ...one, field: `replacement.payload.${field}` }))
        : [],
    example: { reason: 'Typed for the wrong pack.', replacement: null },
  },
};

/** What a record names in the register, whatever its kind. Fields are paths into its payload. */
export function namedBy(body: Correctable | RecordBody): readonly NamedAt[] {
  // The compiler cannot see that a body's kind and payload belong together once the entry is looked up by name.
  const names = RECORD_KINDS[body.kind].names as (payload: typeof body.payload) => readonly NamedAt[];
  return names(body.payload);
}
