import { isOutOfUse } from '../../core/assess';
import type { Instant } from '../../core/measure';
import type { HouseRules } from '../../core/rules';
import { CHARGED_WORDS, dueWords, MAY_FLY_WORDS, sentence, STEP_WORDS, whenWords } from '../../core/wording';
import { StorageJobLine } from './StorageJobLine';
import { useReader } from '../app/clock';
import type { PackView } from '../domain/packView';
import { LargeCellLadder } from '../kit/CellLadder';
import { VerdictMark } from '../kit/VerdictMark';

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
      aria-label="Verdict before saving"
      className="grid content-start gap-2 border-l-4 border-accent pl-4"
    >
      <p className="flex flex-wrap items-baseline gap-x-4">
        <VerdictMark verdict={verdict} charged={assessment.charged} />
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
      <StorageJobLine view={view} rules={rules} fliesAt={fliesAt} />
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
