import { ToggleGroup } from 'radix-ui';
import { useEffect } from 'react';
import { ANSWERS } from '../../../core/inspection';
import type { Answer, ChecklistItem, Marks } from '../../../core/inspection';
import { ANSWER_WORDS } from '../../../core/wording';
import { readyForPhotos } from '../../app/photos';
import { UNMARKED } from './marks';
import type { Mark } from './marks';
import { PhotoStrip } from './PhotoStrip';

const PRESSED: Readonly<Record<Answer, string>> = {
  ok: 'data-[state=on]:bg-leaf',
  note: 'data-[state=on]:bg-amber',
  fail: 'data-[state=on]:bg-red',
};

interface Props {
  readonly items: readonly ChecklistItem[];
  readonly letters?: readonly (string | null)[];
  readonly marks: Marks;
  /** Changes what is marked of one item, from whatever is marked by then: a photo arrives while a hand types on. */
  readonly onMark: (key: string, change: (mark: Mark) => Mark) => void;
}

/** A checklist to press through: each item ok, a note or a fail, with words and photos for what is not in order. */
export function ItemAnswers({ items, letters, marks, onMark }: Props) {
  useEffect(() => void readyForPhotos(), []);
  const change = (key: string, part: Partial<Mark>) => onMark(key, (mark) => ({ ...mark, ...part }));
  if (items.length === 0) return null;
  return (
    <ul className="border-t border-line">
      {items.map((item, i) => {
        const mark = marks[item.key] ?? UNMARKED;
        return (
          <li key={item.key} className="ruled py-1">
            <div className="flex flex-wrap items-center gap-x-3">
              <span className="min-w-0 flex-1 basis-40">
                {letters?.[i] && <kbd className="mr-2 font-mono text-sm text-faint">{letters[i]}</kbd>}
                {item.asks}
                {item.photo === 'always' && <span className="text-sm text-faint"> · with a photo</span>}
              </span>
              <ToggleGroup.Root
                type="single"
                aria-label={item.asks}
                value={mark.answer}
                // Pressing the answer that is given already takes nothing back.
                onValueChange={(answer) => answer && change(item.key, { answer: answer as Answer })}
                className="flex"
              >
                {ANSWERS.map((answer) => (
                  <ToggleGroup.Item
                    key={answer}
                    value={answer}
                    className={`min-h-11 min-w-14 border-[1.5px] border-rule bg-sheet px-2 not-first:-ml-[1.5px] data-[state=on]:border-ink data-[state=on]:font-bold data-[state=on]:text-ground md:min-h-8 ${PRESSED[answer]}`}
                  >
                    {ANSWER_WORDS[answer]}
                  </ToggleGroup.Item>
                ))}
              </ToggleGroup.Root>
            </div>
            {(mark.answer !== 'ok' || item.photo === 'always') && (
              <div className="flex flex-wrap items-center gap-2 py-1">
                <input
                  aria-label={`What is to be said of: ${item.asks}`}
                  placeholder="What is to be said of it"
                  value={mark.note}
                  onChange={(event) => change(item.key, { note: event.target.value })}
                  className="min-h-11 min-w-0 flex-1 basis-48 border-[1.5px] border-rule bg-sheet px-2 md:min-h-8"
                />
                <PhotoStrip
                  label={item.asks}
                  ids={mark.photoIds}
                  onAdd={(id) => change(item.key, { photoIds: [...(marks[item.key]?.photoIds ?? []), id] })}
                />
              </div>
            )}
          </li>
        );
      })}
    </ul>
  );
}
