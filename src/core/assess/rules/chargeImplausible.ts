import { FULL_OCCASIONS } from '../../inspection';
import type { OddCharge } from '../../health';
import type { CaseFile } from '../caseFile';
import { byAnswer } from '../answered';
import type { Finding, Severity } from '../finding';

/**
 * A charge did what a sound pack set right cannot do: more went in than there was room for, it finished far too soon, or it
 * ran far too long. A later ordinary charge does not wash that away: a reading, an inspection or a decision does. One that was
 * too fast may not fly until it was read and its capacity seen; one that took far more than fitted is held.
 */
export function chargeImplausible(file: CaseFile): readonly Finding[] {
  const events = file.measured.odd.map((odd) => ({ ...odd, records: odd.charge.records }));
  const dangerous = byAnswer(
    file,
    'charge-implausible',
    events.filter((one) => one.dangerous),
  );
  const open = events.filter((one) => !one.dangerous && !isCleared(file, one)).at(-1);
  return [
    ...finding(file, dangerous.fresh.at(-1), 'hold', dangerous.fresh),
    ...finding(file, dangerous.old.at(-1), 'hold', dangerous.old),
    ...finding(
      file,
      open,
      open?.oddity === 'too-much' && isLithiumNote(file) ? 'note' : 'watch',
      open ? [open] : [],
    ),
  ];
}

function isLithiumNote({ history }: CaseFile): boolean {
  return history.pack.chemistry !== 'nimh';
}

function finding(
  file: CaseFile,
  odd: OddCharge | undefined,
  severity: Severity,
  all: readonly { readonly records: Finding['records'] }[],
): Finding[] {
  if (!odd) return [];
  const { charge, oddity, value, expected } = odd;
  const readSince = file.rested.some(({ at }) => at > charge.at);
  const records = all.flatMap((one) => one.records);
  return [
    { rule: 'charge-implausible', severity, at: charge.at, oddity, value, expected, readSince, records },
  ];
}

function isCleared({ history, rested, measured }: CaseFile, { charge, oddity }: OddCharge): boolean {
  const since = ({ at }: { readonly at: number }) => at > charge.at;
  const read = rested.some(since);
  const looked = history.inspections.some((one) => since(one) && FULL_OCCASIONS.has(one.occasion));
  const decided = history.decisions.some((one) => since(one) && one.what.to === 'release');
  if (looked || decided) return true;
  return oddity === 'too-fast' ? read && measured.capacity.some(since) : read;
}
