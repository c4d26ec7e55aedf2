import { byAnswer } from '../answered';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/** Somebody put the pack on hold and said why: their word stands until a person releases it. */
export function heldByHand(file: CaseFile): readonly Finding[] {
  const holds = file.history.decisions.filter(({ what }) => what.to === 'hold');
  const { fresh, old } = byAnswer(file, 'held-by-hand', holds);
  return [fresh, old].flatMap((list): Finding[] => {
    const latest = list.at(-1);
    if (!latest) return [];
    const { at, reason } = latest;
    const records = list.flatMap((one) => one.records);
    return [{ rule: 'held-by-hand', severity: 'hold', at, reason, records }];
  });
}
