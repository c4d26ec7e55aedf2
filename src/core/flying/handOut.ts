import type { Charged, MayFly, Verdict } from '../assess';
import { DAY_MS } from '../measure';
import type { CraftId, Instant, PackId, PackTypeId, PersonId } from '../measure';
import { worstOutcome } from './fit';
import type { FitCheck } from './fit';

/** A pack as a hand-out sees it. */
export interface HandOutPack {
  readonly id: PackId;
  readonly tag: string;
  readonly typeId: PackTypeId;
  readonly verdict: Verdict;
  readonly mayFly: MayFly;
  readonly charged: Charged;
  readonly cycles: number;
  /** When it was last charged or flown. */
  readonly usedAt: Instant | null;
  readonly holderId: PersonId | null;
}

/** One line of what a day wants: so many packs of a type, for a craft where one is named. */
export interface DayWant {
  readonly typeId: PackTypeId;
  readonly packs: number;
  readonly craftId: CraftId | null;
}

/** Why a pack is not handed out. */
export type NotHandedOut =
  | { readonly why: 'out-of-use'; readonly verdict: Verdict }
  | { readonly why: 'look-first' | 'measure-first' }
  | { readonly why: 'unfit'; readonly checks: readonly FitCheck[] }
  | { readonly why: 'in-other-hands'; readonly holderId: PersonId };

/**
 * Why this pack may not be handed to this person for this craft, or nothing. Held, retired and unfit packs never are, nor is one that
 * somebody else has; what is not charged is another question.
 * @param checks how it fits the craft; none where no craft is named
 */
export function notHandedOut(
  { verdict, mayFly, holderId }: Pick<HandOutPack, 'verdict' | 'mayFly' | 'holderId'>,
  checks: readonly FitCheck[],
  personId: PersonId | null,
): readonly NotHandedOut[] {
  const refused = checks.filter(({ outcome }) => outcome === 'refused');
  return [
    ...(mayFly === 'no' ? [{ why: 'out-of-use' as const, verdict }] : []),
    ...(mayFly === 'inspect-first' ? [{ why: 'look-first' as const }] : []),
    ...(mayFly === 'measure-first' ? [{ why: 'measure-first' as const }] : []),
    ...(refused.length > 0 ? [{ why: 'unfit' as const, checks: refused }] : []),
    ...(holderId !== null && holderId !== personId ? [{ why: 'in-other-hands' as const, holderId }] : []),
  ];
}

/** A pack proposed for a line of the day. */
export interface HandOutLine {
  readonly packId: PackId;
  readonly craftId: CraftId | null;
  /** One more than the line wants, should another be refused at the field. */
  readonly spare: boolean;
}

export interface HandOut {
  readonly lines: readonly HandOutLine[];
  readonly short: readonly { readonly want: DayWant; readonly missing: number }[];
}

/** A charged pack that stays behind has to be discharged: worth as much as so many cycles. */
const CHARGED_CYCLES = 2;
/** Each day of rest counts for so much of a cycle, up to a month: the longest rested goes first among equally worn ones. */
const CYCLES_A_DAY = 0.05;
const MOST_DAYS = 30;
/** One on caution goes out after the sound ones of its type. */
const CAUTION_CYCLES = 1_000;

/**
 * Which packs to take along: of each line as many as it wants and a spare, the least worn and longest rested first, so that cycles spread.
 * Packs on caution go to trainers only. No pack is in two lines.
 * @param fitOf how a pack fits a craft, every check
 * @param isTrainer whether what is on caution may go on this craft
 */
export function handOut(
  wants: readonly DayWant[],
  packs: readonly HandOutPack[],
  fitOf: (pack: HandOutPack, craftId: CraftId) => readonly FitCheck[],
  isTrainer: (craftId: CraftId) => boolean,
  now: Instant,
): HandOut {
  const taken = new Set<PackId>();
  const lines: HandOutLine[] = [];
  const short: HandOut['short'][number][] = [];
  const candidates = (want: DayWant) =>
    packs
      .filter(({ typeId, id }) => typeId === want.typeId && !taken.has(id))
      .filter((pack) => mayGo(pack, want.craftId, fitOf, isTrainer))
      .sort(
        (a, b) => price(a, now) - price(b, now) || a.tag.localeCompare(b.tag, undefined, { numeric: true }),
      );
  const take = (want: DayWant, count: number, spare: boolean) => {
    const chosen = candidates(want).slice(0, count);
    for (const { id } of chosen) {
      taken.add(id);
      lines.push({ packId: id, craftId: want.craftId, spare });
    }
    return chosen.length;
  };
  for (const want of wants) {
    const got = take(want, want.packs, false);
    if (got < want.packs) short.push({ want, missing: want.packs - got });
  }
  // What every line wants comes before any line's spare.
  for (const want of wants) take(want, 1, true);
  return { lines, short };
}

function mayGo(
  pack: HandOutPack,
  craftId: CraftId | null,
  fitOf: (pack: HandOutPack, craftId: CraftId) => readonly FitCheck[],
  isTrainer: (craftId: CraftId) => boolean,
): boolean {
  const checks = craftId === null ? [] : fitOf(pack, craftId);
  // To be measured or looked over is done before the day; a pack out of use, or right for another craft, is not taken along.
  const barred = notHandedOut({ ...pack, mayFly: pack.mayFly === 'no' ? 'no' : 'yes' }, checks, null);
  if (barred.length > 0) return false;
  return (
    pack.verdict !== 'watch' || (craftId !== null && isTrainer(craftId) && worstOutcome(checks) !== 'refused')
  );
}

/** The lower, the sooner it goes: cycles gone through, less what its rest and its charge are worth. */
function price({ cycles, usedAt, charged, verdict }: HandOutPack, now: Instant): number {
  const days = usedAt === null ? MOST_DAYS : Math.min(MOST_DAYS, Math.max(0, now - usedAt) / DAY_MS);
  return (
    cycles -
    days * CYCLES_A_DAY -
    (charged === 'charged' ? CHARGED_CYCLES : 0) +
    (verdict === 'watch' ? CAUTION_CYCLES : 0)
  );
}
