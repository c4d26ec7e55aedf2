import type { ChecklistItem, Marks } from '../../core/inspection';
import type { PackId } from '../../core/measure';
import { ItemAnswers } from '../domain/inspection/ItemAnswers';
import { markedWith } from '../domain/inspection/marks';
import { ItemChips } from './ItemChips';
import type { RoundAction } from './roundDraft';

/** What is looked at on a row: a key for each item, and room for words and photos at what is not in order. */
export function LookedAt({
  packId,
  items,
  letters,
  before = items,
  marks,
  dispatch,
}: {
  packId: PackId;
  /** The items that have keys now. */
  items: readonly ChecklistItem[];
  letters: readonly (string | null)[];
  /** All items looked at so far, these among them. */
  before?: readonly ChecklistItem[];
  marks: Marks;
  dispatch: (action: RoundAction) => void;
}) {
  const told = before.filter(({ key, photo }) => photo === 'always' || (marks[key]?.answer ?? 'ok') !== 'ok');
  return (
    <>
      <ItemChips
        items={items}
        letters={letters}
        marks={marks}
        onPress={(key) => dispatch({ type: 'pressed letter', packId, key })}
      />
      <ItemAnswers
        items={told}
        marks={marks}
        onMark={(key, changed) =>
          dispatch({ type: 'marked', packId, marks: (now) => markedWith(now, key, changed) })
        }
      />
    </>
  );
}
