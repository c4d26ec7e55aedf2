import { disagreement } from '../src/core/testing/evidenceMachine';
import { say } from './measure';

const HISTORIES = 10_000;

/** The adversarial machine, twenty times as long as in the tests. */
export function benchEvidence(): void {
  const broken: string[] = [];
  for (let seed = 1; seed <= HISTORIES; seed++) {
    const found = disagreement(seed * 7 + 3);
    if (found) broken.push(found);
  }
  say('Histories in which a release answered wrongly', `${broken.length} of ${HISTORIES}`, broken[0] ?? '');
}
