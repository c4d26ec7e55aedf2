import { isLithium } from '../../chemistry';
import { storageJob } from '../../storage';
import { highestCell, lowestCell } from '../caseFile';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/**
 * The pack rests outside its storage band: since when, by when it must be back, and the job that brings it there.
 * A pack under its recharge-soon floor has that job named by the more pressing rule already.
 */
export function storageBand({ history, rules, latest, storage }: CaseFile): readonly Finding[] {
  if (storage.state !== 'high' && storage.state !== 'low') return [];
  const { chemistry } = history.pack;
  if (!latest || !isLithium(chemistry)) return [];
  const { bandLowMv, bandHighMv } = rules.storage[chemistry];
  const lowestMv = lowestCell(latest).mv;
  const mv = storage.state === 'high' ? highestCell(latest).mv : lowestMv;
  const named = lowestMv < rules.floors[chemistry].rechargeSoonMv;
  const job = named ? null : storageJob(history.pack, latest.cellsMv, rules);
  const rule = `storage-${storage.state}` as const;
  return [
    { rule, severity: 'note', mv, bandLowMv, bandHighMv, clock: storage, job, records: storage.records },
  ];
}
