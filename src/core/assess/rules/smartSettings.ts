import { isLithium } from '../../chemistry';
import { asSet } from '../../record';
import { memoryByRules } from '../memoryByRules';
import type { CaseFile } from '../caseFile';
import type { Finding, WrongSetting } from '../finding';

/** Of the current set, so much is the reader's rounding. */
const ROUNDING = 0.01;

/** A pack that is not set as the rules want: somebody will rely on what does not happen, or it charges as the house does not. */
export function smartSettings({ history, rules }: CaseFile): readonly Finding[] {
  const { pack, memories } = history;
  const { chemistry, smart } = pack;
  if (!smart || !isLithium(chemistry)) return [];
  const { storage, topMv, chargeA, read } = asSet(smart, memories);
  const wrong: WrongSetting[] = [];
  const wanted = memoryByRules({ ...pack, chemistry }, rules);
  if (storage && !storage.isOn) wrong.push({ is: 'off' });
  else if (storage?.afterHours != null && storage.afterHours > wanted.afterHours)
    wrong.push({ is: 'late', afterHours: storage.afterHours, allowanceHours: wanted.afterHours });
  const { bandLowMv, bandHighMv, chargeA: limitA, topMv: limitMv } = wanted;
  if (storage?.isOn && storage.mv !== null && (storage.mv < bandLowMv || storage.mv > bandHighMv))
    wrong.push({ is: 'storage-volts', mv: storage.mv, lowMv: bandLowMv, highMv: bandHighMv });
  if (chargeA !== null && chargeA > limitA * (1 + ROUNDING))
    wrong.push({ is: 'rate', amps: chargeA, limitA });
  if (topMv !== null && topMv > limitMv) wrong.push({ is: 'top', mv: topMv, limitMv });
  if (wrong.length === 0) return [];
  return [{ rule: 'smart-settings', severity: 'note', wrong, records: read?.records ?? [] }];
}
