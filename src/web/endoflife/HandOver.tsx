import { v7 as newId } from 'uuid';
import type { ConsignmentDetails } from '../../contract';
import type { PhotoId } from '../../core/measure';
import { plural, whenWords } from '../../core/wording';
import { currentTime, useReader } from '../app/clock';
import { useDraftForm } from '../app/useDraftForm';
import { Photo, PhotoStrip } from '../domain/inspection/PhotoStrip';
import { useMay, usePerson } from '../domain/Person';
import { sendPhotos } from '../app/photos';
import { useNames } from '../domain/useNames';
import { Button } from '../kit/Button';
import { TextArea, TextField } from '../kit/fields';
import { useSend } from './useSend';
import { FormCheck } from '../kit/formFields';
import { useController } from 'react-hook-form';

interface HandOverDraft {
  readonly handedBy: string;
  readonly receivedBy: string;
  readonly receiptNumber: string;
  readonly photoIds: readonly PhotoId[];
  readonly rulesChecked: boolean;
}

/** The names, the receipt and the signature under a consignment; what is on it is recycled. */
export function HandOver({ consignment }: { consignment: ConsignmentDetails }) {
  const person = usePerson();
  const form = useDraftForm<HandOverDraft>(`handover.${consignment.id}`, {
    handedBy: person.name,
    receivedBy: '',
    receiptNumber: '',
    photoIds: [],
    rulesChecked: false,
  });
  const { send, busy, problem, rest } = useSend(consignment.id);
  const { field: photos } = useController({ control: form.control, name: 'photoIds' });
  const close = form.handleSubmit(async (draft) => {
    const receiptPhotoId = draft.photoIds.at(-1) ?? null;
    if (receiptPhotoId) await sendPhotos([receiptPhotoId]).catch(() => undefined);
    const body = {
      at: currentTime(),
      handedBy: draft.handedBy,
      receivedBy: draft.receivedBy,
      receiptNumber: draft.receiptNumber,
      receiptPhotoId,
      rulesChecked: draft.rulesChecked,
      packs: consignment.lines.map(({ packId }) => ({ packId, recordId: newId() })),
    };
    if (await send('hand-over', body, 'Handed over; every pack on it is recycled.')) form.taken();
  });
  const text = (field: 'handedBy' | 'receivedBy' | 'receiptNumber') => ({
    error: problem(field),
    ...form.register(field),
  });
  return (
    <form
      aria-label="Hand over"
      onSubmit={(event) => void close(event)}
      noValidate
      className="grid gap-3 border-2 border-ink bg-sheet p-4"
    >
      <h2>Hand it over</h2>
      <TextField label="Handed over by" {...text('handedBy')} />
      <TextField label="Taken by" {...text('receivedBy')} />
      <TextField label="Receipt number" className="font-mono" {...text('receiptNumber')} />
      <div>
        <span className="mb-0.5 block text-sm font-bold">Photo of the receipt</span>
        <PhotoStrip label="the receipt" ids={photos.value} onAdd={(id) => photos.onChange([id])} />
      </div>
      <FormCheck
        label="The recycler’s and the carriage rules are met"
        hint="Local law and the carrier’s rules come before this list."
        control={form.control}
        name="rulesChecked"
      />
      {(problem('rulesChecked') ?? rest) && (
        <p role="alert" className="font-bold text-red">
          {problem('rulesChecked')} {rest}
        </p>
      )}
      <div>
        <Button type="submit" weight="main" disabled={busy || consignment.lines.length === 0}>
          Handed over: {plural(consignment.lines.length, 'pack')} recycled
        </Button>
      </div>
    </form>
  );
}

/** As it was signed, and what was found wrong with it since. */
export function Closed({ consignment }: { consignment: ConsignmentDetails }) {
  const mayCorrect = useMay('consign');
  const reader = useReader();
  const names = useNames();
  const { send, busy, problem, rest } = useSend(consignment.id);
  const form = useDraftForm(`consignment.correct.${consignment.id}`, { text: '' });
  const { closedAt, closedBy, handedBy, receivedBy, receiptNumber, receiptPhotoId, corrections } =
    consignment;
  const correct = form.handleSubmit(async ({ text }) => {
    if (await send('corrections', { id: newId(), text }, 'Correction saved.')) form.taken();
  });
  return (
    <section aria-label="Receipt" className="grid gap-3">
      <h2 className="border-b-2 border-ink pb-1">Receipt</h2>
      <p>
        <b className="font-mono">{receiptNumber}</b>, {closedAt !== null && whenWords(closedAt, reader)}.
        Handed over by {handedBy}
        {receivedBy && `, taken by ${receivedBy}`}
        {closedBy !== null && `, signed by ${names.person(closedBy)}`}.
      </p>
      {receiptPhotoId && <Photo id={receiptPhotoId} label="The receipt" />}
      {corrections.map((one) => (
        <p key={one.id} className="border-l-4 border-amber bg-wash-amber px-3 py-1 text-sm">
          <b>Correction:</b> {one.text}{' '}
          <span className="text-faint">
            {names.person(one.by)}, {whenWords(one.at, reader)}
          </span>
        </p>
      ))}
      {mayCorrect && (
        <form onSubmit={(event) => void correct(event)} noValidate className="grid justify-items-start gap-2">
          <div className="w-full">
            <TextArea
              label="What was wrong on it"
              error={problem('text') ?? rest ?? undefined}
              hint="The consignment stays as it was signed; this stands beside it."
              {...form.register('text')}
            />
          </div>
          <Button type="submit" disabled={busy}>
            Add a correction
          </Button>
        </form>
      )}
    </section>
  );
}
