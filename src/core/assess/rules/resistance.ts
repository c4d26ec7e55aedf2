import { lastJump, mostApart, mostGrown } from '../../health';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';
import { ROUNDING, risenTo } from './lines';

/** A cell's resistance against its own baseline, at 25 °C. */
export function resistanceGrowth({ history, rules }: CaseFile): readonly Finding[] {
  const grown = mostGrown(history.resistances);
  const lines = rules.health.irGrowth;
  const severity = grown && risenTo(grown.factor, lines);
  return grown && severity
    ? [{ rule: 'resistance-growth', severity, ...grown, lines, records: latestRecords(history) }]
    : [];
}

/** A cell's resistance against its siblings' median, at one temperature. */
export function resistanceSiblings({ history, rules }: CaseFile): readonly Finding[] {
  const apart = mostApart(history.resistances);
  const lines = rules.health.irSiblings;
  const severity = apart && risenTo(apart.factor, lines);
  return apart && severity
    ? [{ rule: 'resistance-siblings', severity, ...apart, lines, records: latestRecords(history) }]
    : [];
}

/** A jump between two readings is a bad contact more often than a bad cell: measure again before believing it. */
export function resistanceJump({ history, rules }: CaseFile): readonly Finding[] {
  const jump = lastJump(history.resistances);
  const limitPercent = rules.health.irJumpPercent;
  if (!jump || jump.factor - 1 <= limitPercent / 100 + ROUNDING) return [];
  const records = history.resistances.slice(-2).flatMap((one) => one.records);
  return [{ rule: 'resistance-jump', severity: 'note', ...jump, limitPercent, records }];
}

function latestRecords(history: CaseFile['history']) {
  return history.resistances.slice(-3).flatMap(({ records }) => records);
}
