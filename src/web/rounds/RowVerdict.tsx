import { isOutOfUse } from '../../core/assess';
import { storagePlan } from '../../core/charging';
import { isLithium } from '../../core/chemistry';
import type { Instant } from '../../core/measure';
import type { HouseRules } from '../../core/rules';
import { contentsMv, nextUse } from '../../core/storage';
import {
  CHARGED_WORDS,
  dueWords,
  MAY_FLY_WORDS,
  nextUseWords,
  sentence,
  STEP_WORDS,
  storagePlanWords,
  whenWords,
} from '../../core/wording';
import { useReader } from '../app/clock';
import type { PackView } from '../domain/packView';
import { LargeCellLadder } from '../kit/CellLadder';
import { VerdictMark } from '../kit/VerdictMark';
import { useLoad } from './LoadFields';

/** What Malle says of the pack as it is being typed: verdict, cells, and the storage job or that it stays charged. */
export function RowVerdict({
  view,
  typed,
  rules,
  fliesAt,
}: {
  view: PackView;
  typed: boolean;
  rules: HouseRules;
  fliesAt: Instant | null;
}) {
  const reader = useReader();
  const { assessment, facts } = view;
  const { verdict, latest, findings, steps } = assessment;
  const outOfUse = isOutOfUse(verdict);
  return (
    <div
      role="status"
      aria-label="Verdict before keeping"
      className="grid content-start gap-2 border-l-4 border-accent pl-4"
    >
      <p className="flex flex-wrap items-baseline gap-x-4">
        <VerdictMark verdict={verdict} />
        <b className={outOfUse ? 'text-red' : ''}>
          {MAY_FLY_WORDS[assessment.mayFly]}
          {!outOfUse && ` · ${CHARGED_WORDS[assessment.charged]}`}
        </b>
        {!typed && (
          <span className="text-sm text-faint">
            as last recorded{latest && ` ${whenWords(latest.at, reader)}`}
          </span>
        )}
      </p>
      {latest && (
        <LargeCellLadder
          chemistry={facts.chemistry}
          cellsMv={latest.cellsMv}
          rules={rules}
          byCell={latest.byCell}
        />
      )}
      <Job view={view} rules={rules} fliesAt={fliesAt} />
      <ul className="text-sm">
        {findings
          .filter(({ rule }) => rule !== 'storage-high' && rule !== 'storage-low')
          .slice(0, 3)
          .map((finding, i) => (
            <li key={`${finding.rule} ${i}`}>{sentence(finding, reader, outOfUse)}</li>
          ))}
      </ul>
      {steps[0] && !outOfUse && (
        <p className="text-sm text-faint">
          Then: {STEP_WORDS[steps[0].do].toLowerCase()}
          {steps[0].dueAt !== null && `, ${dueWords(steps[0].dueAt, reader)}`}
        </p>
      )}
    </div>
  );
}

/** The storage job in full, or why there is none. */
function Job({ view, rules, fliesAt }: { view: PackView; rules: HouseRules; fliesAt: Instant | null }) {
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
  return <p className="font-bold">{storagePlanWords(plan)}.</p>;
}
