import { isLithium, socPercent } from '../../chemistry';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/** Of the expected time: under this a finished charge cannot have filled the pack, over that something will not close. */
const TOO_FAST = 0.5;
const TOO_LONG = 2;
/** Taper and balancing take this long on their own, whatever the current. */
const TAPER_MINUTES = 45;

/**
 * The latest charge did what a sound pack set right cannot do: more went in than the label holds, it finished far too
 * soon, or it ran far too long. Wrong setting, an imbalance that will not close, or a dying pack.
 */
export function chargeImplausible({ history, rested }: CaseFile): readonly Finding[] {
  const { pack } = history;
  const charge = history.charges.findLast(({ mode }) => mode === 'balance' || mode === 'fast');
  if (!charge || !isLithium(pack.chemistry)) return [];
  const { at, movedMah, minutes, ending, settings, records } = charge;
  const odd = (oddity: 'too-fast' | 'too-long' | 'too-much', value: number, expected: number): Finding[] => [
    { rule: 'charge-implausible', severity: 'watch', at, oddity, value, expected, records },
  ];
  if (movedMah !== null && movedMah > pack.capacityMah) return odd('too-much', movedMah, pack.capacityMah);
  const before = rested.findLast((reading) => reading.at <= charge.startedAt);
  if (minutes === null || settings.currentA === null || !before) return [];
  const toGo = 1 - socPercent(pack.chemistry, Math.min(...before.cellsMv)) / 100;
  const expected = (toGo * pack.capacityMah * 60) / 1000 / settings.currentA;
  if (ending === 'complete' && minutes < expected * TOO_FAST) return odd('too-fast', minutes, expected);
  if (minutes > expected * TOO_LONG + TAPER_MINUTES)
    return odd('too-long', minutes, expected + TAPER_MINUTES);
  return [];
}
