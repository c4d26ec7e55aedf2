import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/** Somebody put the pack on hold and said why: their word stands until a person releases it. */
export function heldByHand({ history }: CaseFile): readonly Finding[] {
  const held = history.decisions.findLast(({ what }) => what.to === 'hold');
  if (!held) return [];
  const { at, reason, records } = held;
  return [{ rule: 'held-by-hand', severity: 'hold', at, reason, records }];
}
