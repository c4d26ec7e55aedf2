import { isLithium } from '../../chemistry';
import { contentsMv, storageJob } from '../../storage';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/**
 * The pack rests outside its storage band: since when, by when it must be back, and the job that brings it there: by what it
 * was read at, or by what a charge since left in it. A pack under its recharge-soon floor has that job named by the more
 * pressing rule already; a smart pack that brings itself to storage within the rules is told so instead.
 */
export function storageBand({
  history,
  rules,
  current,
  contents,
  storage,
  measured,
}: CaseFile): readonly Finding[] {
  const { chemistry } = history.pack;
  if (storage.state === 'self-storing') {
    const { since, bledAt, records } = storage;
    return [{ rule: 'self-storing', severity: 'note', since, bledAt, records }];
  }
  if (storage.state !== 'high' && storage.state !== 'low') return [];
  if (!contents || !isLithium(chemistry)) return [];
  const { bandLowMv, bandHighMv } = rules.storage[chemistry];
  const cellsMv = current?.cellsMv ?? contentsMv(chemistry, contents);
  const lowestMv = Math.min(...cellsMv);
  const mv = storage.state === 'high' ? Math.max(...cellsMv) : lowestMv;
  const named = lowestMv < rules.floors[chemistry].rechargeSoonMv;
  const pack = { ...history.pack, capacityMah: measured.capacityMah };
  const job = named ? null : storageJob(pack, cellsMv, rules);
  const rule = `storage-${storage.state}` as const;
  const basis = current ? 'read' : contents.basis;
  return [
    {
      rule,
      severity: 'note',
      mv,
      basis,
      bandLowMv,
      bandHighMv,
      clock: storage,
      job,
      records: storage.records,
    },
  ];
}
