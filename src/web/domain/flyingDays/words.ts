import type { FlyingDayAnswer, RegisterAnswer } from '../../../contract';

/** What a day wants, in a line: so many packs of each type, and for which craft. */
export function dayWants(
  { wants }: Pick<FlyingDayAnswer, 'wants'>,
  { types, craft }: RegisterAnswer,
): string {
  return wants
    .map(({ typeId, packs, craftId }) => {
      const type = types.find(({ id }) => id === typeId)?.name ?? 'a type no longer known';
      const on = craft.find(({ id }) => id === craftId)?.name;
      return `${packs} × ${type}${on ? ` for ${on}` : ''}`;
    })
    .join(', ');
}
