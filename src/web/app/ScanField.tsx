import { CommandInput, CommandItem, CommandList, CommandRoot } from 'cmdk';
import { useEffect, useEffectEvent, useRef, useState } from 'react';
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
  const field = useRef<HTMLInputElement>(null);
  const [typed, setTyped] = useState('');
  const [open, setOpen] = useState(false);
  const [marked, setMarked] = useState('');
  const packs = usePackRows({ isPatient: true });
  const rows = packs.data ?? [];
  const areComing = packs.isPending;
  const named = useRegister().data ?? null;
  // What was asked about by Enter before: the same Enter again takes the first.
  const [askedAbout, setAskedAbout] = useState<string | null>(null);
  // What was entered before the packs were here: it means what it means once they are.
  const [entered, setEntered] = useState<string | null>(null);
  const found = open ? suggestions(typed, rows, named) : [];
  // The package says that its list is always open; a screen reader is to hear when it is.
  useEffect(() => field.current?.setAttribute('aria-expanded', String(found.length > 0)));
  const asks = askedAbout === typed && found.length > 1;

  const close = () => {
    setTyped('');
    setOpen(false);
    setAskedAbout(null);
    setEntered(null);
    field.current?.blur();
  };
  const choose = (chosen: Suggestion) => {
    close();
    onChoose(chosen);
  };
  const enter = () => {
    const at = Math.max(
      0,
      found.findIndex((one) => keyOf(one) === marked),
    );
    const chosen = found[at];
    if (chosen && at === 0 && askedAbout !== typed && !isSure(found, typed)) setAskedAbout(typed);
    else if (chosen) choose(chosen);
    else if (areComing && typed.trim() !== '') setEntered(typed);
    else if (typed.trim() !== '') {
      onUnknown(typed.trim());
      close();
    }
  };
  const goOn = useEffectEvent(() => {
    setEntered(null);
    enter();
  });
  useEffect(() => {
    if (entered === null || areComing) return undefined;
    const soon = setTimeout(() => goOn());
    return () => clearTimeout(soon);
  }, [entered, areComing]);
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'Escape') close();
    else if (event.key === 'Enter') enter();
    else return;
    event.preventDefault();
  };

  return (
    <CommandRoot
      label="Scan or type a tag, or a command"
      shouldFilter={false}
      vimBindings={false}
      value={marked}
      onValueChange={setMarked}
      onKeyDown={onKeyDown}
      className="relative min-w-0 flex-1 md:max-w-xl"
    >
      <CommandInput
        ref={field}
        data-scan-field
        autoCapitalize="characters"
        placeholder="Scan or type"
        value={typed}
        onValueChange={(text) => {
          setTyped(text);
          setOpen(true);
          setEntered(null);
        }}
        onFocus={() => setOpen(true)}
        onBlur={() => {
          setOpen(false);
          setEntered(null);
        }}
        className="h-11 w-full rounded-sm border-2 border-ink bg-sheet px-3 font-mono md:h-10 md:pr-10 md:text-lg md:tracking-wide"
      />
      <kbd
        className="pointer-events-none absolute top-1/2 right-3 -translate-y-1/2 border border-rule px-1.5 text-sm text-faint max-md:hidden"
        aria-hidden="true"
      >
        /
      </kbd>
      <div
        hidden={found.length === 0 && entered === null}
        // A press on the list must not take the cursor out of the field, which would close the list under it.
        onMouseDown={(event) => event.preventDefault()}
        className="absolute inset-x-0 top-full z-30 border-2 border-t-0 border-ink bg-sheet"
      >
        <CommandList label="What this may mean">
          {found.map((one) => (
            <CommandItem
              key={keyOf(one)}
              value={keyOf(one)}
              onSelect={() => choose(one)}
              className="flex min-h-11 cursor-pointer items-center gap-4 px-3 aria-selected:bg-press md:min-h-9"
            >
              <SuggestionLine suggestion={one} />
            </CommandItem>
          ))}
        </CommandList>
        {entered !== null && (
          <p role="status" className="px-3 py-2 text-sm">
            The packs are still on their way. This goes on as soon as they are here.
          </p>
        )}
        {asks && (
          <p role="status" className="border-t border-rule bg-wash-amber px-3 py-1 text-sm">
            Several answer to this. Type more, choose with the arrows, or Enter again for the first.
          </p>
        )}
      </div>
    </CommandRoot>
  );
}

function keyOf(one: Suggestion): string {
  if (one.kind === 'pack') return one.row.id;
  return one.kind === 'packs' ? `${one.what} ${one.name}` : one.verb;
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
