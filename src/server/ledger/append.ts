import isEqual from 'fast-deep-equal';
import { isDeepStrictEqual } from 'node:util';
import type { FieldProblem, LiveMessage } from '../../contract';
import { mayDo } from '../../core/lifecycle';
import type { Actor } from '../../core/lifecycle';
import type { Instant, PackId } from '../../core/measure';
import { refusalsOf } from '../../core/admission';
import type { Circumstances } from '../../core/admission';
import type { PackFacts } from '../../core/pack';
import { fold, foldOn } from '../../core/record';
import type { PackRecord, RecordDraft } from '../../core/record';
import { KIND_WORDS, plural, recordRefusalSentence } from '../../core/wording';
import { executePrepared } from '../platform/database';
import type { Entities } from '../platform/database';
import { announcementOf } from '../platform/live';
import { Refused } from '../platform/problems';
import { contextOf, placeUses } from './context';
import type { Left } from './context';
import { asStored, endsAt, kept } from './keptLedgers';
import type { Folded } from './keptLedgers';
import { projectionOf } from './projection';
import type { Projection, RulesInForce } from './projection';
import { referencesOf, strangeMemories, unknownTo, unsaidReadings } from './references';
import { chain, hold, HOLDING, insertOf } from './rows';
import type { ChainedRecord } from './rows';
import { replaceStateWhere } from './states';

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
 *
 * Mostly nobody else writes to the pack at the same moment: the records are judged without holding it, and written by one statement that
 * holds the pack and does nothing where its state is not the one that was read. Where somebody did, or where the call is part of a
 * larger transaction, the pack is held from the beginning.
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
  const asked: Asked = { packId, drafts, intake, through };
  if (!em.isInTransaction()) {
    const answers = await appendUnheld(em, asked);
    if (answers) return answers;
  }
  return em.transactional((tx) => appendHeld(tx, asked));
}

/** What is to be appended. */
interface Asked {
  readonly packId: PackId;
  readonly drafts: readonly RecordDraft[];
  readonly intake: (draft: RecordDraft) => Intake;
  readonly through: Circumstances['through'];
}

/** Null where somebody else wrote meanwhile: nothing is written then. */
async function appendUnheld(em: Entities, asked: Asked): Promise<readonly PackRecord[] | null> {
  const admitted = await admit(em, asked);
  // Read while others write, a ledger may be longer than it was a moment before.
  if (admitted === 'broken') return null;
  return (await write(em, asked, admitted)) ? admitted.answers : null;
}

async function appendHeld(tx: Entities, asked: Asked): Promise<readonly PackRecord[]> {
  await hold(tx, [asked.packId]);
  for (;;) {
    const admitted = await admit(tx, asked);
    // Written on, the ledger would look whole again: whoever cut it off would have made it so.
    if (admitted === 'broken') throw new Refused('ledger-broken');
    // Held, a pack's state changes only by an edit of its type or a place: it is judged again by what that made of them.
    if (await write(tx, asked, admitted)) return admitted.answers;
  }
}

/** What the gate made of the drafts. */
interface Admitted {
  readonly answers: readonly PackRecord[];
  /** The ledger before, and what is to be written after it; nothing where all had arrived already. */
  readonly stored: readonly PackRecord[];
  readonly fresh: readonly ChainedRecord[];
  readonly folded: Folded | null;
  readonly row: Projection | null;
  /** The state that this was worked out from. */
  readonly left: Left | null;
}

/** Holds the drafts against the ledger and judges the pack with them; `broken` where the ledger does not end as its state says. */
async function admit(em: Entities, { packId, drafts, intake, through }: Asked): Promise<Admitted | 'broken'> {
  const { standings, rules, placeTemperatures, known } = await contextOf(em, [packId], drafts);
  const standing = standings.get(packId);
  if (!standing) throw new Refused('not-found', { detail: 'There is no such pack.' });
  const { facts, head, left } = standing;
  if (!endsAt(head, left)) return 'broken';
  const pack = { ...facts, placeTemperatures };
  const stored = await kept.upTo(em, packId, head);
  if (stored.length !== (head?.seq ?? 0)) return 'broken';
  const circumstances = { rules: rules.rules, places: await placeUses(em, packId, drafts), through };
  const ledger = [...stored];
  const answers: PackRecord[] = [];
  const problems: FieldProblem[] = [
    ...unknownTo(known, referencesOf(drafts)),
    ...(await unsaidReadings(em, drafts)),
    ...(await strangeMemories(em, packId, drafts)),
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
  if (!last) return { answers, stored, fresh, folded: null, row: null, left };
  const folded = foldedOn(kept.foldedAt(packId, head), pack, stored, ledger);
  const row = projectionOf(folded.history, ledger, { seq: ledger.length, hash: last.hash }, rules);
  return { answers, stored, fresh, folded, row, left };
}

/** What the ledger adds up to with what came to it: going on from what it added up to before, where that is known and nothing of it changes. */
function foldedOn(
  before: Folded | null,
  pack: PackFacts,
  stored: readonly PackRecord[],
  ledger: readonly PackRecord[],
): Folded {
  const isSame = before !== null && isEqual(before.pack, pack);
  const history = isSame ? foldOn(before.history, before.pack, ledger.slice(stored.length)) : null;
  return history ? { pack: before!.pack, history } : { pack, history: fold(pack, ledger) };
}

/**
 * Writes records and what they make of their pack, and tells everybody once this is committed: one statement, which holds the pack first.
 * @returns false where the pack's state is not the one this was worked out from any more; nothing is written then
 */
async function write(em: Entities, { packId }: Asked, admitted: Admitted): Promise<boolean> {
  const { stored, fresh, folded, row, left } = admitted;
  if (!row) return true;
  const judged = replaceStateWhere('held', row, left);
  const insert = insertOf(fresh, 'judged');
  const message: LiveMessage = { about: 'pack', packId, seq: stored.length + fresh.length };
  const announcement = announcementOf(message);
  const written = await executePrepared(em, {
    sql: `with held as (${HOLDING}), judged as (${judged.sql}), written as (${insert.sql}) ${announcement.sql} from judged`,
    params: [`{${packId}}`, ...judged.params, ...insert.params, ...announcement.params],
  });
  if (written.length === 0) return false;
  kept.add(packId, stored, fresh, folded);
  return true;
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

function recordOf(
  draft: RecordDraft,
  packId: PackId,
  seq: number,
  { actor, recordedAt }: Intake,
  rules: RulesInForce,
): PackRecord {
  return asStored({ ...draft, packId, seq, recordedAt, by: actor.id, rulesVersion: rules.version });
}

function says(arrived: PackRecord, draft: RecordDraft): boolean {
  const { id, at, kind, payload, supersedes } = arrived;
  return isDeepStrictEqual({ id, at, kind, payload, supersedes }, { ...draft });
}
