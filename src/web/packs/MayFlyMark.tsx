import type { MayFly } from '../../core/assess';
import { MAY_FLY_WORDS } from '../../core/wording';

const LOOK: Readonly<Record<MayFly, string>> = {
  yes: 'text-leaf',
  'charge-first': 'text-amber',
  'inspect-first': 'text-amber',
  'measure-first': 'text-amber',
  no: 'text-red',
};

/** The pilot's answer. */
export function MayFlyMark({ mayFly }: { mayFly: MayFly }) {
  return <span className={`font-bold ${LOOK[mayFly]}`}>{MAY_FLY_WORDS[mayFly]}</span>;
}
