import { Suspense, useMemo, useState } from 'react';
import { Link } from 'react-router';
import type { PackTypeAnswer, RegisterAnswer } from '../../../contract';
import { assess, restedReadings } from '../../../core/assess';
import { healthReport } from '../../../core/health';
import type { Siblings } from '../../../core/health';
import { HOUR_MS } from '../../../core/measure';
import { PRESETS, PRESET_RULES, PRESET_TITLES } from '../../../core/rules';
import { RULE_TEXTS, sentence, span, whenWords } from '../../../core/wording';
import { useClock, useReader } from '../../app/clock';
import { Guarded } from '../../app/Failure';
import { factsOf } from '../../domain/packFacts';
import { packView } from '../../domain/packView';
import type { PackView } from '../../domain/packView';
import { useMay } from '../../domain/Person';
import { Loading } from '../../kit/Message';
import { TagPlate } from '../../kit/TagPlate';
import { VerdictMark } from '../../kit/VerdictMark';
import { lazyPart } from '../../kit/lazyPart';
import { costLines, inFavour } from './decision';
import { WithPack } from '../pack/WithPack';
import type { PackInHand } from '../pack/WithPack';
import { DecisionForm } from './DecisionForm';

const HealthSection = lazyPart(() => import('../pack/health/HealthSection'));

/** What is to become of a pack: all that speaks for and against it on one page, and a person's word under it. */
export default function DecidePage() {
  return <WithPack>{(inHand) => <Loaded key={inHand.pack.id} {...inHand} />}</WithPack>;
}

function Loaded({ pack, type, register }: PackInHand) {
  const now = useClock((clock) => clock.now);
  const reader = useReader();
  const { rules } = register.rules;
  const facts = factsOf(pack, type, register);
  const view = packView(facts, pack.records, rules, now);
  const { assessment } = view;
  // What the person who decides has seen; records that come while they type are shown before they count.
  const [seen, setSeen] = useState(pack.records.length);
  const mayDecide = useMay('record.decision');
  return (
    <>
      <title>{`Decide: ${pack.tag} · Malle`}</title>
      <div className="mb-4 flex flex-wrap items-center gap-x-6 gap-y-2">
        <TagPlate tag={pack.tag} under={type.name} />
        <span>
          <VerdictMark verdict={assessment.verdict} large />
          {assessment.outSince !== null && (
            <span className="block text-faint">
              out of use for {span(Math.max(0, now - assessment.outSince))}, since{' '}
              {whenWords(assessment.outSince, reader)}
            </span>
          )}
        </span>
        <Link
          to={`/packs/${pack.id}`}
          className="inline-flex min-h-11 items-center text-accent underline md:min-h-6"
        >
          Everything about it
        </Link>
      </div>
      <div className="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_26rem]">
        <Evidence view={view} type={type} register={register} siblings={pack.siblings} />
        <div className="content-start lg:row-span-2">
          {mayDecide ? (
            <Guarded>
              <DecisionForm
                pack={pack}
                view={view}
                seen={seen}
                secondWanted={rules.retirementNames === 2}
                onSeen={() => setSeen(pack.records.length)}
              />
            </Guarded>
          ) : (
            <p className="text-faint">The custodian or a deputy decides; you can look at everything here.</p>
          )}
        </div>
        <Guarded>
          <Suspense fallback={<Loading what="its trends" />}>
            <HealthSection pack={pack} view={view} rules={rules} />
          </Suspense>
        </Guarded>
      </div>
    </>
  );
}

/** What speaks against it and for it, what it cost, and what the three schools would say. */
function Evidence({
  view,
  type,
  register,
  siblings,
}: {
  view: PackView;
  type: PackTypeAnswer;
  register: RegisterAnswer;
  siblings: Siblings;
}) {
  const reader = useReader();
  const { rules } = register.rules;
  const { history, assessment } = view;
  const hour = Math.floor(reader.now / HOUR_MS) * HOUR_MS;
  const report = useMemo(() => {
    const { rested } = restedReadings(history, rules);
    return healthReport(history, rested, rules, hour, siblings);
  }, [history, rules, hour, siblings]);
  const against = assessment.findings.filter(({ severity }) => severity !== 'note');
  const good = inFavour(report);
  return (
    <div className="grid content-start gap-5">
      <section aria-label="Against it">
        <h2 className="border-b-2 border-ink pb-1">Against it</h2>
        {against.length === 0 && <p className="py-1 text-faint">Nothing.</p>}
        <ul>
          {against.map((finding) => (
            <li key={`${finding.rule} ${finding.records[0]}`} className="ruled py-1">
              <b className={finding.severity === 'watch' ? 'text-amber' : 'text-red'}>
                {RULE_TEXTS[finding.rule].title}.
              </b>{' '}
              {sentence(finding, reader, true)}
            </li>
          ))}
        </ul>
      </section>
      <section aria-label="For it">
        <h2 className="border-b-2 border-ink pb-1">For it</h2>
        {good.length === 0 && <p className="py-1 text-faint">Nothing that was measured.</p>}
        <ul>
          {good.map((words) => (
            <li key={words} className="ruled py-1">
              {words}
            </li>
          ))}
        </ul>
      </section>
      <div className="grid gap-x-8 gap-y-5 sm:grid-cols-2">
        <section aria-label="What it cost">
          <h2 className="border-b-2 border-ink pb-1">What it cost</h2>
          <dl className="text-sm">
            {costLines(history, assessment, type, rules, reader.now).map(({ name, value }) => (
              <div key={name} className="ruled flex justify-between gap-3 py-1">
                <dt className="text-faint">{name}</dt>
                <dd className="font-mono font-bold">{value}</dd>
              </div>
            ))}
          </dl>
        </section>
        <section aria-label="What the presets would say">
          <h2 className="border-b-2 border-ink pb-1">What the presets would say</h2>
          <ul className="text-sm">
            {PRESETS.map((preset) => (
              <li key={preset} className="ruled flex justify-between gap-3 py-1">
                <span>{PRESET_TITLES[preset]}</span>
                <VerdictMark
                  verdict={
                    assess(history, { ...PRESET_RULES[preset], checklists: rules.checklists }, reader.now)
                      .verdict
                  }
                />
              </li>
            ))}
          </ul>
        </section>
      </div>
    </div>
  );
}
