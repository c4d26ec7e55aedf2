import { Link } from 'react-router';
import { cardFor } from '../../../core/assess';
import type { Finding } from '../../../core/assess';
import type { IncidentKind } from '../../../core/incident';
import type { PackId, RecordId } from '../../../core/measure';
import { figuresOf, INCIDENT_WORDS, plural, RULE_TEXTS, sentence } from '../../../core/wording';
import { useReader } from '../../app/clock';
import { useRegister } from '../../app/queries';
import { Fold } from '../../kit/Fold';

const EDGE: Readonly<Record<Finding['severity'], string>> = {
  note: 'border-rule',
  watch: 'border-amber',
  hold: 'border-red',
  retire: 'border-plum',
};

interface FindingsProps {
  readonly packId: PackId;
  readonly findings: readonly Finding[];
  readonly outOfUse: boolean;
  readonly seqOf: (id: RecordId) => number | null;
}

/** What speaks for and against the pack, each sentence opening to its numbers, its rule and the records behind it. */
export function Findings({ packId, findings, outOfUse, seqOf }: FindingsProps) {
  if (findings.length === 0)
    return <p className="text-faint">Nothing speaks against it, and nothing is asked of it.</p>;
  const cards = cardsOf(findings);
  return (
    <ul className="grid gap-1.5">
      {findings.map((finding) => (
        <li key={finding.rule}>
          <FindingLine finding={finding} seqOf={seqOf} outOfUse={outOfUse} />
          <CardLink finding={finding} kind={cards.get(finding) ?? null} packId={packId} />
        </li>
      ))}
    </ul>
  );
}

/** Which finding leads to which card: each card once, and none for an incident that has been reported. */
function cardsOf(findings: readonly Finding[]): ReadonlyMap<Finding, IncidentKind> {
  const told = new Set(findings.flatMap((one) => (one.rule === 'incident' ? [one.kind] : [])));
  const cards = new Map<Finding, IncidentKind>();
  for (const finding of findings) {
    const kind = cardFor(finding);
    if (!kind || told.has(kind)) continue;
    told.add(kind);
    cards.set(finding, kind);
  }
  return cards;
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
    <Fold
      ask="why"
      line={sentence(finding, reader, outOfUse)}
      className={`border-l-4 pl-3 ${EDGE[finding.severity]}`}
    >
      <div className="grid gap-x-8 gap-y-2 py-2 text-sm md:grid-cols-[auto_1fr]">
        <dl className="grid grid-cols-[auto_auto] gap-x-4 self-start">
          {figuresOf(finding, reader).map(({ label, value }) => (
            <div key={label} className="contents">
              <dt className="text-faint">{label}</dt>
              <dd className="font-mono">{value}</dd>
            </div>
          ))}
          <ByWhom finding={finding} />
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
    </Fold>
  );
}

/** What hands do first, where the records alone tell of an incident. */
function CardLink({
  finding,
  kind,
  packId,
}: {
  finding: Finding;
  kind: IncidentKind | null;
  packId: PackId;
}) {
  if (!kind) return null;
  return (
    <p className={`border-l-4 pl-3 ${EDGE[finding.severity]}`}>
      <Link
        to={`/incidents/new/${kind}?pack=${packId}`}
        className="inline-flex min-h-11 items-center font-bold text-red underline underline-offset-3 md:min-h-6"
      >
        What to do now: {INCIDENT_WORDS[kind].name}
      </Link>
    </p>
  );
}

/** Whose charge or flight it was, and how many of this pack's were theirs: named, without blame. */
function ByWhom({ finding }: { finding: Finding }) {
  const people = useRegister().data?.people ?? [];
  const told =
    finding.rule === 'charge-habits'
      ? { by: finding.by, label: 'charged by', what: 'charge' }
      : finding.rule === 'deep-use'
        ? { by: finding.pilot, label: 'flown by', what: 'flight' }
        : null;
  if (!told) return null;
  const name = people.find(({ id }) => id === told.by)?.name;
  if (!name || !('timesBySame' in finding)) return null;
  return (
    <div className="contents">
      <dt className="text-faint">{told.label}</dt>
      <dd>
        {name}, {plural(finding.timesBySame, `such ${told.what}`)}
      </dd>
    </div>
  );
}
