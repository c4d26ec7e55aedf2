import { useState } from 'react';
import type { PackRow } from '../../../contract';
import { whenWords } from '../../../core/wording';
import { currentTime, useReader } from '../../app/clock';
import { KEPT_HERE, say } from '../../app/notices';
import { Button } from '../../kit/Button';
import { useMay, usePerson } from '../Person';
import { useNames } from '../useNames';
import { handInTogether, takenOut } from './custodyRecords';

/** Two people say that they have a pack: both entries, and the answer of whoever knows. */
export function InTwoHands({ row }: { row: Pick<PackRow, 'id' | 'tag' | 'out'> }) {
  const reader = useReader();
  const names = useNames();
  const me = usePerson();
  const mayAnswer = useMay('record.taken-out');
  const [refused, setRefused] = useState<string | null>(null);
  const { out } = row;
  if (!out?.alsoWith) return null;
  const { holder, since, alsoWith, craftId, dueBackAt } = out;
  const other = holder === me.id ? alsoWith.person : holder;
  const isOne = holder === me.id || alsoWith.person === me.id;
  const settle = async (has: typeof holder) => {
    const from = has === holder ? alsoWith.person : holder;
    const body = takenOut({ holderId: has, fromId: from, craftId, dueBackAt });
    const why = await handInTogether(row.id, me.id, [body], currentTime());
    setRefused(why);
    if (why === null) say(navigator.onLine ? `${row.tag}: ${names.person(has)} has it.` : KEPT_HERE);
  };
  return (
    <div className="border-l-4 border-amber py-1 pl-3">
      <p className="font-bold">
        {isOne
          ? `${names.person(other)} says they have ${row.tag} too.`
          : `Two people say they have ${row.tag}.`}
      </p>
      <p className="text-sm">
        {names.person(alsoWith.person)} took it {whenWords(alsoWith.since, reader)}, {names.person(holder)}{' '}
        {whenWords(since, reader)}. Whoever has it says so; both entries stay.
      </p>
      {mayAnswer && (
        <div className="mt-1 flex flex-wrap gap-2">
          {[holder, alsoWith.person].map((person) => (
            <Button key={person} onClick={() => void settle(person)}>
              {person === me.id ? 'I have it' : `${names.person(person)} has it`}
            </Button>
          ))}
        </div>
      )}
      {refused && (
        <p role="alert" className="font-bold text-red">
          {refused}
        </p>
      )}
    </div>
  );
}
