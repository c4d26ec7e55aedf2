import {
  AGREEING,
  apartIn,
  apartOf,
  comparable,
  growthOf,
  lastJump,
  mostApart,
  mostGrown,
} from '../../health';
import type { CellFactor } from '../../health';
import type { Lines } from '../../rules';
import type { CaseFile } from '../caseFile';
import type { Finding, Severity } from '../finding';
import { ROUNDING } from './lines';

/** A cell's resistance against its own baseline, at 25 °C, by one instrument. */
export function resistanceGrowth(file: CaseFile): readonly Finding[] {
  const readings = readingsOf(file);
  const grown = mostGrown(readings);
  if (!grown) return [];
  const factors = growthOf(readings, grown.cell);
  return told(file, 'resistance-growth', grown, factors, file.rules.health.irGrowth);
}

/**
 * A cell's resistance against its siblings' median, at one temperature. The cell that stands out in the latest reading is looked
 * at even where the readings before did not show it: it may have failed since.
 */
export function resistanceSiblings(file: CaseFile): readonly Finding[] {
  const readings = readingsOf(file);
  const last = readings.at(-1);
  const lines = file.rules.health.irSiblings;
  const lasting = mostApart(readings);
  const newest = last ? apartIn(last) : null;
  const apart = lasting && lasting.factor >= lines.watch - ROUNDING ? lasting : newest;
  if (!apart) return [];
  return told(file, 'resistance-siblings', apart, apartOf(readings, apart.cell), lines);
}

/** A jump between two readings is a bad contact more often than a bad cell: measure again before believing it. */
export function resistanceJump(file: CaseFile): readonly Finding[] {
  const readings = readingsOf(file);
  const jump = lastJump(readings);
  const limitPercent = file.rules.health.irJumpPercent;
  if (!jump || jump.factor - 1 <= limitPercent / 100 + ROUNDING) return [];
  const records = readings.slice(-2).flatMap((one) => one.records);
  return [{ rule: 'resistance-jump', severity: 'note', ...jump, limitPercent, records }];
}

function readingsOf({ history, measured }: CaseFile) {
  return comparable(history.resistances, measured.oddRecords);
}

/**
 * Three readings in a row past the line for retiring advise it; two of three past the line for watching, or the newest past
 * the line for retiring, watch the pack; a single one past the line for watching asks to be measured again.
 */
function told(
  file: CaseFile,
  rule: 'resistance-growth' | 'resistance-siblings',
  worst: CellFactor,
  factors: readonly number[],
  lines: Lines,
): readonly Finding[] {
  const past = (line: number) => factors.filter((factor) => factor >= line - ROUNDING).length;
  const newest = factors.at(-1) ?? 0;
  const severity: Severity | null =
    past(lines.retire) >= AGREEING
      ? 'retire'
      : past(lines.watch) >= 2 || newest >= lines.retire - ROUNDING
        ? 'watch'
        : newest >= lines.watch - ROUNDING
          ? 'note'
          : null;
  if (!severity) return [];
  const agreeing = past(severity === 'retire' ? lines.retire : lines.watch);
  const records = readingsOf(file)
    .slice(-AGREEING)
    .flatMap((one) => one.records);
  return [{ rule, severity, ...worst, lines, agreeing, records }];
}
