import { DAY_MS } from '../../measure';
import type { PackHistory } from '../../record';
import { kneeShare, USUAL_DAYS } from './filter';
import { KNEE_HAZARD } from './outlook';
import type { Outlook, SiblingWear } from './outlook';

/** What one pack has shown of its wear by its last measurement: what others of its type may learn from it. */
export interface WearShown {
  readonly measure: Outlook['measure'];
  /** How fast it has worn over its life, in ways to the watch line a day. */
  readonly pace: number;
  /** How many days it was followed. */
  readonly days: number;
  /** How many knees it is believed to have had: a fraction, since none is certain. */
  readonly knees: number;
}

/** A pack teaches once its age says more than its meter's noise: after this many days, and so many values. */
const TEACHES_DAYS = 120;
const TEACHES_VALUES = 4;
/** Fewer packs than this say nothing of their type. Source: the practice. */
const LEAST_PACKS = 3;
/** What all packs are like counts as so many packs of the type. */
const PRIOR_PACKS = 2;
/** How far packs of one type differ before any was seen, as the variance of the logarithm of their pace. */
const PRIOR_VARIANCE = 0.5 ** 2;
/** A pace is never taken for slower than this share of the usual: a pack that has not worn at all yet is only young. */
const SLOWEST = 0.1;
const FASTEST = 10;
const MOST_KNEES_A_DAY = 1 / 150;

/** What a pack has shown of each measure that was followed long enough to teach anything; empty for a young pack. */
export function wearShown(
  { pack, receivedAt }: Pick<PackHistory, 'pack' | 'receivedAt'>,
  outlooks: readonly Outlook[],
): readonly WearShown[] {
  return outlooks.flatMap(({ measure, wear, toWatch }): WearShown[] => {
    const first = wear.path[0]!;
    const since = Math.min(first.at, pack.inServiceAt ?? receivedAt ?? first.at);
    const days = (wear.lastAt - since) / DAY_MS;
    if (days < TEACHES_DAYS || wear.count < TEACHES_VALUES) return [];
    const worn = (wear.path.at(-1)!.level - wear.prior.startMean) / toWatch;
    const usual = 1 / USUAL_DAYS;
    const pace = Math.min(FASTEST * usual, Math.max(SLOWEST * usual, worn / days));
    const knees = rounded(kneeShare(wear));
    return [{ measure, pace: rounded(pace), days: Math.round(days), knees }];
  });
}

/** Kept by the server for every pack: three digits say all there is to say. */
function rounded(value: number): number {
  return Number(value.toPrecision(3));
}

/**
 * What packs of one type and duty say of another one of theirs: partial pooling, in which all packs there are count as two more of
 * the type. Null for fewer than three. The more a pack has shown itself, the less its filter listens to this.
 * @param shown of the siblings only, never of the pack itself, and of one measure
 */
export function learnt(shown: readonly WearShown[]): SiblingWear | null {
  if (shown.length < LEAST_PACKS) return null;
  const weight = shown.length + PRIOR_PACKS;
  const logs = shown.map(({ pace }) => Math.log(pace));
  const middle = (sum(logs) + PRIOR_PACKS * Math.log(1 / USUAL_DAYS)) / weight;
  const variance = (sum(logs.map((one) => (one - middle) ** 2)) + PRIOR_PACKS * PRIOR_VARIANCE) / weight;
  const mean = Math.exp(middle);
  const knees = sum(shown.map((one) => one.knees));
  const days = sum(shown.map((one) => one.days));
  return {
    pace: { mean, sd: Math.min(1, 1.2 * Math.sqrt(Math.exp(variance) - 1)) * mean },
    kneeHazard: Math.min(MOST_KNEES_A_DAY, (knees + PRIOR_PACKS) / (days + PRIOR_PACKS / KNEE_HAZARD)),
    packs: shown.length,
  };
}

function sum(list: readonly number[]): number {
  return list.reduce((total, one) => total + one, 0);
}

/** What siblings taught, measure by measure; a measure of which fewer than three packs have shown anything is missing. */
export type Siblings = Readonly<Partial<Record<Outlook['measure'], SiblingWear>>>;

/**
 * {@link learnt} of each measure.
 * @example siblingsOf([]) // => {}
 */
export function siblingsOf(shown: readonly WearShown[]): Siblings {
  const of = (measure: Outlook['measure']) => learnt(shown.filter((one) => one.measure === measure));
  const [capacity, resistance] = [of('capacity'), of('resistance')];
  return { ...(capacity && { capacity }), ...(resistance && { resistance }) };
}
