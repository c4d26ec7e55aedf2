import { useEffect, useState } from 'react';
import type { FormEvent } from 'react';
import type { DeviceAnswer, PackDetails } from '../../../contract';
import { memoryByRules } from '../../../core/assess';
import { isLithium } from '../../../core/chemistry';
import { cycles } from '../../../core/health';
import { asSet, notTaken } from '../../../core/record';
import type { AsSet, MemoryWork, OwnMemory } from '../../../core/record';
import { MEMORY_SETTING_WORDS, plural, volts, whenWords } from '../../../core/wording';
import { ask, FailedRequest } from '../../app/api';
import { useReader } from '../../app/clock';
import { useDevices } from '../../app/devices';
import { useRegister } from '../../app/queries';
import { useMay } from '../../domain/Person';
import type { PackView } from '../../domain/packView';
import { Button } from '../../kit/Button';
import { CheckField, Choice, TextField } from '../../kit/fields';
import { SelectField, SelectOption } from '../../kit/Select';
import { EntryEnd, useEntryForm } from './entryForm';
import {
  MEMORY_FIELDS,
  memoryShown,
  memoryTyped,
  memoryWanted,
  NO_MEMORY,
  settingsToWrite,
} from './memoryDraft';
import type { MemoryDraft } from './memoryDraft';

const WORK: readonly { readonly value: MemoryWork; readonly label: string }[] = [
  { value: 'read', label: 'Read' },
  { value: 'written', label: 'Set' },
  { value: 'updated', label: 'Updated' },
];

