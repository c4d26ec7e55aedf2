import { useState } from 'react';
import type { FormEvent } from 'react';
import { Link } from 'react-router';
import type { RulesVersion } from '../../contract';
import { VERDICTS } from '../../core/assess';
import { PRESET_TITLES, PRESETS } from '../../core/rules';
import type { PresetName } from '../../core/rules';
import { sumsOf } from '../../core/whatif';
import type { ClockStanding, RuleEffect } from '../../core/whatif';
import { effectWords, plural } from '../../core/wording';
import { ask, FailedRequest } from '../app/api';
import { useDraft } from '../app/drafts';
import { say } from '../app/notices';
import { KEYS, queryClient } from '../app/queries';
import { usePackRows } from '../domain/waitingRows';
import { Button } from '../kit/Button';
import { TextArea } from '../kit/fields';
import { SelectOption, SelectField } from '../kit/Select';
import { Notice } from '../kit/Message';
import { ProgressBar } from '../kit/ProgressBar';
import { VerdictMark } from '../kit/VerdictMark';
import { changesFromPreset, startedFrom } from './draft';
import type { DraftedRules, RulesDraft } from './draft';
import { useWhatIf } from './useWhatIf';
import type { WhatIf } from './useWhatIf';
import { Scroll } from '../kit/Scroll';

interface PreviewPanelProps {
  readonly inForce: RulesVersion;
  readonly draft: RulesDraft;
  readonly outcome: DraftedRules;
  readonly onDraft: (draft: RulesDraft) => void;
  readonly onDone: () => void;
}

/** What the typed rules would do to the register, before anybody adopts them; and adopting them, with a reason. */
export function PreviewPanel({ inForce, draft, outcome, onDraft, onDone }: PreviewPanelProps) {
  const { rules, changed, changedLists, errors } = outcome;
  const asked = changed.length + changedLists.length > 0 ? rules : null;
  const whatIf = useWhatIf(inForce, asked);
  return (
    <section aria-label="Preview" className="mb-6 border-2 border-ink bg-sheet p-4">
      <div className="flex items-end justify-between gap-3">
        <SelectField
          label="Start from"
          value={draft.preset}
          onChange={(value) => onDraft(startedFrom(draft, value as PresetName))}
        >
          {PRESETS.map((preset) => (
            <SelectOption key={preset} value={preset}>
              {PRESET_TITLES[preset]}
            </SelectOption>
          ))}
        </SelectField>
        <Button weight="quiet" onClick={onDone}>
          Drop the changes
        </Button>
      </div>
      {draft.basedOn !== inForce.version && (
        <Notice title={`Version ${inForce.version} was adopted meanwhile.`}>
          <p>What you typed is kept, and is now compared with it. Look again before you adopt.</p>
          <Button weight="quiet" onClick={() => onDraft({ ...draft, basedOn: inForce.version })}>
            I have looked
          </Button>
        </Notice>
      )}
      <h2 className="mt-4">
        {changed.length + changedLists.length === 0
          ? 'Nothing changed yet'
          : [
              changed.length > 0 && plural(changed.length, 'rule'),
              changedLists.length > 0 && plural(changedLists.length, 'checklist'),
            ]
              .filter(Boolean)
              .join(' and ') + ' changed'}
      </h2>
      {Object.keys(errors).length > 0 && (
        <p className="font-bold text-red">
          {plural(Object.keys(errors).length, 'value')} cannot be taken; see the fields.
        </p>
      )}
      <div aria-live="polite">
        <Effects whatIf={whatIf} />
      </div>
      <AdoptForm basedOn={draft.basedOn} rules={asked} onDone={onDone} />
    </section>
  );
}

