import { assess, isOutOfUse, speaksAgainstUse } from '../assess';
import { CHEMISTRY } from '../chemistry';
import { mayDo } from '../lifecycle';
import type { Actor } from '../lifecycle';
import type { Instant } from '../measure';
import type { PackFacts } from '../pack';
import { fold, RECORD_KINDS } from '../record';
import type { Correctable, PackRecord, ReadVolts, RecordDraft } from '../record';
import type { Circumstances } from './circumstances';
import { CLOCK_SLACK_MS } from './clockSlack';
import { refusedConfirmation, refusedDecision } from './decisions';
import type { DecisionRefusal } from './decisions';
import { refusedDisposal } from './disposal';
import type { DisposalRefusal } from './disposal';
import { refusedRecovery } from './recovery';
import type { RecoveryRefusal } from './recovery';
import { isUse, refusedUse } from './use';
import type { UseRefusal } from './use';

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
  | { readonly code: 'not-yours-to-correct'; readonly field: string }
  /** It would end a hold, which only a person who may release can, and not without a look. */
  | { readonly code: 'would-release'; readonly field: string; readonly lacks: 'right' | 'inspection' }
  | { readonly code: 'through-its-own'; readonly field: string; readonly what: 'incident' | 'consignment' }
  | { readonly code: 'watch-not-running'; readonly field: string }
  | { readonly code: 'recycled'; readonly field: string }
  /** The register does not know it as a smart pack. */
  | { readonly code: 'no-memory'; readonly field: string }
  | DecisionRefusal
  | DisposalRefusal
  | RecoveryRefusal
  | UseRefusal;

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
  circumstances: Circumstances,
): readonly RecordRefusal[] {
  const asked: AtTheGate = { pack, records, draft, actor, now, circumstances };
  return [...refusedTime(asked), ...refusedBody(asked)];
}

/** One draft at the gate, and all that is looked at to let it in. */
export interface AtTheGate<Draft extends RecordDraft = RecordDraft> {
  readonly pack: PackFacts;
  readonly records: readonly PackRecord[];
  readonly draft: Draft;
  readonly actor: Actor;
  readonly now: Instant;
  readonly circumstances: Circumstances;
}

function refusedTime({ records, draft, now, circumstances }: AtTheGate): RecordRefusal[] {
  if (draft.at > now + CLOCK_SLACK_MS) return [{ code: 'in-the-future', field: 'at', at: draft.at, now }];
  const received = records.find((record) => record.kind === 'received');
  const hadALife = circumstances.through === 'import' && received?.payload.before != null;
  if (received && draft.at < received.at && !hadALife) {
    return [{ code: 'before-receipt', field: 'at', receivedAt: received.at }];
  }
  return [];
}

function refusedBody(asked: AtTheGate): RecordRefusal[] {
  const { pack, records, draft } = asked;
  if (draft.kind !== 'note' && draft.kind !== 'incident' && draft.kind !== 'correction' && isRecycled(asked))
    return [{ code: 'recycled', field: 'kind' }];
  switch (draft.kind) {
    case 'received':
      return records.length > 0 ? [{ code: 'received-twice', field: 'kind' }] : [];
    case 'reading':
    case 'resistance':
      return refusedMeasures(pack, draft, 'payload');
    case 'charge':
    case 'flight':
      return [...refusedMeasures(pack, draft, 'payload'), ...refusedUse({ ...asked, draft })];
    case 'moved':
    case 'taken-out':
    case 'returned':
      return refusedUse({ ...asked, draft });
    case 'memory':
      return pack.smart === null ? [{ code: 'no-memory', field: 'kind' }] : [];
    case 'inspection':
    case 'note':
    case 'inspection-asked':
      return [];
    case 'incident':
      return throughItsOwn(asked, 'incident');
    case 'watch-ended':
      return watchRuns(asked, draft.payload.incidentId)
        ? []
        : [{ code: 'watch-not-running', field: 'payload.incidentId' }];
    case 'decision':
      return [...refusedDecision({ ...asked, draft })];
    case 'confirmation':
      return [...refusedConfirmation({ ...asked, draft })];
    case 'recovery':
      return [...refusedRecovery({ ...asked, draft })];
    case 'disposal': {
      const { step } = draft.payload;
      const consigning = step === 'consigned' || step === 'taken-back' || step === 'recycled';
      return [
        ...(consigning ? throughItsOwn(asked, 'consignment') : []),
        ...refusedDisposal({ ...asked, draft }),
      ];
    }
    case 'correction':
      return refusedCorrection({ ...asked, draft });
    default:
      return draft satisfies never;
  }
}