/** A smart pack's own memory: read by a reader or by eye, set by the rules, and read back. */
export default function MemoryForm({ pack, view }: { pack: PackDetails; view: PackView }) {
  const form = useEntryForm({
    pack,
    view,
    kind: 'memory',
    empty: NO_MEMORY,
    understand: memoryTyped,
    fields: MEMORY_FIELDS,
  });
  const { draft, text } = form;
  const register = useRegister().data;
  const [problem, setProblem] = useState<string | null>(null);
  // A figure that a hand changes is no longer what the reader read.
  const change = (part: Partial<MemoryDraft>) => form.change({ ...part, from: null });
  const typed = (field: keyof MemoryDraft) => ({
    ...text(field),
    onChange: ({ target }: { readonly target: { readonly value: string } }) =>
      change({ [field]: target.value }),
  });
  const reader = useMemoryReader(draft, form.begun, form.change);
  const mayWrite = useMay('bench.charge');
  const facts = view.history.pack;
  const rules = register?.rules.rules;
  const wanted =
    rules && isLithium(facts.chemistry)
      ? memoryByRules({ ...facts, chemistry: facts.chemistry }, rules)
      : null;
  const known = view.facts.smart && asSet(view.facts.smart, view.history.memories);
  const writes = draft.did === 'written' && reader?.canWrite === true && reader.memory !== null && mayWrite;

  const save = async (event: FormEvent) => {
    event.preventDefault();
    setProblem(null);
    const payload = memoryTyped(draft).payload;
    if (writes && payload?.memory) {
      try {
        await ask('POST /devices/:id/write', {
          params: { id: reader.id },
          body: { readingId: reader.memory.readingId, ...settingsToWrite(payload.memory) },
        });
      } catch (error) {
        if (!(error instanceof FailedRequest)) throw error;
        setProblem(error.says);
        return;
      }
    }
    form.save(event);
  };

  return (
    <form onSubmit={(event) => void save(event)} noValidate className="grid gap-3">
      {known && <Known known={known} view={view} />}
      <ReaderLine reader={reader} draft={draft} known={known} take={form.change} />
      <div className="flex flex-wrap items-end gap-x-6 gap-y-3">
        <Choice
          label="What was done"
          options={WORK}
          value={draft.did}
          onChange={(did) => change({ did, couldNot: false })}
        />
        {draft.did === 'written' && wanted && (
          <Button weight="quiet" onClick={() => change(memoryWanted(wanted))}>
            Fill in by the house rules
          </Button>
        )}
        {draft.did === 'read' && (
          <CheckField
            label="It could not be read"
            checked={draft.couldNot}
            onChange={(couldNot) => change({ couldNot })}
          />
        )}
      </div>
      {draft.did === 'updated' ? (
        <p className="bg-wash-amber px-2 py-1">
          Keep the pack connected until the update has ended. Then read its memory: an update may have put
          every setting back.
        </p>
      ) : (
        !draft.couldNot && (
          <div className="grid grid-cols-2 gap-3 sm:grid-cols-3 lg:grid-cols-5">
            <SelectField
              label="Its own storage"
              value={draft.own}
              onChange={(own) => change({ own: own as MemoryDraft['own'] })}
              error={text('own').error}
              hint={wanted && 'House: on'}
            >
              <SelectOption value="">not shown</SelectOption>
              <SelectOption value="on">on</SelectOption>
              <SelectOption value="off">off</SelectOption>
            </SelectField>
            <TextField
              label="Begins after, h"
              inputMode="numeric"
              {...typed('after')}
              hint={wanted && `House: ${wanted.afterHours} at most`}
            />
            <TextField
              label="Stops at, V a cell"
              inputMode="decimal"
              {...typed('storage')}
              hint={wanted && `House: ${volts(wanted.bandLowMv)} to ${volts(wanted.bandHighMv)}`}
            />
            <TextField
              label="Its top, V a cell"
              inputMode="decimal"
              {...typed('top')}
              hint={wanted && `House: ${volts(wanted.topMv)} at most`}
            />
            <TextField
              label="Its charge, A"
              inputMode="decimal"
              {...typed('amps')}
              hint={wanted && `House: ${Number(wanted.chargeA.toFixed(2))} at most`}
            />
          </div>
        )
      )}
      {draft.did === 'read' && !draft.couldNot && (
        <div className="grid grid-cols-2 gap-3 sm:grid-cols-3 lg:grid-cols-5">
          <TextField label="Its cycles" inputMode="numeric" {...typed('cycles')} />
          <TextField label="Over-charges" inputMode="numeric" {...typed('overCharges')} />
          <TextField label="Over-discharges" inputMode="numeric" {...typed('overDischarges')} />
          <TextField label="Too hot" inputMode="numeric" {...typed('overTemperatures')} />
          <TextField label="The pack’s own number" {...typed('number')} />
        </div>
      )}
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-3 lg:grid-cols-5">
        {draft.did !== 'written' && !draft.couldNot && (
          <>
            <TextField label="Program version" {...typed('firmware')} />
            <TextField label="Of" {...typed('firmwareDate')} hint="As it is shown." />
          </>
        )}
        <SelectField
          label="Through"
          value={draft.adapter}
          onChange={(adapter) => form.change({ adapter })}
          error={text('adapter').error}
        >
          <SelectOption value="">its own lead</SelectOption>
          {register?.equipment
            .filter(({ facts: { kind } }) => kind === 'adapter')
            .map(({ id, name, facts: adapter }) => (
              <SelectOption key={id} value={id}>
                {name}
                {adapter.kind === 'adapter' && !adapter.data ? ' (no data contact)' : ''}
              </SelectOption>
            ))}
        </SelectField>
      </div>
      <TextField label="Remarks" {...text('remarks')} />
      {problem && (
        <p role="alert" className="font-bold text-red">
          {problem}
        </p>
      )}
      <EntryEnd
        form={form}
        pack={pack}
        view={view}
        label={
          draft.did === 'written'
            ? writes
              ? 'Write it into the pack'
              : 'Save as set'
            : draft.did === 'updated'
              ? 'Save the update'
              : 'Save what it says'
        }
      />
    </form>
  );
}

/** The reader that is there, or that was; null where none was ever added. It fills the form while no hand has. */
function useMemoryReader(
  draft: MemoryDraft,
  begun: boolean,
  fill: (part: Partial<MemoryDraft>) => void,
): DeviceAnswer | null {
  const readers = useDevices().filter(({ kind, endedAt }) => kind === 'memory-reader' && endedAt === null);
  const reader =
    readers.find(({ isOpen, memory }) => isOpen && memory) ?? readers.find(({ isOpen }) => isOpen) ?? null;
  const shown = reader?.memory?.updating === null ? reader.memory : null;
  const isUntouched = draft.did === 'read' && (!begun || draft.from !== null || isBlank(draft));
  const wants = shown !== null && isUntouched && draft.from?.readingId !== shown.readingId;
  useEffect(() => {
    if (wants && reader) fill(memoryShown(shown.memory, { deviceId: reader.id, readingId: shown.readingId }));
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what is filled in is all in these two
  }, [wants, shown?.readingId]);
  return reader;
}

