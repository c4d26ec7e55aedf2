import type { PersonId, PlaceId } from '../../core/measure';
import type { Correctable, PackRecord, ReadingPayload } from '../../core/record';
import { volts } from '../../core/wording';

/** Names for ids, for putting records into words. */
export interface Names {
  readonly place: (id: PlaceId) => string;
  readonly person: (id: PersonId) => string;
}

export const KIND_WORDS: Readonly<Record<PackRecord['kind'], string>> = {
  received: 'Received',
  reading: 'Reading',
  moved: 'Moved',
  note: 'Note',
  correction: 'Correction',
};

/** A record in one line: measured figures apart from words, because they are set in another face. */
export interface RecordLine {
  readonly figures: string;
  readonly words: string;
}

/** What a record says. */
export function recordLine(record: Correctable, names: Names): RecordLine {
  if (record.kind === 'reading') return readingLine(record.payload);
  return { figures: '', words: wordsOf(record, names) };
}

function wordsOf(record: Exclude<Correctable, { kind: 'reading' }>, names: Names): string {
  switch (record.kind) {
    case 'received': {
      const { source, placeId } = record.payload;
      return [source ?? 'Taken into the register', placeId && `laid in ${names.place(placeId)}`]
        .filter(Boolean)
        .join(', ');
    }
    case 'moved': {
      const { placeId, holderId } = record.payload;
      const where = placeId ? `to ${names.place(placeId)}` : 'to no fixed place';
      return holderId ? `${where}, with ${names.person(holderId)}` : where;
    }
    case 'note':
      return record.payload.text;
    default:
      return record satisfies never;
  }
}

function readingLine({
  volts: read,
  condition,
  instrument,
  temperatureC,
  remarks,
}: ReadingPayload): RecordLine {
  const figures =
    read.of === 'cells' ? read.cellsMv.map(volts).join(' ') : `${volts(read.packMv)} V the pack`;
  const more = [
    condition === 'loaded' ? 'under load' : condition,
    instrument,
    temperatureC === null ? null : `${temperatureC} °C`,
    remarks,
  ];
  return { figures, words: more.filter(Boolean).join(' · ') };
}
