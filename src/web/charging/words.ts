import type { ChargingAnswer, JobAnswer, RegisterAnswer } from '../../contract';
import type { Bound, JobKind, Wishes } from '../../core/charging';
import { durationWords, plural } from '../../core/wording';

/** What stands before a pack on a bar, so that the way it goes is seen without colour. */
export const JOB_SIGNS: Readonly<Record<JobKind, string>> = {
  charge: '▲',
  raise: '↑',
  lower: '↓',
  discharge: '⤓',
};

/** The tags of a job's packs, in the order of their slots. */
export function tagsOf(
  { packIds }: Pick<JobAnswer, 'packIds'>,
  { packs }: Pick<ChargingAnswer, 'packs'>,
): string[] {
  return packIds.map((id) => packs.find((pack) => pack.id === id)?.tag ?? 'a pack');
}

export function personName(register: RegisterAnswer, id: string | null): string {
  return register.people.find((one) => one.id === id)?.name ?? 'somebody';
}

/** How near a plan is to the best there can be. */
export function boundWords({ wish, has, atLeast }: Bound): string {
  if (has <= atLeast)
    return wish === 'notReady' ? 'No plan can serve more.' : 'No plan can be better than this.';
  if (wish === 'notReady') return `At best ${plural(has - atLeast, 'pack')} more could be served.`;
  if (atLeast === 0) return '';
  const percent = Math.ceil((has / atLeast - 1) * 1000 - 1e-6) / 10;
  return `At most ${percent} % above the best possible.`;
}

/** What a plan comes to, wish by wish, in their order; what there is none of is not told. */
export function wishWords(wishes: Wishes): string[] {
  const { floorsOut, missed, notReady, leftOut, fullMinutes, attendedMinutes, changes } = wishes;
  return [
    floorsOut > 0 && `${plural(floorsOut, 'pack')} under the floor left out`,
    missed > 0 &&
      `${plural(missed, 'pack')} to storage after the hour ${missed === 1 ? 'it is' : 'they are'} due`,
    notReady > 0 && `${plural(notReady, 'pack')} not ready`,
    leftOut > 0 && `${plural(leftOut, 'pack')} left out`,
    fullMinutes > 0 && `${Math.round(fullMinutes / 60)} pack-hours full before the flights`,
    `${durationWords(attendedMinutes)} at the bench`,
    `${plural(changes, 'setting')} to change`,
  ].filter((one) => one !== false);
}
