import { useEffect, useEffectEvent, useState } from 'react';
import type { KeyboardEvent } from 'react';
import type { PackRow } from '../../contract';
import type { PackId } from '../../core/measure';
import { tagKey } from '../../core/pack';
import { TextField } from '../kit/fields';
import { VerdictShape } from '../kit/VerdictMark';
import { CameraButton } from './camera/CameraButton';
import { usePackRows } from './waitingRows';
import { packOfTag, tagScanned } from '../app/scan';
import { useScanTarget } from '../app/scanTarget';

const MOST_OFFERED = 6;

/** Packs chosen by tag: typed and pressed, or scanned wherever the cursor is. */
export function PackPicker({
  label,
  ids,
  onChange,
  error,
  hint,
  listed = true,
}: {
  label: string;
  ids: readonly PackId[];
  onChange: (ids: readonly PackId[]) => void;
  error?: string | undefined;
  hint?: string | undefined;
  /** Whether those chosen stand below the field; not where the page lists them itself. */
  listed?: boolean;
}) {
  const [typed, setTyped] = useState('');
  const [unknown, setUnknown] = useState<string | null>(null);
  /** A fast hand, or a scanner, is there before the packs are: what it gave is taken when they come. */
  const [early, setEarly] = useState<readonly string[]>([]);
  const { data } = usePackRows();
  const rows = data ?? [];
  const chosen = ids.flatMap((id) => rows.find((row) => row.id === id) ?? []);
  const offered = offers(typed, rows, ids);
  const add = (row: PackRow) => {
    setTyped('');
    setUnknown(null);
    if (!ids.includes(row.id)) onChange([...ids, row.id]);
  };
  const take = (text: string): boolean => {
    if (!data) {
      setEarly([...early, text]);
      setTyped('');
      return true;
    }
    const row = packOfTag(tagScanned(text), rows) ?? (offered.length === 1 ? offered[0] : null);
    if (row) add(row);
    else if (text.trim() !== '') setUnknown(text.trim());
    return true;
  };
  useScanTarget(take);
  const takeEarly = useEffectEvent((all: readonly PackRow[]) => {
    const found = early.map((text) => ({ text, row: packOfTag(tagScanned(text), all) }));
    const named = found.flatMap(({ row }) => (row && !ids.includes(row.id) ? [row.id] : []));
    if (named.length > 0) onChange([...ids, ...new Set(named)]);
    setUnknown(found.find(({ row }) => row === null)?.text.trim() ?? null);
    setEarly([]);
  });
  useEffect(() => {
    if (!data || early.length === 0) return;
    const soon = setTimeout(() => takeEarly(data));
    return () => clearTimeout(soon);
  }, [data, early]);
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'Backspace' && typed === '' && ids.length > 0) return onChange(ids.slice(0, -1));
    if (event.key !== 'Enter' || typed.trim() === '') return;
    event.preventDefault();
    take(typed);
  };
  return (
    <div>
      <div className="flex items-start gap-2">
        <div className="min-w-0 flex-1">
          <TextField
            label={label}
            value={typed}
            autoCapitalize="characters"
            onChange={(event) => {
              setTyped(event.target.value);
              setUnknown(null);
            }}
            onKeyDown={onKeyDown}
            error={unknown ? `No pack carries the tag ${unknown}.` : error}
            hint={early.length > 0 ? `Looks for ${early.join(', ')}.` : hint}
            className="font-mono"
          />
        </div>
        <CameraButton onScan={take} className="mt-6" />
      </div>
      {offered.length > 0 && (
        <ul aria-label="Packs that may be meant" className="mt-1 flex flex-wrap gap-1.5">
          {offered.map((row) => (
            <li key={row.id}>
              <button
                type="button"
                onClick={() => add(row)}
                className="min-h-11 border-[1.5px] border-accent px-3 font-mono font-bold text-accent md:min-h-8"
              >
                {row.tag}
              </button>
            </li>
          ))}
        </ul>
      )}
      {listed && chosen.length > 0 && (
        <ul aria-label="Packs named" className="mt-2 flex flex-wrap gap-1.5">
          {chosen.map((row) => (
            <li key={row.id}>
              <button
                type="button"
                onClick={() => onChange(ids.filter((id) => id !== row.id))}
                aria-label={`Leave ${row.tag} out`}
                className="inline-flex min-h-11 items-center gap-1.5 border-[1.5px] border-ink bg-sheet px-3 font-mono font-bold md:min-h-8"
              >
                <VerdictShape verdict={row.verdict} charged={row.charged} />
                {row.tag} <span aria-hidden="true">×</span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

function offers(typed: string, rows: readonly PackRow[], taken: readonly PackId[]): readonly PackRow[] {
  const key = tagKey(typed);
  if (key === '') return [];
  return rows
    .filter((row) => !taken.includes(row.id) && row.verdict !== 'recycled' && tagKey(row.tag).includes(key))
    .sort((a, b) => Number(tagKey(b.tag).startsWith(key)) - Number(tagKey(a.tag).startsWith(key)))
    .slice(0, MOST_OFFERED);
}