/** Only a pack whose ledger holds a step towards the recycler needs folding to tell. */
function isRecycled({ pack, records }: AtTheGate): boolean {
  return records.some(({ kind }) => kind === 'disposal') && fold(pack, records).life.state === 'recycled';
}

function throughItsOwn({ circumstances }: AtTheGate, what: 'incident' | 'consignment'): RecordRefusal[] {
  return circumstances.through === what ? [] : [{ code: 'through-its-own', field: 'kind', what }];
}

function watchRuns({ pack, records, now, circumstances }: AtTheGate, incidentId: string): boolean {
  const { watch } = assess(fold(pack, records), circumstances.rules, now);
  return watch !== null && watch.incidentId === incidentId && now < watch.until;
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
    case 'taken-out':
    case 'returned':
    case 'memory':
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

function refusedCorrection(asked: AtTheGate<Extract<RecordDraft, { kind: 'correction' }>>): RecordRefusal[] {
  const { pack, records, draft, actor, circumstances } = asked;
  const corrected = records.find((record) => record.id === draft.supersedes);
  if (!corrected || !isCorrectable(corrected)) return [{ code: 'corrects-nothing', field: 'supersedes' }];
  if (corrected.by !== actor.id && !mayDo(actor.role, 'record.correct.any')) {
    return [{ code: 'not-yours-to-correct', field: 'supersedes' }];
  }
  const { replacement } = draft.payload;
  if (replacement === null) {
    if (circumstances.through === 'import') return [];
    return corrected.kind === 'received'
      ? [{ code: 'receipt-stays', field: 'payload.replacement' }]
      : wouldRelease(asked, corrected);
  }
  if (replacement.kind !== corrected.kind) {
    return [{ code: 'corrects-other-kind', field: 'payload.replacement', kind: corrected.kind }];
  }
  return [
    ...refusedMeasures(pack, replacement, 'payload.replacement.payload'),
    ...refusedUseInstead(asked, corrected, replacement),
    ...wouldRelease(asked, corrected),
  ];
}

/** What a use should have been is held to what the use itself is, at its own time: a correction signs no held pack out. */
function refusedUseInstead(
  asked: AtTheGate,
  corrected: PackRecord,
  replacement: Correctable,
): RecordRefusal[] {
  if (!isUse(replacement)) return [];
  const draft = { ...replacement, id: corrected.id, at: corrected.at, supersedes: null };
  const records = asked.records.filter(({ id }) => id !== corrected.id);
  return refusedUse({ ...asked, draft, records }).map((why) => ({
    ...why,
    field: `payload.replacement.${why.field}`,
  }));
}

/** What can be put right; decisions and steps stand, and are answered by later ones. */
export function isCorrectable(record: PackRecord): record is PackRecord & Correctable & { supersedes: null } {
  return RECORD_KINDS[record.kind].correctable;
}

/**
 * A correction may take the ground from under a hold. Whoever may not release may not do it this way either, and what an
 * inspection found is only taken back once another found the pack sound.
 */
function wouldRelease(
  { pack, records, draft, actor, now, circumstances: { rules } }: AtTheGate,
  corrected: PackRecord,
): RecordRefusal[] {
  const before = assess(fold(pack, records), rules, now);
  if (!isOutOfUse(before.verdict)) return [];
  const correction = { ...draft, packId: pack.id, seq: records.length + 1, recordedAt: now, by: actor.id };
  const after = assess(fold(pack, [...records, { ...correction, rulesVersion: 0 }]), rules, now);
  const gone = before.findings.some(
    (finding) =>
      speaksAgainstUse(finding) &&
      !after.findings.some((other) => other.rule === finding.rule && speaksAgainstUse(other)),
  );
  if (!gone) return [];
  const field = 'payload.replacement';
  if (!mayDo(actor.role, 'record.decision')) return [{ code: 'would-release', field, lacks: 'right' }];
  if (corrected.kind !== 'inspection') return [];
  const seen = fold(pack, records).inspections.some(
    ({ at, items, swelling }) =>
      at > corrected.at && (swelling ?? 'none') === 'none' && items.every(({ answer }) => answer !== 'fail'),
  );
  return seen ? [] : [{ code: 'would-release', field, lacks: 'inspection' }];
}
