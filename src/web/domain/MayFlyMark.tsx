import type { Charged, MayFly } from '../../core/assess';
import { CHARGED_WORDS, MAY_FLY_WORDS } from '../../core/wording';

const LOOK: Readonly<Record<Exclude<MayFly, 'yes'>, string>> = {
  'inspect-first': 'text-amber',
  'measure-first': 'text-amber',
  no: 'text-red',
};

/**
 * The pilot's two answers, never one: may it be flown, and is it charged. A pack nobody may use is not asked about its charge.
 * Green is for a pack that can be taken as it is; one that may be flown and is not charged is no such pack.
 * @param percent the charge by its lowest cell; null where nobody knows
 */
export function MayFlyMark({
  mayFly,
  charged,
  percent,
}: {
  mayFly: MayFly;
  charged: Charged;
  percent: number | null;
}) {
  const about = percent === null ? '' : `, about ${Math.round(percent)} %`;
  return (
    <span className="font-bold">
      <span className={mayFly === 'yes' ? (charged === 'charged' ? 'text-leaf' : '') : LOOK[mayFly]}>
        {MAY_FLY_WORDS[mayFly]}
      </span>
      {mayFly !== 'no' && (
        <>
          {' · '}
          <span className={charged === 'charged' ? 'text-leaf' : 'text-amber'}>
            {CHARGED_WORDS[charged]}
            {charged !== 'unknown' && about}
          </span>
        </>
      )}
    </span>
  );
}

/** The same for an assessment. */
export function answersOf({
  mayFly,
  charged,
  contents,
}: {
  readonly mayFly: MayFly;
  readonly charged: Charged;
  readonly contents: { readonly lowest: { readonly percent: number } } | null;
}) {
  return { mayFly, charged, percent: contents?.lowest.percent ?? null };
}
