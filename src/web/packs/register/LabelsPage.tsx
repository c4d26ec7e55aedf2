import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { LABEL_SHEETS } from '../../../contract';
import type { LabelSheet } from '../../../contract';
import { labelLines, plural } from '../../../core/wording';
import { useDraft } from '../../app/drafts';
import { Failure } from '../../app/Failure';
import { useRegister } from '../../app/queries';
import { usePackRows } from '../../domain/waitingRows';
import { figureTyped } from '../../app/useServerForm';
import { TextField } from '../../kit/fields';
import { SelectOption, SelectField } from '../../kit/Select';
import { Empty, Loading } from '../../kit/Message';
import { filtered, listedPacks } from './listing';

interface Choice {
  readonly sheet: LabelSheet;
  readonly skip: string;
}

/** Tag labels to print: for the packs a filter finds, on the sheet that lies in the printer. */
export default function LabelsPage() {
  const rows = usePackRows();
  const register = useRegister();
  const [address, setAddress] = useSearchParams();
  const [{ sheet, skip }, setChoice] = useDraft<Choice>('labels', { sheet: 'a4-21', skip: '0' });
  const [typed, setTyped] = useState(address.get('q') ?? '');
  for (const query of [rows, register])
    if (query.isLoadingError) return <Failure error={query.error} retry={() => void query.refetch()} />;
  if (!rows.data || !register.data) return <Loading what="the packs" />;
  const packs = filtered(listedPacks(rows.data, register.data), typed, 0);
  const { columns, rows: lines } = LABEL_SHEETS[sheet];
  const used = Number(figureTyped(skip) ?? 0);
  const soundSkip = Number.isInteger(used) && used >= 0 && used < columns * lines;
  const query = new URLSearchParams({
    ids: packs.map(({ row }) => row.id).join(','),
    sheet,
    skip: String(used),
  });
  const first = packs[0];
  const type = register.data.types.find(({ id }) => id === first?.row.typeId);
  return (
    <div className="max-w-3xl">
      <title>Labels · Malle</title>
      <h1>Labels</h1>
      <p className="mb-4 text-faint">
        A code that opens the pack when scanned, and the facts a hand needs. Print at full size.
      </p>
      <div className="grid gap-4 sm:grid-cols-[minmax(0,1fr)_16rem_9rem]">
        <TextField
          label="For the packs"
          placeholder="all of them; or a tag, a type, a place …"
          value={typed}
          onChange={(event) => {
            setTyped(event.target.value);
            setAddress(event.target.value ? { q: event.target.value } : {}, { replace: true });
          }}
          hint={
            packs.length > MOST ? `The first ${MOST} at once; narrow it down.` : plural(packs.length, 'label')
          }
        />
        <SelectField
          label="Sheet"
          value={sheet}
          onChange={(value) => setChoice({ sheet: value as LabelSheet, skip: '0' })}
        >
          {Object.entries(LABEL_SHEETS).map(([key, { name }]) => (
            <SelectOption key={key} value={key}>
              {name}
            </SelectOption>
          ))}
        </SelectField>
        <TextField
          label="Labels used up"
          inputMode="numeric"
          value={skip}
          onChange={(event) => setChoice({ sheet, skip: event.target.value })}
          error={soundSkip ? undefined : `0 to ${columns * lines - 1} on this sheet.`}
        />
      </div>
      {packs.length === 0 ? (
        <Empty title="No pack matches." />
      ) : (
        <p className="mt-4">
          <a
            href={`/api/labels.pdf?${query.toString()}`}
            target="_blank"
            rel="noreferrer"
            aria-disabled={!soundSkip || packs.length > MOST}
            onClick={(event) => (!soundSkip || packs.length > MOST) && event.preventDefault()}
            className="inline-flex min-h-11 items-center rounded-sm border-[1.5px] border-accent bg-accent px-3 font-bold text-on-accent aria-disabled:opacity-55 md:min-h-8"
          >
            Open the PDF
          </a>
        </p>
      )}
      {type && first && (
        <figure className="mt-6 w-72 border border-rule bg-sheet p-3">
          <figcaption className="font-mono text-2xl font-bold">{first.row.tag}</figcaption>
          {labelLines(type, register.data.rules.rules).map((text) => (
            <p key={text} className="font-mono text-sm">
              {text}
            </p>
          ))}
        </figure>
      )}
    </div>
  );
}

const MOST = 200;
