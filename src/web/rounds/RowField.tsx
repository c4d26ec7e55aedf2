import { useEffect, useId } from 'react';
import type { KeyboardEvent, ReactNode, RefObject } from 'react';
import type { ChecklistItem } from '../../core/inspection';
import { Button } from '../kit/Button';

interface Props {
  readonly ref: RefObject<HTMLInputElement | null>;
  readonly tag: string;
  readonly under: string;
  readonly value: string;
  readonly items: readonly ChecklistItem[];
  readonly letters: readonly (string | null)[];
  readonly error: string | undefined;
  readonly hint: string | undefined;
  readonly question: string | null;
  readonly placeholder?: string;
  /** What a meter says about the field. */
  readonly meter?: ReactNode;
  readonly onText: (text: string) => void;
  readonly onLetter: (key: string) => void;
  readonly onEnter: () => void;
  readonly onMove: (by: 1 | -1) => void;
}

/** The one field of a row. Figures are volts; a letter answers its item; Enter keeps and goes on; arrows change rows. */
export function RowField(props: Props) {
  const { ref, tag, under, value, items, letters, error, hint, question, placeholder, onText } = props;
  const id = useId();
  useEffect(() => {
    ref.current?.focus({ preventScroll: true });
    ref.current?.scrollIntoView({ block: 'center' });
  }, [ref]);

  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const at = letters.indexOf(event.key.toLowerCase());
    // After a dash comes a reason, in words.
    const inWords = /^\s*[-–—]/.test(value);
    if (event.key === 'Enter') props.onEnter();
    else if (event.key === 'ArrowDown') props.onMove(1);
    else if (event.key === 'ArrowUp') props.onMove(-1);
    else if (event.key.length === 1 && at !== -1 && !inWords) props.onLetter(items[at]!.key);
    else return;
    event.preventDefault();
  };
  return (
    <div>
      <div className="mb-1.5 flex items-baseline justify-between gap-3">
        <label htmlFor={id} className="font-mono text-2xl font-bold tracking-[0.08em]">
          {tag}
        </label>
        <span className="text-sm text-faint">{under}</span>
      </div>
      <div className="flex flex-wrap gap-2">
        <input
          ref={ref}
          id={id}
          type="text"
          autoComplete="off"
          spellCheck={false}
          enterKeyHint="next"
          aria-describedby={`${id}-help`}
          aria-invalid={error !== undefined}
          value={value}
          placeholder={placeholder ?? 'cells in order'}
          onChange={(event) => onText(event.target.value)}
          onKeyDown={onKeyDown}
          className="min-h-12 min-w-0 flex-1 rounded-sm border-2 border-ink bg-ground px-2 font-mono font-bold aria-invalid:border-red max-sm:basis-full sm:text-xl sm:tracking-wide"
        />
        <Button weight="main" tabIndex={-1} onClick={props.onEnter} className="max-sm:flex-1 md:min-h-12">
          Save
        </Button>
      </div>
      {props.meter}
      <div id={`${id}-help`} className="mt-2 min-h-6 text-sm">
        {error !== undefined ? (
          <p role="alert" className="font-bold text-red">
            {error}
          </p>
        ) : question ? (
          <p role="alert" className="bg-wash-amber px-2 py-1 font-bold">
            {question}
          </p>
        ) : (
          <p className="text-faint">
            {hint ?? (
              <>
                - and a reason leaves it out · ? not in the box
                <span className="max-md:hidden"> · Enter saves · ↑ ↓ other rows</span>
              </>
            )}
          </p>
        )}
      </div>
    </div>
  );
}
