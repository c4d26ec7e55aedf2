import type { Finding } from '../../core/assess';
import type { RecordId } from '../../core/measure';
import { figuresOf, RULE_TEXTS, sentence } from '../../core/wording';
import { useReader } from '../app/clock';

const EDGE: Readonly<Record<Finding['severity'], string>> = {
  note: 'border-rule',
  watch: 'border-amber',
  hold: 'border-red',
  retire: 'border-plum',
};

interface FindingsProps {
  readonly findings: readonly Finding[];
  readonly outOfUse: boolean;
  readonly seqOf: (id: RecordId) => number | null;
}

/** What speaks for and against the pack, each sentence opening to its numbers, its rule and the records behind it. */
export function Findings({ findings, outOfUse, seqOf }: FindingsProps) {
  if (findings.length === 0)
    return <p className="text-faint">Nothing speaks against it, and nothing is asked of it.</p>;
  return (
    <ul className="grid gap-1.5">
      {findings.map((finding) => (
        <li key={finding.rule}>
          <FindingLine finding={finding} seqOf={seqOf} outOfUse={outOfUse} />
        </li>
      ))}
    </ul>
  );
}

function FindingLine({
  finding,
  seqOf,
  outOfUse,
}: {
  finding: Finding;
  seqOf: (id: RecordId) => number | null;
  outOfUse: boolean;
}) {
  const reader = useReader();
  const rule = RULE_TEXTS[finding.rule];
  return (
    <details className={`group border-l-4 pl-3 ${EDGE[finding.severity]}`}>
      <summary className="flex min-h-11 items-center gap-2 md:min-h-0">
        <span className="flex-1">{sentence(finding, reader, outOfUse)}</span>
        <span className="shrink-0 text-sm text-accent underline underline-offset-3">
          <span className="group-open:hidden">why</span>
          <span className="hidden group-open:inline">less</span>
        </span>
      </summary>
      <div className="grid gap-x-8 gap-y-2 py-2 text-sm md:grid-cols-[auto_1fr]">
        <dl className="grid grid-cols-[auto_auto] gap-x-4 self-start">
          {figuresOf(finding, reader).map(({ label, value }) => (
            <div key={label} className="contents">
              <dt className="text-faint">{label}</dt>
              <dd className="font-mono">{value}</dd>
            </div>
          ))}
        </dl>
        <div className="max-w-prose">
          <p className="font-bold">{rule.title}</p>
          <p>{rule.says}</p>
          <p className="mt-1 text-faint">{rule.why}</p>
          <p className="mt-1">
            {finding.records.length > 0 && 'Rests on '}
            {finding.records.map((id) => (
              <a
                key={id}
                href={`#record-${id}`}
                className="mr-2 inline-block min-h-6 font-bold text-accent underline"
              >
                record {seqOf(id) ?? 'being typed'}
              </a>
            ))}
          </p>
        </div>
      </div>
    </details>
  );
}
