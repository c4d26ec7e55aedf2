import { isDeepStrictEqual } from 'node:util';
import type { FieldProblem, LiveMessage } from '../../contract';
import { mayDo } from '../../core/lifecycle';
import type { Actor } from '../../core/lifecycle';
import type { Instant, PackId } from '../../core/measure';
import { refusalsOf } from '../../core/admission';
import type { Circumstances } from '../../core/admission';
import type { PackRecord, RecordDraft } from '../../core/record';
import { KIND_WORDS, plural, recordRefusalSentence } from '../../core/wording';
import type { Entities, Statement } from '../platform/database';
import { announcementOf } from '../platform/live';
import { Refused } from '../platform/problems';
import { contextOf, placeUses } from './context';
import { endsAt, kept } from './keptLedgers';
import { projectionOf, upsertOf } from './projection';
import type { RulesInForce } from './projection';
import { referencesOf, strangeMemories, unknownTo, unsaidReadings } from './references';
import { chain, insertOf, lockedFacts } from './rows';
import type { ChainedRecord } from './rows';

/** Who a record is taken from, and when. */
export interface Intake {
  readonly actor: Actor;
  readonly recordedAt: Instant;
}

/** The number of the latest record a decision was made on; null for what decides nothing. */
function basedOn(draft: RecordDraft): number | null {
  if (draft.kind === 'decision' || draft.kind === 'confirmation') return draft.payload.basedOnSeq;
  return draft.kind === 'recovery' && draft.payload.step === 'begun' ? draft.payload.basedOnSeq : null;
}

/**
 * The one way anything gets into the ledger. All records of a call are kept, or none. A record whose id the pack
 * already has is taken as arrived, so a retry is harmless; the same id with other contents is refused.
 * @param intake who each record is taken from and when: whoever asks, now, except for the made-up register's past
 * @returns the records as the ledger holds them, in the order given
 */
export async function append(
  em: Entities,
  packId: PackId,
  drafts: readonly RecordDraft[],
  intake: (draft: RecordDraft) => Intake,
  through: Circumstances['through'] = 'records',
): Promise<readonly PackRecord[]> {
  return em.transactional(async (tx) => {
    const [own] = await lockedFacts(tx, [packId]);
    if (!own) throw new Refused('not-found', { detail: 'There is no such pack.' });
    const { standings, rules, placeTemperatures, known } = await contextOf(tx, [packId], drafts);
    const { head, left } = standings.get(packId)!;
    // Written on, the ledger would look whole again: whoever cut it off would have made it so.
    if (!endsAt(head, left)) throw new Refused('ledger-broken');
    const pack = { ...own, placeTemperatures };
    const stored = await kept.upTo(tx, packId, head);
    if (stored.length !== (head?.seq ?? 0)) throw new Refused('ledger-broken');
    const circumstances = { rules: rules.rules, places: await placeUses(tx, packId, drafts), through };
    const ledger = [...stored];
    const answers: PackRecord[] = [];
    const problems: FieldProblem[] = [
      ...unknownTo(known, referencesOf(drafts)),
      ...(await unsaidReadings(tx, drafts)),
      ...(await strangeMemories(tx, packId, drafts)),
    ];
    for (const [i, draft] of drafts.entries()) {
      const arrived = ledger.find(({ id }) => id === draft.id);
      if (arrived) {
        if (!says(arrived, draft)) throw new Refused('id-taken');
        answers.push(arrived);
        continue;
      }
      const taken = intake(draft);
      refuseUnlessAllowed(draft, taken.actor);
      refuseIfOutdated(draft, ledger);
      const refusals = refusalsOf(pack, ledger, draft, taken.actor, taken.recordedAt, circumstances);
      problems.push(
        ...refusals.map((why) => ({
          field: `records.${i}.${why.field}`,
          message: recordRefusalSentence(why),
        })),
      );
      const record = recordOf(draft, packId, ledger.length + 1, taken, rules);
      ledger.push(record);
      answers.push(record);
    }
    if (problems.length > 0) throw new Refused('invalid-input', { errors: problems });
    const fresh = chain(ledger.slice(stored.length), head?.hash ?? null);
    const last = fresh.at(-1);
    if (!last) return answers;
    const row = projectionOf(pack, ledger, { seq: ledger.length, hash: last.hash }, rules);
    await write(tx, fresh, upsertOf([row]), { about: 'pack', packId, seq: ledger.length });
    kept.add(packId, stored, fresh);
    return answers;
  });
}

function refuseUnlessAllowed(draft: RecordDraft, actor: Actor): void {
  if (!mayDo(actor.role, `record.${draft.kind}`)) throw new Refused('not-allowed');
}

/** A decision made on an older page is refused with what came since, so that its maker can look and decide again. */
function refuseIfOutdated(draft: RecordDraft, ledger: readonly PackRecord[]): void {
  const seen = basedOn(draft);
  if (seen === null || seen >= ledger.length) return;
  const since = ledger.slice(seen).map(({ kind }) => KIND_WORDS[kind]);
  throw new Refused('changed-meanwhile', {
    detail: `Since this page was drawn, ${plural(since.length, 'record')} came: ${[...new Set(since)].join(', ')}. Look at them, then decide.`,
  });
}

/** Writes records and what they make of their pack, and tells everybody once this is committed: one statement for the three. */
async function write(
  em: Entities,
  fresh: readonly ChainedRecord[],
  upsert: Statement,
  message: LiveMessage,
): Promise<void> {
  const insert = insertOf(fresh);
  const announcement = announcementOf(message);
  await em.execute(`with kept as (${insert.sql}), judged as (${upsert.sql}) ${announcement.sql}`, [
    ...insert.params,
    ...upsert.params,
    ...announcement.params,
  ]);
}

function recordOf(
  draft: RecordDraft,
  packId: PackId,
  seq: number,
  { actor, recordedAt }: Intake,
  rules: RulesInForce,
): PackRecord {
  return { ...draft, packId, seq, recordedAt, by: actor.id, rulesVersion: rules.version };
}

function says(arrived: PackRecord, draft: RecordDraft): boolean {
  const { id, at, kind, payload, supersedes } = arrived;
  return isDeepStrictEqual({ id, at, kind, payload, supersedes }, { ...draft });
}
