import { useState } from 'react';
import { Link } from 'react-router';
import type { PackRow } from '../../../contract';
import { parseVolts } from '../../../core/reading';
import { clockWords, span, voltsRefusalSentence } from '../../../core/wording';
import { currentTime, useReader } from '../../app/clock';
import { useDraft } from '../../app/drafts';
import { say } from '../../app/notices';
import { useRegister } from '../../app/queries';
import { Button } from '../../kit/Button';
import { TextField } from '../../kit/fields';
import { usePerson } from '../Person';
import { LAST_INSTRUMENT, plainReading, voltsOf } from '../typedReading';
import { handInTogether } from './custodyRecords';
import { TAG } from '../../kit/press';

/** What a landed pack still asks for: to be let cool, then to be read once its cells have rested. None is asked before it can be known. */
export function RestedCells({ row }: { row: PackRow }) {
  const reader = useReader();
  const { owed } = row;
  if (!owed) return null;
  const { coolAt, readFrom } = owed;
  return (
    <li className="ruled py-2">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <Link to={`/packs/${row.id}`} className={TAG}>
          {row.tag}
        </Link>
        <span className="text-sm text-faint">landed {clockWords(owed.flownAt, reader)}</span>
        {reader.now < coolAt && (
          <span className="text-sm">
            Let it cool until {clockWords(coolAt, reader)}, where nothing can burn.
          </span>
        )}
      </div>
      {reader.now < readFrom ? (
        <p className="text-sm">
          Its cells can be read from <b>{clockWords(readFrom, reader)}</b>, in {span(readFrom - reader.now)}.
        </p>
      ) : (
        <CellsField row={row} />
      )}
    </li>
  );
}

function CellsField({ row }: { row: PackRow }) {
  const register = useRegister().data;
  const me = usePerson();
  const [text, setText, clear] = useDraft(`owed.${row.id}`, '');
  const [asked, setAsked] = useState(false);
  const [refused, setRefused] = useState<string | null>(null);
  const [lastMeter] = useDraft(LAST_INSTRUMENT, '');
  const type = register?.types.find(({ id }) => id === row.typeId);
  if (!register || !type) return null;
  const typed = parseVolts(text, type);
  const wrong =
    typed.outcome === 'refused'
      ? voltsRefusalSentence(typed.why)
      : typed.outcome === 'empty'
        ? 'Type its cells.'
        : null;
  const save = async () => {
    const volts = voltsOf(typed);
    setAsked(volts === null);
    if (!volts) return;
    const meter = register.instruments.find(({ name }) => name === lastMeter) ?? null;
    const body = { kind: 'reading', payload: plainReading(volts, meter), supersedes: null } as const;
    const why = await handInTogether(row.id, me.id, [body], currentTime());
    setRefused(why);
    if (why !== null) return;
    clear();
    say(`${row.tag}: its cells are written down.`);
  };
  return (
    <form
      className="flex flex-wrap items-start gap-2"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <div className="min-w-40 flex-1">
        <TextField
          label={`${row.tag}: rested cells`}
          inputMode="decimal"
          placeholder={type.series === 1 ? '3.76' : '376 375 376 …'}
          value={text}
          onChange={({ target }) => setText(target.value)}
          error={refused ?? (asked ? (wrong ?? undefined) : undefined)}
          className="font-mono"
        />
      </div>
      <Button type="submit" weight="main" className="mt-6">
        Save
      </Button>
    </form>
  );
}
