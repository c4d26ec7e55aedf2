import { useState } from 'react';
import { HARD_KEYS, MEANINGS, OCCASIONS, PHOTO_NEEDS } from '../../core/inspection';
import type { ChecklistItem, Checklists, Meaning, Occasion, PhotoNeed } from '../../core/inspection';
import { MEANING_WORDS, OCCASION_WORDS } from '../../core/wording';
import { Button } from '../kit/Button';
import { SelectOption, SelectField, Select } from '../kit/Select';

interface Props {
  readonly checklists: Checklists;
  readonly errors: Readonly<Record<string, string>>;
  /** Null while the rules are only read. */
  readonly onChange: ((checklists: Checklists) => void) | null;
}

/** What is looked at on each occasion, in the order hands move; the house adds, orders, and asks for photos. */
export function ChecklistsEditor({ checklists, errors, onChange }: Props) {
  const [occasion, setOccasion] = useState<Occasion>('season-start');
  const items = checklists[occasion];
  const set = (next: readonly ChecklistItem[]) => onChange?.({ ...checklists, [occasion]: next });
  const error = errors[`checklists.${occasion}`];
  return (
    <section aria-label="Checklists" className="mb-6 scroll-mt-28">
      <h2 className="text-lg">Checklists</h2>
      <p className="mb-2 max-w-prose text-sm text-faint">
        A short list that is looked at beats a long one that is ticked. A failure of swelling, of dents, of
        leads or of odour always takes the pack out of use.
      </p>
      <div className="mb-2 max-w-xs">
        <SelectField label="Occasion" value={occasion} onChange={(value) => setOccasion(value as Occasion)}>
          {OCCASIONS.map((one) => (
            <SelectOption key={one} value={one}>
              {OCCASION_WORDS[one]}
              {Object.keys(errors).some((path) => path.startsWith(`checklists.${one}`)) &&
                ' (cannot be taken)'}
            </SelectOption>
          ))}
        </SelectField>
      </div>
      {error && (
        <p role="alert" className="font-bold text-red">
          {error}
        </p>
      )}
      <ol className="border-t-2 border-ink">
        {items.map((item, at) => (
          <Line
            key={item.key}
            item={item}
            at={at}
            last={items.length - 1}
            error={errors[`checklists.${occasion}.${at}`]}
            onChange={
              onChange && ((part) => set(items.map((one, i) => (i === at ? { ...one, ...part } : one))))
            }
            onMove={(by) => set(moved(items, at, by))}
            onRemove={() => set(items.filter((_, i) => i !== at))}
          />
        ))}
      </ol>
      {onChange && (
        <Button className="mt-2" onClick={() => set([...items, newItem(items)])}>
          Add an item
        </Button>
      )}
    </section>
  );
}

function moved(items: readonly ChecklistItem[], at: number, by: 1 | -1): readonly ChecklistItem[] {
  const next = [...items];
  const [item] = next.splice(at, 1);
  next.splice(at + by, 0, item!);
  return next;
}

/** An item of the house's own, under a key no other has. */
function newItem(items: readonly ChecklistItem[]): ChecklistItem {
  let number = 1;
  while (items.some(({ key }) => key === `own-${number}`)) number += 1;
  return { key: `own-${number}`, asks: 'What to look at', failMeans: 'watch', photo: 'never' };
}

const FIELD = 'min-h-11 border-[1.5px] border-rule bg-sheet px-1.5 text-sm md:min-h-8';

function Line({
  item,
  at,
  last,
  error,
  onChange,
  onMove,
  onRemove,
}: {
  item: ChecklistItem;
  at: number;
  last: number;
  error: string | undefined;
  onChange: ((part: Partial<ChecklistItem>) => void) | null;
  onMove: (by: 1 | -1) => void;
  onRemove: () => void;
}) {
  if (!onChange)
    return (
      <li className="ruled flex flex-wrap gap-x-4 py-1 text-sm">
        <span className="w-6 text-right font-mono text-faint">{at + 1}</span>
        <b className="min-w-48 flex-1">{item.asks}</b>
        <span className="w-48">failing: {MEANING_WORDS[item.failMeans]}</span>
        <span className="w-40 text-faint">photo {item.photo}</span>
      </li>
    );
  const hard = HARD_KEYS.has(item.key);
  return (
    <li className="ruled py-1">
      <div className="flex flex-wrap items-center gap-2">
        <span className="w-6 text-right font-mono text-sm text-faint">{at + 1}</span>
        <input
          aria-label={`Item ${at + 1}`}
          value={item.asks}
          onChange={(event) => onChange({ asks: event.target.value })}
          className={`${FIELD} min-w-40 flex-1`}
        />
        <span className="w-44">
          <Select
            aria-label={`What failing item ${at + 1} means`}
            value={item.failMeans}
            disabled={hard}
            onChange={(value) => onChange({ failMeans: value as Meaning })}
          >
            {MEANINGS.map((meaning) => (
              <SelectOption key={meaning} value={meaning}>
                {MEANING_WORDS[meaning]}
              </SelectOption>
            ))}
          </Select>
        </span>
        <span className="w-36">
          <Select
            aria-label={`Photo of item ${at + 1}`}
            value={item.photo}
            onChange={(value) => onChange({ photo: value as PhotoNeed })}
          >
            {PHOTO_NEEDS.map((need) => (
              <SelectOption key={need} value={need}>
                photo {need}
              </SelectOption>
            ))}
          </Select>
        </span>
        <Button aria-label={`Move item ${at + 1} up`} disabled={at === 0} onClick={() => onMove(-1)}>
          ↑
        </Button>
        <Button aria-label={`Move item ${at + 1} down`} disabled={at === last} onClick={() => onMove(1)}>
          ↓
        </Button>
        <Button weight="quiet" aria-label={`Remove item ${at + 1}`} onClick={onRemove}>
          remove
        </Button>
      </div>
      {error && (
        <p role="alert" className="pl-8 font-bold text-red">
          {error}
        </p>
      )}
    </li>
  );
}
