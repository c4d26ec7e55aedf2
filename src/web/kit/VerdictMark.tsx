import type { Charged, Verdict } from '../../core/assess';
import { VERDICT_WORDS } from '../../core/wording';

const COLOUR: Readonly<Record<Verdict, string>> = {
  fit: 'text-leaf',
  watch: 'text-amber',
  hold: 'text-red',
  'retire-advised': 'text-plum',
  retired: 'text-grey',
  recycled: 'text-grey',
};

interface Marked {
  readonly verdict: Verdict;
  /** Where it is known: green says that a pack can be taken as it is, so a fit one that is not charged is not green. */
  readonly charged?: Charged | undefined;
}

function colourOf({ verdict, charged = 'charged' }: Marked): string {
  return verdict === 'fit' && charged !== 'charged' ? 'text-ink' : COLOUR[verdict];
}

/** A verdict in colour, shape and word, so that it is told apart in glare, in grey and by ear. */
export function VerdictMark({ verdict, charged, large = false }: Marked & { large?: boolean }) {
  return (
    <span
      className={`inline-flex items-center gap-1.5 font-bold whitespace-nowrap ${colourOf({ verdict, charged })} ${large ? 'text-2xl' : ''}`}
    >
      <VerdictShape verdict={verdict} charged={charged} size={large ? 22 : 12} />
      {VERDICT_WORDS[verdict]}
    </span>
  );
}

/** The shape alone, for where the word stands beside it anyway. */
export function VerdictShape({ verdict, charged, size = 12 }: Marked & { size?: number }) {
  return (
    <svg
      viewBox="0 0 12 12"
      width={size}
      height={size}
      aria-hidden="true"
      className={`shrink-0 ${colourOf({ verdict, charged })}`}
      fill="currentColor"
    >
      {SHAPE[verdict]}
    </svg>
  );
}

const SHAPE: Readonly<Record<Verdict, React.ReactNode>> = {
  fit: <circle cx="6" cy="6" r="5" />,
  watch: <path d="M6 .8 11.6 11H.4z" />,
  hold: <path d="M1 1h10v10H1z" />,
  'retire-advised': <path d="M6 0l6 6-6 6-6-6z" />,
  retired: <circle cx="6" cy="6" r="4.5" fill="none" stroke="currentColor" strokeWidth="2" />,
  recycled: (
    <circle
      cx="6"
      cy="6"
      r="4.5"
      fill="none"
      stroke="currentColor"
      strokeWidth="2"
      strokeDasharray="2.6 2.1"
    />
  ),
};
