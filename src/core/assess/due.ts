import type { Instant } from '../measure';
import type { CaseFile } from './caseFile';
import type { RuleId, StepKind } from './finding';
import { baselineDueAt } from './rules/baselineMissing';
import { idleDueAt } from './rules/idle';
import { inspectionDueAt } from './rules/inspectionDue';
import { seasonStartDueAt } from './rules/longRest';
import { topUpDueAt } from './rules/nimhTopUp';

export const TASK_KINDS = [
  'inspect-season',
  'complete-baseline',
  'inspect',
  'top-up',
  'cycle',
  're-read',
] as const;
/** Routine that comes round by the calendar. */
export type TaskKind = (typeof TASK_KINDS)[number];

/**
 * Whether a step is such routine.
 * @example isTask('inspect') // => true
 * @example isTask('decide') // => false
 */
export function isTask(step: StepKind): step is TaskKind {
  return TASK_KINDS.some((kind) => kind === step);
}

/** What a pack will be due for, and when. */
export interface DueTask {
  readonly do: TaskKind;
  readonly dueAt: Instant;
  readonly because: RuleId;
}

/**
 * Every task the calendar holds for a pack, soonest first, whatever the time is: lists compare them with the present. A
 * season's start covers the scheduled inspection that would come after it.
 */
export function dueTasks(file: CaseFile): readonly DueTask[] {
  const reading = file.rules.idle.doing === 'cycle' ? 'cycle' : 're-read';
  const seasonAt = seasonStartDueAt(file);
  const inspectAt = inspectionDueAt(file);
  const covered = seasonAt !== null && inspectAt !== null && seasonAt <= inspectAt;
  return [
    ...task('inspect-season', seasonAt, 'long-rest'),
    ...task('complete-baseline', baselineDueAt(file), 'baseline-missing'),
    ...task('inspect', covered ? null : inspectAt, 'inspection-due'),
    ...task('top-up', topUpDueAt(file), 'nimh-top-up'),
    ...task(reading, idleDueAt(file), 'idle'),
  ].sort((a, b) => a.dueAt - b.dueAt);
}

function task(kind: TaskKind, dueAt: Instant | null, because: RuleId): DueTask[] {
  return dueAt === null ? [] : [{ do: kind, dueAt, because }];
}
