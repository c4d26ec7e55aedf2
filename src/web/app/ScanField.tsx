import { useId, useRef, useState } from 'react';
import type { KeyboardEvent } from 'react';
import { plural } from '../../core/wording';
import { VerdictMark } from '../kit/VerdictMark';
import { usePackRows } from '../domain/waitingRows';
import { useRegister } from './queries';
import { isSure, suggestions } from './scan';
import type { Suggestion } from './scan';

/** The door to everything: a tag opens its pack, a verb does what it says. Always on screen; `/` leads here. */
export function ScanField({
  onChoose,
  onUnknown,
}: {
  onChoose: (chosen: Suggestion) => void;
  onUnknown: (typed: string) => void;
}) {
  const id = useId();
  const field = useRef<HTMLInputElement>(null);
  const [typed, setTyped] = useState('');
  const [open, setOpen] = useState(false);
  const [marked, setMarked] = useState(0);
  const rows = usePackRows().data ?? [];
  const named = useRegister().data ?? null;
  // What was asked about by Enter before: the same Enter again takes the first.
  const [askedAbout, setAskedAbout] = useState<string | null>(null);
  const found = open ? suggestions(typed, rows, named) : [];
  const asks = askedAbout === typed && found.length > 1;

  const close = () => {
    setTyped('');
    setOpen(false);
    setMarked(0);
    setAskedAbout(null);
  };
  const choose = (chosen: Suggestion) => {
    close();
    field.current?.blur();
    onChoose(chosen);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'ArrowDown') setMarked((at) => Math.min(at + 1, found.length - 1));
    else if (event.key === 'ArrowUp') setMarked((at) => Math.max(at - 1, 0));
    else if (event.key === 'Escape') {
      close();
      field.current?.blur();
    } else if (event.key === 'Enter') enter();
    else return;
    event.preventDefault();
  };
  const enter = () => {
    const chosen = found[marked];
    if (chosen && marked === 0 && askedAbout !== typed && !isSure(found, typed)) setAskedAbout(typed);
    else if (chosen) choose(chosen);
    else if (typed.trim() !== '') {
      onUnknown(typed.trim());
      close();
      field.current?.blur();
    }
  };

  return (
    <div className="relative min-w-0 flex-1 md:max-w-xl">
      <input
        ref={field}
        data-scan-field
        type="text"
        role="combobox"
        aria-label="Scan or type a tag, or a command"
        aria-expanded={found.length > 0}
        aria-controls={`${id}-list`}
        aria-autocomplete="list"
        {...(found[marked] ? { 'aria-activedescendant': `${id}-${marked}` } : {})}
        autoComplete="off"
        autoCapitalize="characters"
        spellCheck={false}
        placeholder="Scan or type"
        value={typed}
        onChange={(event) => {
          setTyped(event.target.value);
          setMarked(0);
          setOpen(true);
        }}
        onFocus={() => setOpen(true)}
        onBlur={() => setOpen(false)}
        onKeyDown={onKeyDown}
        className="h-11 w-full rounded-sm border-2 border-ink bg-sheet px-3 font-mono md:h-10 md:pr-10 md:text-lg md:tracking-wide"
      />
      <kbd
        className="pointer-events-none absolute top-1/2 right-3 -translate-y-1/2 border border-rule px-1.5 text-sm text-faint max-md:hidden"
        aria-hidden="true"
      >
        /
      </kbd>
      <ul
        id={`${id}-list`}
        role="listbox"
        aria-label="What this may mean"
        hidden={found.length === 0}
        className="absolute inset-x-0 top-full z-30 border-2 border-t-0 border-ink bg-sheet"
      >
        {found.map((one, i) => (
          <li
            key={
              one.kind === 'pack' ? one.row.id : one.kind === 'packs' ? `${one.what} ${one.name}` : one.verb
            }
            id={`${id}-${i}`}
            role="option"
            aria-selected={i === marked}
            onPointerDown={(event) => {
              event.preventDefault();
              choose(one);
            }}
            className="flex min-h-11 cursor-pointer items-center gap-4 px-3 aria-selected:bg-press md:min-h-9"
          >
            <SuggestionLine suggestion={one} />
          </li>
        ))}
        {asks && (
          <li role="status" className="border-t border-rule bg-wash-amber px-3 py-1 text-sm">
            Several answer to this. Type more, choose with the arrows, or Enter again for the first.
          </li>
        )}
      </ul>
    </div>
  );
}

function SuggestionLine({ suggestion }: { suggestion: Suggestion }) {
  if (suggestion.kind === 'command') {
    return (
      <>
        <span className="w-24 font-mono font-bold">{suggestion.verb}</span>
        <span className="text-faint">{suggestion.does}</span>
      </>
    );
  }
  if (suggestion.kind === 'packs')
    return (
      <>
        <span className="font-bold">{suggestion.name}</span>
        <span className="text-faint">
          {plural(suggestion.count, 'pack')} {suggestion.what}
        </span>
      </>
    );
  return (
    <>
      <span className="w-24 font-mono font-bold">{suggestion.row.tag}</span>
      {suggestion.volts ? (
        <span>read {suggestion.volts}</span>
      ) : (
        <VerdictMark verdict={suggestion.row.verdict} charged={suggestion.row.charged} />
      )}
    </>
  );
}