function isBlank({ adapter: _, ...draft }: MemoryDraft): boolean {
  const { adapter: __, ...empty } = NO_MEMORY;
  return JSON.stringify({ ...empty, ...draft }) === JSON.stringify(empty);
}

/** What the reader says, and whether what was set has taken. */
function ReaderLine({
  reader,
  draft,
  known,
  take,
}: {
  reader: DeviceAnswer | null;
  draft: MemoryDraft;
  known: AsSet | null;
  take: (part: Partial<MemoryDraft>) => void;
}) {
  if (draft.from && reader?.memory?.readingId !== draft.from.readingId && reader?.memory?.updating == null)
    return (
      <p role="status" className="bg-wash-amber px-2 py-1">
        What stands here is not on the reader any more. Save it only if it is this pack’s.
      </p>
    );
  if (!reader) return null;
  const { memory, name } = reader;
  if (!memory)
    return (
      <p role="status" className="text-sm text-faint">
        {name}: no memory to be read. If a pack is plugged in, its adapter has no data contact.
      </p>
    );
  if (memory.updating !== null)
    return (
      <p role="status" className="bg-wash-amber px-2 py-1 font-bold">
        The pack is being updated, {Math.round(memory.updating)} %. Keep it connected until the end.
      </p>
    );
  const isFilled = draft.from?.readingId === memory.readingId;
  if (!isFilled)
    return (
      <p role="status" className="flex flex-wrap items-center gap-x-3 text-sm text-faint">
        <span>
          {name} reads {memory.memory.number ?? 'a pack'}.
        </span>
        {draft.did !== 'written' && (
          <Button
            weight="quiet"
            onClick={() =>
              take(memoryShown(memory.memory, { deviceId: reader.id, readingId: memory.readingId }))
            }
          >
            Take what it reads
          </Button>
        )}
      </p>
    );
  const written = known?.notReadBack?.did === 'written' ? known.notReadBack.memory : null;
  return written ? (
    <ReadBack written={written} read={memory.memory} />
  ) : (
    <p role="status" className="text-sm text-faint">
      Read by {name}. Enter saves.
    </p>
  );
}

function ReadBack({ written, read }: { written: OwnMemory; read: OwnMemory }) {
  const differs = notTaken(written, read);
  return differs.length === 0 ? (
    <p role="status" className="font-bold text-leaf">
      Read back as it was set. Enter saves it as verified.
    </p>
  ) : (
    <p role="status" className="bg-wash-amber px-2 py-1 font-bold">
      Not as it was set: {differs.map((one) => MEMORY_SETTING_WORDS[one]).join(', ')}. Wait for the reader, or
      set it again.
    </p>
  );
}

/** How it was set when somebody last knew, and why its count lags behind the register's. */
function Known({ known: { read, notReadBack, unreadable }, view }: { known: AsSet; view: PackView }) {
  const reader = useReader();
  const rules = useRegister().data?.rules.rules;
  const counted = view.history.counts.findLast(({ cycles: own }) => own !== null)?.cycles ?? null;
  const registered = rules ? cycles(view.history, rules.flight.maxDodPercent).count : null;
  const lags = counted !== null && registered !== null && registered - counted >= 1;
  return (
    <div className="text-sm text-faint">
      <p>
        {notReadBack
          ? `${notReadBack.did === 'written' ? 'Set' : 'Updated'} ${whenWords(notReadBack.at, reader)} and not read back yet.`
          : read
            ? `Read ${whenWords(read.at, reader)}: that is how it is set.`
            : 'Never read: how it is set is known from its label alone.'}
        {unreadable &&
          ` It could not be read ${whenWords(unreadable.at, reader)}, so its faults since are unknown.`}
      </p>
      {lags && (
        <p>
          It counts {plural(counted, 'cycle')} itself, the register {Math.round(registered)}: its own counter
          moves on only with a full run, so it lags behind.
        </p>
      )}
    </div>
  );
}
