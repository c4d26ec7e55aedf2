import { CHEMISTRY } from '../chemistry';
import { MINUTE_MS } from '../measure';
import type { Instant, PersonId } from '../measure';
import type { PackFacts } from '../pack';
import { mayDo } from '../lifecycle';
import type { Role } from '../lifecycle';
import type { Correctable, PackRecord, ReadVolts, RecordDraft } from './record';

/** Why a record is not taken: the field it is about, and the values its sentence needs. */
export type RecordRefusal =
  | { readonly code: 'cell-count'; readonly field: string; readonly given: number; readonly wanted: number }
  | {
      readonly code: 'cell-impossible';
      readonly field: string;
      readonly cell: number;
      readonly mv: number;
      readonly maxMv: number;
    }
  | { readonly code: 'cells-wanted'; readonly field: string; readonly wanted: number }
  | { readonly code: 'in-the-future'; readonly field: string; readonly at: Instant; readonly now: Instant }
  | { readonly code: 'before-receipt'; readonly field: string; readonly receivedAt: Instant }
  | { readonly code: 'received-twice'; readonly field: string }
  | { readonly code: 'corrects-nothing'; readonly field: string }
  | { readonly code: 'corrects-other-kind'; readonly field: string; readonly kind: Correctable['kind'] }
  | { readonly code: 'receipt-stays'; readonly field: string }
  | { readonly code: 'not-yours-to-correct'; readonly field: string };

export interface Actor {
  readonly id: PersonId;
  readonly role: Role;
}

/** Clocks of phones and laptops differ a little; a record this far ahead of the server's is still of now. */
export const CLOCK_SLACK_MS = 2 * MINUTE_MS;

/**
 * Whether a record may join a pack's ledger now: what is wrong with it, field by field, or nothing.
 * @param records all of the pack's records so far
 */
export function refusalsOf(
  pack: PackFacts,
  records: readonly PackRecord[],
  draft: RecordDraft,
  actor: Actor,
  now: Instant,
): readonly RecordRefusal[] {
  return [...refusedTime(records, draft, now), ...refusedBody(pack, records, draft, actor)];
}

function refusedTime(records: readonly PackRecord[], draft: RecordDraft, now: Instant): RecordRefusal[] {
  if (draft.at > now + CLOCK_SLACK_MS) return [{ code: 'in-the-future', field: 'at', at: draft.at, now }];
  const received = records.find((record) => record.kind === 'received');
  if (received && draft.at < received.at) {
    return [{ code: 'before-receipt', field: 'at', receivedAt: received.at }];
  }
  return [];
}

function refusedBody(
  pack: PackFacts,
  records: readonly PackRecord[],
  draft: RecordDraft,
  actor: Actor,
): RecordRefusal[] {
  switch (draft.kind) {
    case 'received':
      return records.length > 0 ? [{ code: 'received-twice', field: 'kind' }] : [];
    case 'reading':
    case 'resistance':
    case 'charge':
    case 'flight':
      return refusedMeasures(pack, draft, 'payload');
    case 'inspection':
    case 'moved':
    case 'note':
      return [];
    case 'correction':
      return refusedCorrection(pack, records, draft, actor);
    default:
      return draft satisfies never;
  }
}

/** What was measured must fit the pack: a value for every cell, none beyond what its chemistry can show. */
function refusedMeasures(pack: PackFacts, said: Correctable, field: string): RecordRefusal[] {
  switch (said.kind) {
    case 'reading':
      return refusedVolts(pack, said.payload.volts, `${field}.volts`);
    case 'resistance':
      return refusedCount(pack, said.payload.irMilliohm, `${field}.irMilliohm`);
    case 'charge':
      return (['startCellsMv', 'endCellsMv'] as const).flatMap((name) => {
        const cellsMv = said.payload[name];
        return cellsMv ? refusedVolts(pack, { of: 'cells', cellsMv }, `${field}.${name}`) : [];
      });
    case 'flight': {
      const { landing } = said.payload;
      return landing ? refusedVolts(pack, landing.volts, `${field}.landing.volts`, 'rough') : [];
    }
    case 'received':
    case 'inspection':
    case 'moved':
    case 'note':
      return [];
    default:
      return said satisfies never;
  }
}

function refusedCount(pack: PackFacts, values: readonly number[], field: string): RecordRefusal[] {
  return values.length === pack.series
    ? []
    : [{ code: 'cell-count', field, given: values.length, wanted: pack.series }];
}

/** @param need `rough` takes a pack's total where cells could be read: in the air nobody has a balance lead at hand */
function refusedVolts(
  pack: PackFacts,
  volts: ReadVolts,
  field: string,
  need: 'every-cell' | 'rough' = 'every-cell',
): RecordRefusal[] {
  const { cellTaps, plausibleMaxMv: maxMv } = CHEMISTRY[pack.chemistry];
  if (volts.of === 'pack') {
    if (cellTaps && pack.series > 1 && need === 'every-cell')
      return [{ code: 'cells-wanted', field, wanted: pack.series }];
    const averageMv = Math.round(volts.packMv / pack.series);
    return averageMv > maxMv ? [{ code: 'cell-impossible', field, cell: 1, mv: averageMv, maxMv }] : [];
  }
  const { cellsMv } = volts;
  const miscounted = refusedCount(pack, cellsMv, field);
  if (miscounted.length > 0) return miscounted;
  return cellsMv.flatMap((mv, i) =>
    mv > maxMv ? [{ code: 'cell-impossible' as const, field, cell: i + 1, mv, maxMv }] : [],
  );
}

function refusedCorrection(
  pack: PackFacts,
  records: readonly PackRecord[],
  draft: Extract<RecordDraft, { kind: 'correction' }>,
  actor: Actor,
): RecordRefusal[] {
  const corrected = records.find((record) => record.id === draft.supersedes);
  if (!corrected || corrected.kind === 'correction')
    return [{ code: 'corrects-nothing', field: 'supersedes' }];
  if (corrected.by !== actor.id && !mayDo(actor.role, 'record.correct.any')) {
    return [{ code: 'not-yours-to-correct', field: 'supersedes' }];
  }
  const { replacement } = draft.payload;
  if (replacement === null) {
    return corrected.kind === 'received' ? [{ code: 'receipt-stays', field: 'payload.replacement' }] : [];
  }
  if (replacement.kind !== corrected.kind) {
    return [{ code: 'corrects-other-kind', field: 'payload.replacement', kind: corrected.kind }];
  }
  return refusedMeasures(pack, replacement, 'payload.replacement.payload');
}
