import type { Answer, ChecklistItem, Marks } from '../../core/inspection';
import { ANSWER_WORDS } from '../../core/wording';

const LOOK: Readonly<Record<Answer, string>> = {
  ok: 'border-line text-faint',
  note: 'border-amber font-bold text-amber',
  fail: 'border-red bg-wash-red font-bold text-red',
};

/** The checklist in one line: each item under its letter, in order unless its key is pressed. */
export function ItemChips({
  items,
  letters,
  marks,
  onPress,
}: {
  items: readonly ChecklistItem[];
  letters: readonly (string | null)[];
  marks: Marks;
  onPress: (key: string) => void;
}) {
  if (items.length === 0) return null;
  return (
    <ul aria-label="Looked at" className="flex flex-wrap gap-1.5">
      {items.map(({ key, asks }, i) => {
        const answer = marks[key]?.answer ?? 'ok';
        return (
          <li key={key}>
            <button
              type="button"
              tabIndex={-1}
              onClick={() => onPress(key)}
              className={`min-h-11 border-[1.5px] px-2 text-sm md:min-h-7 ${LOOK[answer]}`}
            >
              {letters[i] && <kbd className="mr-1 font-mono font-bold text-ink">{letters[i]}</kbd>}
              {asks} {ANSWER_WORDS[answer]}
            </button>
          </li>
        );
      })}
    </ul>
  );
}
