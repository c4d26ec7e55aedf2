import { isLithium } from '../../chemistry';
import { allowance } from '../../storage';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/** A pack that could store itself and is not set to, or not soon enough: somebody will rely on what does not happen. */
export function smartSettings({ history, rules }: CaseFile): readonly Finding[] {
  const { pack } = history;
  if (!pack.smart || !isLithium(pack.chemistry)) return [];
  const allowanceHours = allowance(pack, 'high', rules);
  const { autoStorage, autoStorageAfterHours } = pack.smart;
  if (autoStorage && autoStorageAfterHours <= allowanceHours) return [];
  const afterHours = autoStorage ? autoStorageAfterHours : null;
  return [{ rule: 'smart-settings', severity: 'note', afterHours, allowanceHours, records: [] }];
}
