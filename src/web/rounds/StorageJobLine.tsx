import { isOutOfUse } from '../../core/assess';
import { storagePlan } from '../../core/charging';
import { isLithium } from '../../core/chemistry';
import type { Instant } from '../../core/measure';
import type { HouseRules } from '../../core/rules';
import { contentsMv, nextUse } from '../../core/storage';
import { nextUseWords, storagePlanCaution, storagePlanWords } from '../../core/wording';
import { useReader } from '../app/clock';
import type { PackView } from '../domain/packView';
import { useLoad } from './LoadFields';

/** The storage job in full, or why there is none. */
export function StorageJobLine({
  view,
  rules,
  fliesAt,
}: {
  view: PackView;
  rules: HouseRules;
  fliesAt: Instant | null;
}) {
  const reader = useReader();
  const load = useLoad();
  const { storage, contents, latest, verdict, capacityMah } = view.assessment;
  if (isOutOfUse(verdict)) return <p className="font-bold text-red">Set it apart. Nobody may charge it.</p>;
  if (!latest || storage.state === 'unmeasured' || storage.state === 'no-rule') return null;
  const use = nextUse(storage, fliesAt !== null && fliesAt > reader.now ? fliesAt : null);
  if (use.advice === 'leave-charged') return <p className="font-bold">{nextUseWords(use, reader)}</p>;
  const { chemistry } = view.facts;
  // After a charge the older reading is history: the job starts from what was left.
  const cellsMv =
    contents && contents.basis !== 'read' && isLithium(chemistry)
      ? contentsMv(chemistry, contents)
      : latest.cellsMv;
  const plan = storagePlan({ ...view.facts, capacityMah }, cellsMv, rules, load);
  if (!plan) return <p className="font-bold text-leaf">In its storage band.</p>;
  const caution = storagePlanCaution(plan);
  return (
    <p className="font-bold">
      {storagePlanWords(plan)}.{caution && <span className="block font-normal text-amber">{caution}</span>}
    </p>
  );
}