function Effects({ whatIf }: { whatIf: WhatIf & { cancel: () => void } }) {
  const { state, effects, packsSoFar, packs, records, milliseconds, cancel } = whatIf;
  if (state === 'none')
    return <p className="text-faint">Change a value, and what it does to every pack appears here.</p>;
  return (
    <>
      {state === 'running' && (
        <>
          <ProgressBar label="Judging the register" done={packsSoFar} of={packs} unit="packs" />
          <Button weight="quiet" onClick={cancel}>
            Cancel
          </Button>
        </>
      )}
      {state === 'cancelled' && (
        <p className="font-bold text-amber">Cancelled: this is what the first {packsSoFar} packs showed.</p>
      )}
      {state === 'failed' && (
        <p className="font-bold text-red">The preview broke off. Change a value to try again.</p>
      )}
      {(packsSoFar > 0 || state === 'done') && <p className="mt-1 text-lg">{effectWords(sumsOf(effects))}</p>}
      {state === 'done' && (
        <p className="text-sm text-faint">
          {plural(packs, 'pack')}, {plural(records, 'record')}, judged anew in{' '}
          {(milliseconds / 1000).toFixed(1)} s.
        </p>
      )}
      <EffectList effects={effects} />
    </>
  );
}

const MOST_SHOWN = 100;
const CLOCK_WORDS: Readonly<Record<ClockStanding, string>> = {
  overdue: 'overdue',
  running: 'within its hours',
  still: 'no clock',
};

function EffectList({ effects }: { effects: readonly RuleEffect[] }) {
  const rows = usePackRows().data;
  const tags = new Map(rows?.map(({ id, tag }) => [id, tag]));
  const gravest = effects
    .slice()
    .sort((a, b) => VERDICTS.indexOf(b.verdict[1]) - VERDICTS.indexOf(a.verdict[1]))
    .slice(0, MOST_SHOWN);
  return (
    <Scroll label="Packs that change" className="mt-2 max-h-72">
      <ul>
        {gravest.map(({ packId, verdict, clock }) => (
          <li key={packId} className="ruled flex flex-wrap items-center gap-x-3 py-1 text-sm">
            <Link
              to={`/packs/${packId}`}
              className="font-mono font-bold text-accent underline underline-offset-3"
            >
              {tags.get(packId) ?? '…'}
            </Link>
            {verdict[0] !== verdict[1] && (
              <span className="flex items-center gap-2">
                <VerdictMark verdict={verdict[0]} /> → <VerdictMark verdict={verdict[1]} />
              </span>
            )}
            {clock[0] !== clock[1] && (
              <span>
                {CLOCK_WORDS[clock[0]]} → <b>{CLOCK_WORDS[clock[1]]}</b>
              </span>
            )}
          </li>
        ))}
        {effects.length > MOST_SHOWN && (
          <li className="py-1 text-sm text-faint">and {effects.length - MOST_SHOWN} more</li>
        )}
      </ul>
    </Scroll>
  );
}

function AdoptForm({
  basedOn,
  rules,
  onDone,
}: {
  basedOn: number;
  rules: DraftedRules['rules'];
  onDone: () => void;
}) {
  // Kept apart from the rules' own draft: a key typed here must not draw a hundred rules anew.
  const [reason, setReason, dropReason] = useDraft('rules.reason', '');
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const adopt = async (event: FormEvent) => {
    event.preventDefault();
    if (!rules) return;
    setBusy(true);
    setProblem(null);
    try {
      const changes = changesFromPreset(rules);
      const answer = await ask('POST /rules', {
        body: {
          basedOn,
          preset: rules.preset,
          changes,
          checklists: rules.checklists,
          reason,
        },
      });
      queryClient.setQueryData(KEYS.rules, answer);
      void queryClient.invalidateQueries({ queryKey: KEYS.register });
      say('The rules are in force. The register is being judged under them.');
      dropReason();
      onDone();
    } catch (error) {
      if (!(error instanceof FailedRequest)) throw error;
      setProblem(error.says);
      // Somebody else's version is fetched, so that the preview compares with what is in force now.
      if (error.code === 'changed-meanwhile') void queryClient.invalidateQueries({ queryKey: KEYS.rules });
    } finally {
      setBusy(false);
    }
  };
  return (
    <form
      onSubmit={(event) => void adopt(event)}
      className="mt-3 grid gap-3 border-t border-line pt-3"
      noValidate
    >
      <TextArea
        label="Why the rules change"
        value={reason}
        onChange={(event) => setReason(event.target.value)}
        error={problem ?? undefined}
        hint="Kept with your name."
      />
      <div>
        <Button type="submit" weight="main" disabled={busy || rules === null}>
          Adopt these rules
        </Button>
      </div>
    </form>
  );
}
