import type { Answer, ChecklistRefusal, Meaning, Occasion, Swelling } from '../inspection';

export const OCCASION_WORDS: Readonly<Record<Occasion, string>> = {
  'before-use': 'before use',
  'after-use': 'after use',
  'before-charge': 'before charge',
  'after-charge': 'after charge',
  'season-start': 'out of storage',
  'after-crash': 'after a crash or drop',
  scheduled: 'scheduled',
  receipt: 'on receipt',
};

export const ANSWER_WORDS: Readonly<Record<Answer, string>> = { ok: 'ok', note: 'note', fail: 'fail' };

/** What failing an item does to the pack. */
export const MEANING_WORDS: Readonly<Record<Meaning, string>> = {
  advise: 'put right, may be used',
  watch: 'caution',
  hold: 'on hold',
};

export const SWELLING_WORDS: Readonly<Record<Swelling, string>> = {
  none: 'none',
  soft: 'soft',
  hard: 'hard',
};

/** Why a house's checklist cannot be adopted. */
export function checklistRefusalSentence(why: ChecklistRefusal): string {
  const list = `The list ${OCCASION_WORDS[why.occasion]}`;
  switch (why.code) {
    case 'empty':
      return `${list} has nothing on it.`;
    case 'too-long':
      return `${list} has more than ${why.most} items. A list too long is ticked without looking.`;
    case 'same-key':
      return `${list} asks for the same thing twice.`;
    case 'too-mild':
      return `${list} makes a hard cause milder: a failure of this takes a pack out of use, whatever the rules.`;
    case 'hard-missing':
      return `${list} must ask for swelling.`;
    default:
      return why satisfies never;
  }
}
