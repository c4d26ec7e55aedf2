import type { CraftAnswer, PackRow, RegisterAnswer } from '../../contract';
import { notHandedOut } from '../../core/flying';
import type { FitCheck, NotHandedOut } from '../../core/flying';
import type { FlyingDayId, PackId, PersonId } from '../../core/measure';
import { packFits } from '../domain/craft';
import { NO_COUNTERS, countersTyped } from '../domain/custody/ownCounters';
import type { TypedCounters } from '../domain/custody/ownCounters';

/** What somebody is about to take out, kept on this device until it is taken. */
export interface TakeOutDraft {
  readonly packs: readonly PackTaken[];
  readonly craftId: string;
  /** Empty for whoever is signed in. */
  readonly holderId: string;
  /** As a moment field holds it; empty for as long as the house lets a pack be out. */
  readonly dueBack: string;
  readonly dayId: FlyingDayId | null;
  readonly ambient: string;
}

export interface PackTaken extends TypedCounters {
  readonly id: PackId;
  /** It is not charged, and a short flight is meant. */
  readonly short: boolean;
  /** Whoever had it gives it away. */
  readonly handedOver: boolean;
}

export const NOTHING_TAKEN: TakeOutDraft = {
  packs: [],
  craftId: '',
  holderId: '',
  dueBack: '',
  dayId: null,
  ambient: '',
};

/** The list with one more pack; one that is in it already stays as it is. */
export function withPack(draft: TakeOutDraft, id: PackId): TakeOutDraft {
  if (draft.packs.some((one) => one.id === id)) return draft;
  const pack = { id, short: false, handedOver: false, ...NO_COUNTERS };
  return { ...draft, packs: [...draft.packs, pack] };
}

/** The list with one of its packs changed. */
export function withChanged(draft: TakeOutDraft, id: PackId, part: Partial<PackTaken>): TakeOutDraft {
  return { ...draft, packs: draft.packs.map((one) => (one.id === id ? { ...one, ...part } : one)) };
}

/** The list without one of its packs. */
export function withoutPack(draft: TakeOutDraft, id: PackId): TakeOutDraft {
  return { ...draft, packs: draft.packs.filter((one) => one.id !== id) };
}

/** A pack of the list as it stands: why it may not go, what is said all the same, and whether it can be taken now. */
export interface TakeOutLine {
  readonly row: PackRow;
  readonly taken: PackTaken;
  readonly checks: readonly FitCheck[];
  readonly against: readonly NotHandedOut[];
  /** It has to be charged first, unless a short flight is meant. */
  readonly asksCharge: boolean;
  readonly isReady: boolean;
}

/** @param holder who takes them */
export function takeOutLines(
  draft: TakeOutDraft,
  rows: readonly PackRow[],
  craft: CraftAnswer | null,
  register: RegisterAnswer,
  holder: PersonId,
): readonly TakeOutLine[] {
  return draft.packs.flatMap((taken) => {
    const row = rows.find(({ id }) => id === taken.id);
    if (!row) return [];
    const checks = craft ? packFits(row, craft, register) : [];
    const holderId = taken.handedOver ? null : row.holderId;
    const against = notHandedOut({ ...row, holderId }, checks, holder);
    const asksCharge = row.charged !== 'charged';
    return {
      row,
      taken,
      checks,
      against,
      asksCharge,
      isReady: against.length === 0 && (!asksCharge || taken.short) && areCounts(taken),
    };
  });
}

function areCounts(taken: PackTaken): boolean {
  return Object.keys(countersTyped(taken).errors).length === 0;
}
