import { MINUTE_MS } from '../../measure';
import type { RecoveryEvent } from '../../record';
import type { CaseFile } from '../caseFile';
import type { Finding, Severity } from '../finding';

/**
 * A supervised recovery. While it runs the pack is held; one that had to be stopped is to be retired, and one that came
 * up stays on caution for life.
 */
export function recovery({ history, rules }: CaseFile): readonly Finding[] {
  const begun = history.recoveries.findLast(({ step }) => step === 'begun');
  if (!begun) return [];
  const ended = endOf(history.recoveries, begun);
  const how = ended?.how ?? 'running';
  const severity: Severity = how === 'running' ? 'hold' : how === 'reached' ? 'watch' : 'retire';
  return [
    {
      rule: 'recovery',
      severity,
      how,
      at: ended?.at ?? begun.at,
      endsAt: begun.at + rules.recovery.minutes * MINUTE_MS,
      records: [...begun.records, ...(ended?.records ?? [])],
    },
  ];
}

/** How a recovery ended; undefined while it runs. */
export function endOf(recoveries: readonly RecoveryEvent[], begun: RecoveryEvent) {
  return recoveries.find(
    (event): event is RecoveryEvent & { readonly step: 'ended' } =>
      event.step === 'ended' && event.at >= begun.at,
  );
}
