import { useState } from 'react';
import { Link } from 'react-router';
import { HISTORY_KINDS } from '../../core/importing';
import type { ImportKind, Reading, WholeKind } from '../../core/importing';
import { KIND_WORDS, plural } from '../../core/wording';
import { saveText } from '../app/saveText';
import { Button } from '../kit/Button';
import { Choice } from '../kit/fields';
import { SelectField, SelectOption } from '../kit/Select';
import { FileButton } from '../kit/FileButton';
import { Loading, Notice } from '../kit/Message';
import { ProgressBar } from '../kit/ProgressBar';
import type { OpenedFile, Preview, Sent } from '../workers/import.worker';
import type { Delimiter, Encoding } from '../workers/openFile';
import { ColumnMatching } from './ColumnMatching';
import { EarlierImports } from './EarlierImports';
import { ImportLines } from './ImportLines';
import { UnknownWords } from './UnknownWords';
import { useImport } from './useImport';

/** Brings in what a club has kept so far: choose a file, look at what each line becomes, let the good ones in. */
export function ImportPage() {
  const importing = useImport();
  const { state } = importing;
  const [of, setOf] = useState<ImportKind>('packs');
  return (
    <div className="grid gap-6">
      <section aria-label="The file" className="max-w-3xl">
        <p className="mb-3">
          From a spreadsheet or any program that writes CSV. Nothing is kept before you have seen what each
          line becomes, and the whole can be taken back later.
        </p>
        <div className="flex flex-wrap items-end gap-4">
          <Choice
            label="What the file holds"
            options={[
              { value: 'packs', label: 'Packs' },
              { value: 'history', label: 'What happened to them' },
            ]}
            value={of}
            onChange={(value) => {
              setOf(value);
              importing.again(value);
            }}
          />
          <FileButton
            name="The file"
            accept=".csv,.tsv,.txt,.xlsx,text/csv"
            weight="main"
            disabled={state.step === 'sending'}
            onFile={(file) => importing.open(file, of)}
          >
            {state.file ? 'Another file' : 'Choose a file'}
          </FileButton>
        </div>
        <p className="mt-1 text-sm text-faint">
          {of === 'packs'
            ? 'One line a pack: its tag, what its label says, where it lies, cycles and flights so far. CSV or XLSX.'
            : 'One line a reading, charge, flight or inspection: tag, day, and what was measured. CSV or XLSX. Bring the packs in first.'}
        </p>
      </section>
      {state.problem && (
        <Notice title={state.step === 'no-file' ? 'This file was not opened.' : 'It broke off.'}>
          {state.problem}{' '}
          {state.opened && 'What was taken is in; press the button again and it goes on where it stopped.'}
        </Notice>
      )}
      {state.step === 'opening' && <Loading what="the file" />}
      {state.opened && state.reading && (
        <>
          <FileFacts
            opened={state.opened}
            reading={state.reading}
            whole={state.whole}
            importing={importing}
            of={of}
          />
          {state.sent && state.step === 'sent' ? (
            <Done
              sent={state.sent}
              of={of}
              fileName={state.opened.fileName}
              onAgain={() => importing.again(of)}
            />
          ) : state.step === 'sending' ? (
            <section className="max-w-xl" aria-live="polite">
              <ProgressBar
                label="Taking them in"
                done={state.progress?.done ?? 0}
                of={state.progress?.of ?? state.preview?.good ?? 0}
                unit={of === 'packs' ? 'packs' : 'records'}
              />
              <Button onClick={importing.stop}>Stop after this batch</Button>
            </section>
          ) : state.preview ? (
            <Previewed
              preview={state.preview}
              of={of}
              importing={importing}
              reading={state.reading}
              whole={state.whole}
            />
          ) : (
            <Loading what="what each line becomes" />
          )}
        </>
      )}
      {state.step === 'no-file' && <EarlierImports />}
    </div>
  );
}

type Importing = ReturnType<typeof useImport>;

const ENCODING_WORDS: Readonly<Record<Encoding, string>> = {
  'utf-8': 'UTF-8',
  'windows-1252': 'Western European',
  'utf-16le': 'UTF-16',
  'utf-16be': 'UTF-16, other order',
};
const DELIMITER_WORDS: Readonly<Record<Delimiter, string>> = {
  ',': 'comma',
  ';': 'semicolon',
  '\t': 'tab',
  '|': 'bar',
};

