import { useEffect, useRef, useState } from 'react';
import { v7 as newId } from 'uuid';
import type { CurveAnswer, PackDetails } from '../../../contract';
import { LOG_FIELDS, packedCurve, TIME_UNITS } from '../../../core/charging';
import type { CurvePoint, LogField, LogForm, LogRead, TimeUnit } from '../../../core/charging';
import { LOG_FAULTS, LOG_FIELD_WORDS, plural } from '../../../core/wording';
import { ask, FailedRequest } from '../../app/api';
import { CurveChart } from '../../domain/curve/Curve';
import { Button } from '../../kit/Button';
import { FileButton } from '../../kit/FileButton';
import { Choice } from '../../kit/fields';
import { ProgressBar } from '../../kit/ProgressBar';
import { Select, SelectField, SelectOption } from '../../kit/Select';
import type { LogMessage, LogQuestion } from '../../workers/log.worker';

interface Opened {
  readonly columns: readonly string[];
  readonly samples: readonly (readonly string[])[];
  readonly form: LogForm;
}

/** A charger's log, column by column, drawn before anything of it is taken. */
export function ChargeLog({
  pack,
  onTaken,
}: {
  pack: Pick<PackDetails, 'id'>;
  onTaken: (curve: CurveAnswer) => void;
}) {
  const [file, setFile] = useState<File | null>(null);
  const [opened, setOpened] = useState<Opened | null>(null);
  const [read, setRead] = useState<LogRead | null>(null);
  const [progress, setProgress] = useState<{ readonly done: number; readonly of: number } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const worker = useRef<Worker | null>(null);
  const asked = useRef(0);
  const [isRemembered, setRemembered] = useState(false);

  const end = () => {
    worker.current?.terminate();
    worker.current = null;
  };
  useEffect(() => end, []);

  const start = (which: File, form: LogForm | null) => {
    worker.current ??= newWorker();
    const id = ++asked.current;
    setFile(which);
    setRead(null);
    setProblem(null);
    setProgress({ done: 0, of: which.size });
    worker.current.onmessage = ({ data }: MessageEvent<LogMessage>) => {
      if (data.id !== id) return;
      if (data.kind === 'progress') setProgress(data);
      else if (data.kind === 'opened') {
        setOpened(data);
        if (form === null) void remembered(which, data);
      } else if (data.kind === 'read') {
        setProgress(null);
        setRead(data.read);
      } else {
        setProgress(null);
        setProblem(
          data.why === 'no-table'
            ? 'No column of this file is a time, volts, a current or a charge.'
            : 'This file is no table of text. Save the log as CSV.',
        );
      }
    };
    worker.current.onerror = () => {
      end();
      setProgress(null);
      setProblem('This file could not be read.');
    };
    const question: LogQuestion = { id, file: which, form };
    worker.current.postMessage(question);
  };

  /** A log with the same columns was read before: it is read the same way, unless a hand has changed something already. */
  const remembered = async (which: File, { columns, form }: Opened) => {
    setRemembered(false);
    try {
      const { reading } = await ask('GET /log-reading', { query: { columns: keyOf(columns) } });
      if (!reading || JSON.stringify(reading) === JSON.stringify(form)) return;
      setRemembered(true);
      start(which, reading);
    } catch {
      // Without a network it is read as it seems to be.
    }
  };

  const change = (part: Partial<LogForm>) => {
    if (!opened || !file) return;
    const form = { ...opened.form, ...part };
    setOpened({ ...opened, form });
    start(file, form);
  };

  const take = async (points: readonly CurvePoint[]) => {
    if (!opened || !file) return;
    setProblem(null);
    try {
      const curve = await ask('POST /curves', {
        body: {
          id: newId(),
          packId: pack.id,
          name: file.name.slice(0, 200),
          columnsKey: keyOf(opened.columns),
          reading: { ...opened.form, matching: [...opened.form.matching] },
          packed: base64(packedCurve(points)),
        },
      });
      end();
      setFile(null);
      setOpened(null);
      setRead(null);
      onTaken(curve);
    } catch (error) {
      if (!(error instanceof FailedRequest)) throw error;
      setProblem(error.says);
    }
  };

  return (
    <div className="grid gap-3">
      <p className="flex flex-wrap items-center gap-3">
        <FileButton
          name="A charger’s log"
          accept=".csv,.txt,.log,.tsv,text/plain,text/csv"
          disabled={progress !== null}
          onFile={(which) => start(which, null)}
        >
          {file ? 'Another log' : 'Read a charger’s log'}
        </FileButton>
        {file && <span className="text-sm text-faint">{file.name}</span>}
        {progress && (
          <Button
            onClick={() => {
              end();
              setProgress(null);
              setFile(null);
              setOpened(null);
            }}
          >
            Cancel
          </Button>
        )}
      </p>
      {progress && (
        <ProgressBar
          label="Reading the log"
          done={Math.round(progress.done / 1000)}
          of={Math.round(progress.of / 1000)}
          unit="kB"
        />
      )}
      {problem && (
        <p role="alert" className="font-bold text-red">
          {problem}
        </p>
      )}
      {opened && <Columns opened={opened} onChange={change} />}
      {read && 'fault' in read && (
        <p role="alert" className="font-bold text-red">
          {LOG_FAULTS[read.fault]}
        </p>
      )}
      {read && !('fault' in read) && (
        <div>
          <CurveChart points={read.points} topMv={null} expectedMinutes={null} />
          <p className="text-sm text-faint">
            {plural(read.lines, 'line')}, {plural(read.points.length, 'point')} kept
            {read.skipped > 0 &&
              `, ${plural(read.skipped, 'line')} without a figure or out of order left out`}
            {isRemembered && '; read as the last log with these columns was'}.
          </p>
          <Button weight="main" onClick={() => void take(read.points)}>
            Take it into the charge
          </Button>
        </div>
      )}
    </div>
  );
}

