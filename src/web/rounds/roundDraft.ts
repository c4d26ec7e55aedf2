import type { PackRow, RoundAnswer, RoundRow } from '../../contract';
import type { Marks } from '../../core/inspection';
import { nextAnswer } from '../../core/inspection';
import { isOutOfUse } from '../../core/assess';
import type { Verdict } from '../../core/assess';
import type { PackId, PlaceId } from '../../core/measure';
import type { RecordBody } from '../../core/record';
import { BLANK_ROW } from './rowDraft';
import type { RowDraft } from './rowDraft';

/** Where a hand is in a round, on this device: the row it is at, and what was typed into rows. */
export interface RoundDraft {
  readonly current: PackId | null;
  readonly rows: Readonly<Record<PackId, RowDraft>>;
  /** Packs scanned in here that the register learns of with their first row. */
  readonly scannedIn: readonly PackId[];
  /** Where worked packs are put; absent until a hand chooses. */
  readonly into?: PutInto;
}

/** Where a worked pack goes: a place, where each belongs, or nowhere else. */
export type PutInto = PlaceId | 'home' | 'stays';

export const NOTHING_TYPED: RoundDraft = { current: null, rows: {}, scannedIn: [] };

export type RoundAction =
  | { readonly type: 'went to'; readonly packId: PackId | null }
  | { readonly type: 'scanned in'; readonly packId: PackId }
  | { readonly type: 'puts into'; readonly into: PutInto }
  | { readonly type: 'typed'; readonly packId: PackId; readonly part: Partial<RowDraft> }
  | { readonly type: 'marked'; readonly packId: PackId; readonly marks: (marks: Marks) => Marks }
  | { readonly type: 'pressed letter'; readonly packId: PackId; readonly key: string }
  /** A scan's letters were no answers: the row is as it was before them, untouched (null) if it was. */
  | { readonly type: 'scanned over'; readonly packId: PackId; readonly row: RowDraft | null }
  | { readonly type: 'handed in'; readonly packId: PackId }
  /** Refused: its typing comes back, unless something new was typed there meanwhile. */
  | { readonly type: 'given back'; readonly packId: PackId; readonly row: RowDraft };

/** Every change a round's typing can undergo. What is typed anew takes back a question that was asked about the old text. */
export function roundDraftAfter(draft: RoundDraft, action: RoundAction): RoundDraft {
  switch (action.type) {
    case 'went to':
      return { ...draft, current: action.packId };
    case 'scanned in':
      return { ...draft, current: action.packId, scannedIn: [...draft.scannedIn, action.packId] };
    case 'puts into':
      return { ...draft, into: action.into };
    case 'typed':
      return withRow(draft, action.packId, { asked: null, pressed: false, ...action.part });
    case 'marked':
      return withRow(draft, action.packId, {
        asked: null,
        marks: action.marks(rowOf(draft, action.packId).marks),
      });
    case 'pressed letter':
      return withRow(draft, action.packId, {
        asked: null,
        marks: pressed(rowOf(draft, action.packId).marks, action.key),
      });
    case 'scanned over':
      return action.row ? withRow(draft, action.packId, action.row) : withoutRow(draft, action.packId);
    case 'handed in':
      return withoutRow(draft, action.packId);
    case 'given back':
      return draft.rows[action.packId] ? draft : withRow(draft, action.packId, action.row);
    default:
      return action satisfies never;
  }
}

export function rowOf(draft: RoundDraft, packId: PackId): RowDraft {
  return draft.rows[packId] ?? BLANK_ROW;
}

function withRow(draft: RoundDraft, packId: PackId, part: Partial<RowDraft>): RoundDraft {
  return { ...draft, rows: { ...draft.rows, [packId]: { ...rowOf(draft, packId), ...part } } };
}

function withoutRow(draft: RoundDraft, packId: PackId): RoundDraft {
  const { [packId]: _gone, ...rows } = draft.rows;
  return { ...draft, rows };
}

function pressed(marks: Marks, key: string): Marks {
  const mark = marks[key] ?? { answer: 'ok' as const, note: '', photoIds: [] };
  return { ...marks, [key]: { ...mark, answer: nextAnswer(mark.answer) } };
}

/** Where a round's packs are put unless a hand chooses: a put-away puts away, into its box or where each belongs. */
export function usualInto({ kind, placeId }: Pick<RoundAnswer, 'kind' | 'placeId'>): PutInto {
  return kind === 'put-away' ? (placeId ?? 'home') : 'stays';
}

/**
 * That a worked pack was put where the round puts them; none where it lies there already, or belongs nowhere, and none for a pack out of
 * use, which is set apart: among sound ones the gate would refuse it, and with it all that was measured.
 */
export function putAway(
  into: PutInto,
  { placeId, holderId, homePlaceId }: Pick<PackRow, 'placeId' | 'holderId' | 'homePlaceId'>,
  verdict: Verdict,
): readonly RecordBody[] {
  if (isOutOfUse(verdict)) return [];
  const to = into === 'home' ? homePlaceId : into;
  if (to === null || to === 'stays' || (to === placeId && holderId === null)) return [];
  return [{ kind: 'moved', payload: { placeId: to, slot: null, holderId: null }, supersedes: null }];
}

/** The next row nobody has ended, after this one and then from the top; null when every row is. */
export function nextOpen(
  rows: readonly Pick<RoundRow, 'packId' | 'outcome'>[],
  after: PackId | null,
): PackId | null {
  const from = rows.findIndex(({ packId }) => packId === after) + 1;
  const round = [...rows.slice(from), ...rows.slice(0, from)];
  return round.find(({ packId, outcome }) => outcome === null && packId !== after)?.packId ?? null;
}

/** The row above or below, whatever became of it; the same row at either end. */
export function neighbour(
  rows: readonly Pick<RoundRow, 'packId'>[],
  of: PackId | null,
  by: 1 | -1,
): PackId | null {
  const at = rows.findIndex(({ packId }) => packId === of);
  if (at === -1) return rows[0]?.packId ?? null;
  return rows[Math.min(rows.length - 1, Math.max(0, at + by))]!.packId;
}