function FileFacts({
  opened,
  reading,
  whole,
  importing,
  of,
}: {
  opened: OpenedFile;
  reading: Reading;
  whole: WholeKind;
  importing: Importing;
  of: ImportKind;
}) {
  const { text, sheets } = opened;
  const file = importing.state.file!;
  const busy = importing.state.step === 'sending';
  const change = (more: Partial<Reading>) => importing.read({ ...reading, ...more }, whole);
  const [earlier] = opened.before;
  return (
    <section aria-label="How it is read" className="border-t-2 border-ink pt-3">
      <h2>
        {opened.fileName} <span className="font-normal text-faint">{plural(opened.lines, 'line')}</span>
      </h2>
      {earlier && (
        <p className="font-bold text-amber">
          This very file was{' '}
          {earlier.takenBackAt === null
            ? earlier.endedAt === null
              ? 'begun'
              : 'brought in'
            : 'brought in and taken back'}{' '}
          before. {earlier.takenBackAt === null && 'What is there already is left out.'}
        </p>
      )}
      {opened.remembered && <p className="text-faint">Read as the last file with these columns was.</p>}
      <fieldset disabled={busy} className="my-3 flex flex-wrap items-end gap-4">
        {text && (
          <>
            <SelectField
              label="Letters"
              value={text.encoding}
              onChange={(value) =>
                importing.open(file, of, { text: { ...text, encoding: value as Encoding } })
              }
            >
              {Object.entries(ENCODING_WORDS).map(([value, name]) => (
                <SelectOption key={value} value={value}>
                  {name}
                </SelectOption>
              ))}
            </SelectField>
            <SelectField
              label="Between columns"
              value={text.delimiter}
              onChange={(value) =>
                importing.open(file, of, { text: { ...text, delimiter: value as Delimiter } })
              }
            >
              {Object.entries(DELIMITER_WORDS).map(([value, name]) => (
                <SelectOption key={value} value={value}>
                  {name}
                </SelectOption>
              ))}
            </SelectField>
          </>
        )}
        {sheets.length > 1 && (
          <SelectField
            label="Sheet"
            value={opened.sheet ?? ''}
            onChange={(value) => importing.open(file, of, { sheet: value })}
          >
            {sheets.map((name) => (
              <SelectOption key={name} value={name}>
                {name}
              </SelectOption>
            ))}
          </SelectField>
        )}
        <Choice
          label="Decimals"
          options={[
            { value: 'comma', label: '1,5' },
            { value: 'point', label: '1.5' },
          ]}
          value={reading.decimals}
          onChange={(decimals) => change({ decimals })}
        />
        <Choice
          label={opened.datesAreSure ? 'Dates' : 'Dates: please check'}
          options={[
            { value: 'day-first', label: '31.12.' },
            { value: 'month-first', label: '12/31' },
          ]}
          value={reading.dates}
          onChange={(dates) => change({ dates })}
        />
        {of === 'history' && (
          <SelectField
            label="Each line is"
            value={whole}
            onChange={(value) => importing.read(reading, value as WholeKind)}
          >
            <SelectOption value="by-line">what it says</SelectOption>
            {HISTORY_KINDS.map((kind) => (
              <SelectOption key={kind} value={kind}>
                a {KIND_WORDS[kind].toLowerCase()}
              </SelectOption>
            ))}
          </SelectField>
        )}
      </fieldset>
      <fieldset disabled={busy}>
        <ColumnMatching
          of={of}
          opened={opened}
          reading={reading}
          onChange={(matching) => change({ matching })}
        />
      </fieldset>
    </section>
  );
}

function Previewed({
  preview,
  of,
  importing,
  reading,
  whole,
}: {
  preview: Preview;
  of: ImportKind;
  importing: Importing;
  reading: Reading;
  whole: WholeKind;
}) {
  const { good, known, refused, lacks, newTypes, newPlaces, withoutTime } = preview;
  if (lacks.length > 0)
    return (
      <Notice title={`No column is the ${lacks.map((name) => name.toLowerCase()).join(', nor the ')}.`}>
        Choose it above, under the name of its column.
      </Notice>
    );
  const what = of === 'packs' ? 'pack' : 'line';
  return (
    <section aria-label="What each line becomes" aria-live="polite" className="grid gap-3">
      <UnknownWords
        words={preview.unknown}
        reading={reading}
        onChange={(words) => importing.read({ ...reading, words }, whole)}
      />
      <p className="text-lg">
        <b>{plural(good, what)}</b> can come in
        {known > 0 && <>, {plural(known, 'line')} the register has already</>}
        {refused > 0 && (
          <>
            , <b className="text-red">{plural(refused, 'line')}</b> cannot
          </>
        )}
        .
      </p>
      {newTypes.length > 0 && (
        <p>
          New types, to be looked at afterwards: <b>{newTypes.join(', ')}</b>.
        </p>
      )}
      {newPlaces.length > 0 && (
        <p>
          New places, taken for shelves until you say otherwise: <b>{newPlaces.join(', ')}</b>.
        </p>
      )}
      {withoutTime > 0 && (
        <p>
          {plural(withoutTime, 'line')} without a time of day: those of one pack and day are put two hours
          apart, in the order they stand.
        </p>
      )}
      <div>
        <Button weight="main" disabled={good === 0} onClick={importing.send}>
          {good === 0 ? 'Nothing to bring in' : `Bring in ${plural(good, what)}`}
        </Button>
      </div>
      <ImportLines lines={preview.lines} />
    </section>
  );
}

function Done({
  sent,
  of,
  fileName,
  onAgain,
}: {
  sent: Sent;
  of: ImportKind;
  fileName: string;
  onAgain: () => void;
}) {
  const { taken, known, refused, refusedFile, stopped } = sent;
  return (
    <section aria-label="Done" aria-live="polite" className="border-2 border-ink bg-sheet p-4">
      <h2>{stopped ? 'Stopped: what was taken so far is in.' : 'It is in.'}</h2>
      <p className="text-lg">
        {plural(taken, of === 'packs' ? 'pack' : 'record')} came in
        {known > 0 && `, ${known} were there already`}
        {refused > 0 && `, ${plural(refused, 'line')} did not`}.
      </p>
      <div className="mt-3 flex flex-wrap items-center gap-4">
        {refusedFile !== '' && (
          <Button
            weight="main"
            onClick={() => saveText(refusedFile, `not taken - ${fileName.replace(/\.\w+$/, '')}.csv`)}
          >
            Save the lines that did not come in
          </Button>
        )}
        <Link
          to="/packs"
          className="inline-flex min-h-11 items-center font-bold text-accent underline md:min-h-8"
        >
          See the packs
        </Link>
        <Button weight="quiet" onClick={onAgain}>
          Another file, or take one back
        </Button>
      </div>
      {refusedFile !== '' && (
        <p className="mt-2 text-sm text-faint">
          The file has the lines that did not come in, each with the reason. Put them right there and open it
          here.
        </p>
      )}
    </section>
  );
}
