import { useMemo } from 'react';
import type { RulesHistoryAnswer, RulesVersion } from '../../contract';
import { changedChecklists } from '../../core/inspection';
import { changedFields, PRESET_RULES, PRESET_TITLES } from '../../core/rules';
import {
  mendedWords,
  movedWords,
  OCCASION_WORDS,
  plural,
  ruleValueWords,
  whenWords,
} from '../../core/wording';
import { ruleValue } from '../../core/rules';
import { useReader } from '../app/clock';
import { useDraft } from '../app/drafts';
import { Failure } from '../app/Failure';
import { useMay } from '../domain/Person';
import { useRegister, useRulesHistory } from '../app/queries';
import { Button } from '../kit/Button';
import { Loading } from '../kit/Message';
import { ProgressBar } from '../kit/ProgressBar';
import { ChecklistsEditor } from './ChecklistsEditor';
import { drafted, draftOf } from './draft';
import type { RulesDraft } from './draft';
import { PreviewPanel } from './PreviewPanel';
import { RulesTable } from './RulesTable';

/** Every house rule in force, why it is so, what the presets say; and, for a custodian, changing it with open eyes. */
export default function RulesPage() {
  const history = useRulesHistory();
  if (history.isLoadingError) return <Failure error={history.error} retry={() => void history.refetch()} />;
  if (history.isPending) return <Loading what="the house rules" />;
  return <LoadedRules history={history.data} />;
}

const NO_ERRORS = {};

function LoadedRules({ history }: { history: RulesHistoryAnswer }) {
  const inForce = history.versions[0]!;
  const [draft, setDraft, clear] = useDraft<RulesDraft | null>('rules', null);
  const mayAdopt = useMay('rules.adopt');
  const editing = mayAdopt && draft !== null;
  const outcome = useMemo(() => (draft ? drafted(draft, inForce.rules) : null), [draft, inForce.rules]);
  return (
    <>
      <title>House rules · Malle</title>
      <div className="flex flex-wrap items-baseline justify-between gap-x-6 gap-y-2">
        <h1>House rules</h1>
        {mayAdopt && !editing && (
          <Button weight="main" onClick={() => setDraft(draftOf(inForce.rules, inForce.version))}>
            Change the rules
          </Button>
        )}
      </div>
      <JudgedUnder history={history} />
      <div className={editing ? 'grid items-start gap-x-8 xl:grid-cols-[minmax(0,1fr)_24rem]' : ''}>
        {editing && outcome && (
          <div className="xl:sticky xl:top-28 xl:order-2">
            <PreviewPanel
              inForce={inForce}
              draft={draft}
              outcome={outcome}
              onDraft={setDraft}
              onDone={clear}
            />
          </div>
        )}
        <div className="min-w-0">
          <RulesTable
            inForce={inForce.rules}
            draft={editing ? draft : null}
            errors={outcome?.errors ?? NO_ERRORS}
            onDraft={setDraft}
          />
          <ChecklistsEditor
            checklists={(editing ? draft.checklists : null) ?? inForce.rules.checklists}
            errors={outcome?.errors ?? NO_ERRORS}
            onChange={editing ? (checklists) => setDraft({ ...draft, checklists }) : null}
          />
        </div>
      </div>
      <Versions versions={history.versions} />
    </>
  );
}

function JudgedUnder({ history: { versions, judged, packs } }: { history: RulesHistoryAnswer }) {
  const reader = useReader();
  const inForce = versions[0]!;
  const apart = changedFields(PRESET_RULES[inForce.rules.preset], inForce.rules).length;
  return (
    <div className="mb-4">
      <p className="text-faint">
        {PRESET_TITLES[inForce.rules.preset]}
        {apart > 0 && `, changed in ${plural(apart, 'place')}`}; version {inForce.version}, in force since{' '}
        {whenWords(inForce.adoptedAt, reader)}. Every threshold Malle judges by stands here.
      </p>
      {judged < packs && (
        <ProgressBar
          label={`Judging the register under version ${inForce.version}`}
          done={judged}
          of={packs}
          unit="packs"
        />
      )}
    </div>
  );
}

/** Who changed what, when and why. */
function Versions({ versions }: { versions: readonly RulesVersion[] }) {
  const reader = useReader();
  const people = useRegister().data?.people ?? [];
  return (
    <section aria-label="Versions" className="mt-8 max-w-5xl">
      <h2 className="border-b-2 border-ink pb-1">Versions</h2>
      <ol>
        {versions.map((version, i) => {
          const before = versions[i + 1];
          return (
            <li key={version.version} className="ruled py-2 text-sm sm:flex sm:gap-5">
              <span className="shrink-0 text-faint sm:w-52">
                <b className="mr-3 font-mono">{version.version}</b>
                {whenWords(version.adoptedAt, reader)}
              </span>
              <span className="min-w-0">
                <b>{version.reason}</b>
                <span className="text-faint">
                  {' '}
                  {people.find(({ id }) => id === version.adoptedBy)?.name ?? 'by the register itself'}
                </span>
                {version.mended.length > 0 && (
                  <span className="block text-red">{mendedWords(version.mended)}</span>
                )}
                {version.moved.length > 0 && <span className="block">{movedWords(version.moved)}</span>}
                {before && (
                  <ul className="mt-1 text-faint">
                    {changedFields(before.rules, version.rules).map((field) => (
                      <li key={field.path}>
                        {field.title}: {ruleValueWords(field, ruleValue(before.rules, field))} →{' '}
                        <b className="text-ink">{ruleValueWords(field, ruleValue(version.rules, field))}</b>
                      </li>
                    ))}
                    {changedChecklists(before.rules.checklists, version.rules.checklists).map((occasion) => (
                      <li key={occasion}>
                        Checklist {OCCASION_WORDS[occasion]}:{' '}
                        <b className="text-ink">
                          {version.rules.checklists[occasion].map(({ asks }) => asks).join(' · ')}
                        </b>
                      </li>
                    ))}
                  </ul>
                )}
              </span>
            </li>
          );
        })}
      </ol>
    </section>
  );
}
