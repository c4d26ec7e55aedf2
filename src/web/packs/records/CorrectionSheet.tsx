import { useState } from 'react';
import type { FormEvent } from 'react';
import type { PackDetails, PackTypeAnswer } from '../../../contract';
import { isCorrectable } from '../../../core/admission';
import { parseVolts } from '../../../core/reading';
import type { ReadingCondition } from '../../../core/reading';
import type { Correctable, PackRecord, ReadingPayload, ReadVolts } from '../../../core/record';
import { latestCorrections } from '../../../core/record';
import { KIND_WORDS, recordLine, volts, voltsRefusalSentence } from '../../../core/wording';
import { Button } from '../../kit/Button';
import { Choice, TextArea, TextField } from '../../kit/fields';
import { Sheet } from '../../kit/Sheet';
import { voltsOf } from '../../domain/typedReading';
import { CONDITIONS } from './ReadingForm';
import { useNames } from '../../domain/useNames';
import { useHandIn } from '../../app/useHandIn';

interface Props {
  readonly pack: PackDetails;
  readonly type: PackTypeAnswer;
  readonly record: PackRecord;
  readonly onClose: () => void;
}

/** Puts a record right, or withdraws it, by a record that says so. The first stays readable. */
export function CorrectionSheet({ pack, type, record, onClose }: Props) {
  const names = useNames();
  const [reason, setReason] = useState('');
  const said = currentText(record, pack.records);
  const [typed, setTyped] = useState(said?.kind === 'reading' ? typedVolts(said.payload) : '');
  const [condition, setCondition] = useState<ReadingCondition>(
    said?.kind === 'reading' ? said.payload.condition : 'rested',
  );
  const [text, setText] = useState(said?.kind === 'note' ? said.payload.text : '');
  const { hand, busy, problems } = useHandIn(pack);
  if (!isCorrectable(record)) return null;

  const parsed = parseVolts(typed, type);
  const { figures, words } = recordLine(record, names);
  const send = async (replacement: Correctable | null, done: string) => {
    const payload = { reason, replacement };
    if (await hand({ kind: 'correction', payload, supersedes: record.id }, done)) onClose();
  };
  const correct = (event: FormEvent) => {
    event.preventDefault();
    if (said?.kind === 'reading') {
      const read = voltsOf(parsed);
      if (read)
        void send(
          { kind: 'reading', payload: correctedReading(said.payload, read, condition) },
          `${pack.tag}: reading corrected.`,
        );
    } else if (said?.kind === 'note')
      void send({ kind: 'note', payload: { text } }, `${pack.tag}: note corrected.`);
  };
  const refused = (name: string) => problems.find(({ field }) => field.startsWith(name))?.message;
  const editable = said?.kind === 'reading' || said?.kind === 'note';

  return (
    <Sheet
      open
      onClose={onClose}
      title={`Correct record ${record.seq} of ${pack.tag}`}
      describe={`${KIND_WORDS[record.kind]}: ${figures} ${words}`}
    >
      <form onSubmit={correct} className="grid gap-4" noValidate>
        {said?.kind === 'reading' && (
          <>
            <TextField
              label="What it should have said, cells in order"
              autoFocus
              value={typed}
              onChange={(event) => setTyped(event.target.value)}
              error={
                parsed.outcome === 'refused'
                  ? voltsRefusalSentence(parsed.why)
                  : refused('payload.replacement')
              }
              className="font-mono text-lg font-bold"
            />
            <Choice label="Condition" options={CONDITIONS} value={condition} onChange={setCondition} />
          </>
        )}
        {said?.kind === 'note' && (
          <TextArea
            label="What it should have said"
            autoFocus
            value={text}
            onChange={(event) => setText(event.target.value)}
            error={refused('payload.replacement')}
          />
        )}
        <TextField
          label="Reason"
          value={reason}
          onChange={(event) => setReason(event.target.value)}
          error={refused('payload.reason')}
          hint="Kept with the record."
        />
        {problems
          .filter(({ field }) => !field.startsWith('payload.'))
          .map(({ message }) => (
            <p key={message} role="alert" className="font-bold text-red">
              {message}
            </p>
          ))}
        <div className="flex flex-wrap gap-3">
          {editable && (
            <Button type="submit" weight="main" disabled={busy || voltsMissing(said, parsed.outcome)}>
              Correct it
            </Button>
          )}
          {record.kind !== 'received' && said !== null && (
            <Button onClick={() => void send(null, `${pack.tag}: record withdrawn.`)} disabled={busy}>
              Withdraw it
            </Button>
          )}
          <Button weight="quiet" onClick={onClose}>
            Leave it
          </Button>
        </div>
      </form>
    </Sheet>
  );
}

/** What the record says now: as written, or as last corrected; a withdrawn one is shown as it was, to be brought back. */
function currentText(record: PackRecord, records: readonly PackRecord[]): Correctable | null {
  if (!isCorrectable(record)) return null;
  return latestCorrections(records).get(record.id)?.payload.replacement ?? record;
}

function typedVolts({ volts: read }: ReadingPayload): string {
  return read.of === 'cells' ? read.cellsMv.map(volts).join(' ') : volts(read.packMv);
}

function voltsMissing(said: Correctable | null, outcome: string): boolean {
  return said?.kind === 'reading' && outcome !== 'cells' && outcome !== 'pack';
}

/** A reading put right. Other volts than the device's are nobody's but the hand's that typed them. */
function correctedReading(
  said: ReadingPayload,
  volts: ReadVolts,
  condition: ReadingCondition,
): ReadingPayload {
  const { measured, ...rest } = said;
  const isSame = JSON.stringify(volts) === JSON.stringify(said.volts);
  return { ...rest, volts, condition, ...(isSame && measured ? { measured } : {}) };
}
