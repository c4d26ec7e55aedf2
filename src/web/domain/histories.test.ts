import type { PackId } from '../../core/measure';
import type { PackFacts } from '../../core/pack';
import type { PackRecord } from '../../core/record';
import { merged } from './histories';

const a = 'a' as PackId;
const b = 'b' as PackId;
const pack = (tag: string, ...ids: string[]) => ({
  facts: { tag } as unknown as PackFacts,
  records: ids.map((id) => ({ id }) as PackRecord),
});
const ids = (known: ReturnType<typeof merged>, id: PackId) =>
  known.get(id)!.records.map((record) => record.id);

it('takes the newer ledger, and packs that were not known', () => {
  const known = merged(
    new Map([[a, pack('A', '1')]]),
    new Map([
      [a, pack('A', '1', '2')],
      [b, pack('B')],
    ]),
  );
  expect([ids(known, a), ids(known, b)]).toEqual([['1', '2'], []]);
});

it('an answer that comes late takes no record out of a ledger', () => {
  const known = merged(new Map([[a, pack('A', '1', '2')]]), new Map([[a, pack('A now', '1')]]));
  expect(ids(known, a)).toEqual(['1', '2']);
  expect(known.get(a)!.facts).toEqual({ tag: 'A now' });
});
