import type { PackRow } from '../../contract';
import type { Finding } from '../../core/assess';
import type { ReadVolts } from '../../core/record';
import { volts } from '../../core/wording';
import type { PackView } from '../domain/packView';
import { plainReading } from '../domain/typedReading';
import { useRegister } from '../app/queries';
import { Choice, TextField } from '../kit/fields';
import { SelectOption, SelectField } from '../kit/Select';
import type { RowBody, RowDraft } from './rowDraft';

type Unexplained = Extract<Finding, { rule: 'unlogged' }>;

/** A rested reading of these volts, for asking what it would mean. */
export function readingOf(read: ReadVolts): RowBody {
  return { kind: 'reading', payload: plainReading(read, null), supersedes: null };
}

/** The use that nobody wrote down, if the cells tell of one. */
export function unexplainedIn({ assessment }: PackView): Unexplained | null {
  const found = assessment.findings.find((finding): finding is Unexplained => finding.rule === 'unlogged');
  return found?.direction === 'use' ? found : null;
}

interface RowUseProps {
  readonly pack: PackRow;
  readonly draft: RowDraft;
  readonly change: (part: Partial<RowDraft>) => void;
  readonly error: string | null;
  readonly unexplained: Unexplained | null;
  readonly onEnter: () => void;
}

/** Whether the pack has rested, and, where its cells fell with nothing written down, who flew it and for how long. */
export function RowUse({ pack, draft, change, error, unexplained, onEnter }: RowUseProps) {
  const people = useRegister().data?.people ?? [];
  const asks = unexplained !== null || draft.pilotId !== '' || draft.minutes !== '';
  const last = people.find(({ id }) => id === pack.holderId);
  return (
    <div className="grid gap-2">
      <Choice
        label="The pack"
        options={[
          { value: 'rested', label: 'has rested' },
          { value: 'settling', label: 'not rested yet' },
        ]}
        value={draft.settling ? 'settling' : 'rested'}
        onChange={(value) => change({ settling: value === 'settling' })}
      />
      {asks && (
        <div className="border-l-4 border-amber pl-3">
          {unexplained && (
            <p className="text-sm font-bold">
              {volts(unexplained.fromMv)} V before, {volts(unexplained.toMv)} V now, and no use was written
              down
              {last ? `. ${last.name} has it` : ''}.
            </p>
          )}
          <div className="grid gap-2 sm:grid-cols-[1fr_8rem]">
            <SelectField
              label="Flown by"
              value={draft.pilotId}
              onChange={(value) => change({ pilotId: value })}
            >
              <SelectOption value="">nobody knows</SelectOption>
              {people.map(({ id, name }) => (
                <SelectOption key={id} value={id}>
                  {name}
                </SelectOption>
              ))}
            </SelectField>
            <TextField
              label="Minutes"
              inputMode="decimal"
              value={draft.minutes}
              error={error ?? undefined}
              onChange={({ target }) => change({ minutes: target.value })}
              onKeyDown={(event) => event.key === 'Enter' && onEnter()}
            />
          </div>
          <p className="text-sm text-faint">Left empty, whoever had it last is asked on their own page.</p>
        </div>
      )}
    </div>
  );
}

/** How it is swollen, and how thick it is. */
export function SwellingFields({
  draft,
  change,
  onEnter,
}: {
  draft: RowDraft;
  change: (part: Partial<RowDraft>) => void;
  onEnter: () => void;
}) {
  return (
    <div className="flex flex-wrap items-end gap-3">
      <Choice
        label="Pressed with a thumb it is"
        options={[
          { value: 'soft', label: 'soft' },
          { value: 'hard', label: 'hard' },
        ]}
        value={draft.swelling === 'hard' ? 'hard' : 'soft'}
        onChange={(swelling) => change({ swelling })}
      />
      <div className="w-32">
        <TextField
          label="Thickness, mm"
          inputMode="decimal"
          value={draft.thickness}
          onChange={({ target }) => change({ thickness: target.value })}
          onKeyDown={(event) => event.key === 'Enter' && onEnter()}
        />
      </div>
    </div>
  );
}
