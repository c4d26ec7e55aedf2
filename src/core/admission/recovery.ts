import { assess } from '../assess';
import type { Assessment } from '../assess';
import { isLithium } from '../chemistry';
import { FULL_OCCASIONS } from '../inspection';
import { MINUTE_MS } from '../measure';
import type { Instant } from '../measure';
import type { PackFacts } from '../pack';
import { fold } from '../record';
import type { PackHistory, RecordDraft } from '../record';
import type { HouseRules } from '../rules';
import type { AtTheGate } from './admit';

export type RecoveryRefusal =
  | { readonly code: 'recovery-lacks'; readonly field: string; readonly lacks: readonly RecoveryLack[] }
  | { readonly code: 'no-recovery-runs'; readonly field: string }
  | { readonly code: 'recovery-current'; readonly field: string; readonly mostA: number }
  | { readonly code: 'recovery-time-over'; readonly field: string; readonly endedAt: Instant }
  | { readonly code: 'recovery-warm'; readonly field: string }
  | { readonly code: 'cell-count'; readonly field: string; readonly given: number; readonly wanted: number };

export const RECOVERY_LACKS = [
  'not-the-school',
  'not-over-discharged',
  'running',
  'tried-before',
  'cell-too-low',
  'no-inspection',
  'damaged',
  'cause-unknown',
] as const;
/** A precondition of a supervised recovery that the records do not show. Source: the practice. */
export type RecoveryLack = (typeof RECOVERY_LACKS)[number];

/** Causes that are damage, or that nobody knows: neither is known to be harmless. */
const HARMFUL_CAUSES: ReadonlySet<string> = new Set(['unknown', 'mechanical', 'water', 'age', 'maker']);

/**
 * What the records lack for a supervised recovery: the house's school, a cell below its floor and none too low, a look
 * over it since that found nothing, no recovery tried before.
 */
export function recoveryLacks(
  pack: PackFacts,
  history: PackHistory,
  { findings, harm }: Assessment,
  rules: HouseRules,
): readonly RecoveryLack[] {
  const lacks: RecoveryLack[] = [];
  const over = findings.find((finding) => finding.rule === 'over-discharged');
  if (rules.overDischarged !== 'supervised recovery') lacks.push('not-the-school');
  if (!over || !isLithium(pack.chemistry)) return [...lacks, 'not-over-discharged'];
  const tried = findings.find((finding) => finding.rule === 'recovery');
  if (tried) lacks.push(tried.how === 'running' ? 'running' : 'tried-before');
  if (over.low.mv <= rules.recovery.floorMv) lacks.push('cell-too-low');
  const looks = history.inspections.filter(
    ({ at, occasion }) => at >= over.low.at && FULL_OCCASIONS.has(occasion),
  );
  if (looks.length === 0) lacks.push('no-inspection');
  const failed = looks.some(({ items }) => items.some(({ answer }) => answer === 'fail'));
  if (harm.length > 0 || failed) lacks.push('damaged');
  return lacks;
}

/** Whether a step of a supervised recovery may be taken. Never in another chemistry: the record has no place for one. */
export function refusedRecovery({
  pack,
  records,
  draft,
  now,
  circumstances: { rules },
}: AtTheGate<Extract<RecordDraft, { kind: 'recovery' }>>): readonly RecoveryRefusal[] {
  const { payload } = draft;
  const history = fold(pack, records);
  const assessment = assess(history, rules, now);
  if (payload.step === 'begun') {
    const unknown: RecoveryLack[] = HARMFUL_CAUSES.has(payload.cause) ? ['cause-unknown'] : [];
    const lacks = [...recoveryLacks(pack, history, assessment, rules), ...unknown];
    if (lacks.length > 0) return [{ code: 'recovery-lacks', field: 'payload.step', lacks }];
    const mostA = (rules.recovery.currentC * pack.capacityMah) / 1000;
    return payload.currentA > mostA ? [{ code: 'recovery-current', field: 'payload.currentA', mostA }] : [];
  }
  const { cellsMv } = payload;
  if (cellsMv && cellsMv.length !== pack.series)
    return [{ code: 'cell-count', field: 'payload.cellsMv', given: cellsMv.length, wanted: pack.series }];
  const running = assessment.findings.find((finding) => finding.rule === 'recovery');
  if (running?.how !== 'running') return [{ code: 'no-recovery-runs', field: 'payload.step' }];
  const begunAt = running.endsAt - rules.recovery.minutes * MINUTE_MS;
  const warm = history.recoveries.some(
    (one) => one.at >= begunAt && one.step === 'looked' && one.feels === 'warm',
  );
  if (payload.step === 'looked') return warm ? [{ code: 'recovery-warm', field: 'payload.step' }] : [];
  if (payload.how !== 'reached') return [];
  // Whatever the cells came to: one that got warm, or ran past its time, did not come up as it should.
  if (warm) return [{ code: 'recovery-warm', field: 'payload.how' }];
  return draft.at > running.endsAt
    ? [{ code: 'recovery-time-over', field: 'payload.how', endedAt: running.endsAt }]
    : [];
}