function Columns({ opened, onChange }: { opened: Opened; onChange: (part: Partial<LogForm>) => void }) {
  const { columns, samples, form } = opened;
  return (
    <div className="grid gap-2">
      <ul className="grid gap-x-6 sm:grid-cols-2" aria-label="What each column is">
        {columns.map((name, i) => (
          <li key={`${i} ${name}`} className="ruled flex items-center gap-3 py-1 text-sm">
            <span className="min-w-0 flex-1 truncate">
              <b>{name || `column ${i + 1}`}</b>{' '}
              <span className="font-mono text-faint">{samples.map((row) => row[i] ?? '').join('  ')}</span>
            </span>
            <span className="w-36 shrink-0">
              <Select
                aria-label={`${name || `Column ${i + 1}`} is`}
                value={form.matching[i] ?? ''}
                onChange={(field) =>
                  onChange({
                    matching: form.matching.map((one, other) =>
                      other === i
                        ? ((field || null) as LogField | null)
                        : // Only cells are several columns.
                          one === field && field !== 'cell'
                          ? null
                          : one,
                    ),
                  })
                }
              >
                <SelectOption value="">nothing wanted</SelectOption>
                {LOG_FIELDS.map((field) => (
                  <SelectOption key={field} value={field}>
                    {LOG_FIELD_WORDS[field]}
                  </SelectOption>
                ))}
              </Select>
            </span>
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap gap-4">
        <SelectField
          label="Times count"
          value={form.unit}
          onChange={(unit) => onChange({ unit: unit as TimeUnit })}
        >
          {TIME_UNITS.map((unit) => (
            <SelectOption key={unit} value={unit}>
              {UNIT_WORDS[unit]}
            </SelectOption>
          ))}
        </SelectField>
        <Choice
          label="Decimals"
          options={DECIMALS}
          value={form.decimals}
          onChange={(decimals) => onChange({ decimals })}
        />
      </div>
    </div>
  );
}

const UNIT_WORDS: Readonly<Record<TimeUnit, string>> = { s: 'seconds', ms: 'milliseconds', min: 'minutes' };
const DECIMALS = [
  { value: 'point', label: '3.85' },
  { value: 'comma', label: '3,85' },
] as const;

/** Bytes as text, as JSON can carry them. */
function base64(bytes: Uint8Array): string {
  let text = '';
  for (const byte of bytes) text += String.fromCharCode(byte);
  return btoa(text);
}

const keyOf = (columns: readonly string[]) => columns.join('\t').slice(0, 4_000);

function newWorker(): Worker {
  return new Worker(new URL('../../workers/log.worker.ts', import.meta.url), { type: 'module' });
}
