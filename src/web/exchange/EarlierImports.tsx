import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { ImportAnswer } from '../../contract';
import { plural, whenWords } from '../../core/wording';
import { ask } from '../app/api';
import { useReader } from '../app/clock';
import { Failure } from '../app/Failure';
import { say } from '../app/notices';
import { KEYS, queryClient } from '../app/queries';
import { useNames } from '../domain/useNames';
import { Button } from '../kit/Button';
import { TextField } from '../kit/fields';
import { Loading, Notice } from '../kit/Message';
import { Question } from '../kit/Sheet';
import { useServerForm } from '../app/useServerForm';

/** What was brought in before, and the way to take it back. */
export function EarlierImports() {
  const earlier = useQuery({ queryKey: KEYS.imports, queryFn: () => ask('GET /imports') });
  const [chosen, setChosen] = useState<ImportAnswer | null>(null);
  const reader = useReader();
  const names = useNames();
  if (earlier.isLoadingError) return <Failure error={earlier.error} retry={() => void earlier.refetch()} />;
  if (earlier.isPending) return <Loading what="what was brought in" />;
  return (
    <section aria-labelledby="earlier">
      <h2 id="earlier" className="border-b-2 border-ink pb-1">
        Brought in so far
      </h2>
      {earlier.data.length === 0 && <p className="py-2 text-faint">Nothing yet.</p>}
      <ul>
        {earlier.data.map((one) => (
          <li key={one.id} className="ruled flex flex-wrap items-center justify-between gap-x-4 py-1.5">
            <span>
              <b>{one.fileName}</b>{' '}
              <span className="text-sm text-faint">
                {one.kind === 'packs' ? plural(one.packs, 'pack') : plural(one.records, 'record')}
                {one.refused > 0 && `, ${one.refused} refused`} · {whenWords(one.startedAt, reader)} ·{' '}
                {names.person(one.by)}
              </span>
            </span>
            {one.takenBackAt !== null ? (
              <span className="text-faint">
                taken back {whenWords(one.takenBackAt, reader)},{' '}
                {one.takenBackBy && names.person(one.takenBackBy)}
              </span>
            ) : (
              <span className="flex items-center gap-3">
                {one.endedAt === null && <b className="text-amber">not finished: open the file again</b>}
                <Button weight="quiet" onClick={() => setChosen(one)}>
                  Take back
                </Button>
              </span>
            )}
          </li>
        ))}
      </ul>
      {chosen && <TakeBack one={chosen} onClose={() => setChosen(null)} />}
    </section>
  );
}

function TakeBack({ one, onClose }: { one: ImportAnswer; onClose: () => void }) {
  const form = useServerForm(`take-back.${one.id}`, { reason: '' }, async (body) => {
    const { records, packs, kept } = await ask('POST /imports/:id/take-back', {
      params: { id: one.id },
      body,
    });
    say(
      `${plural(records, 'record')} taken back${packs > 0 ? `, ${plural(packs, 'pack')} gone from the lists` : ''}.${
        kept.length > 0 ? ` ${kept.join(', ')} stay: something was written of them since.` : ''
      }`,
    );
    await queryClient.invalidateQueries();
    onClose();
  });
  const { errors, isSubmitting: busy } = form.formState;
  return (
    <Question
      onClose={onClose}
      title={`Take back ${one.fileName}`}
      describe="Every record it brought in is withdrawn by one that says so. Packs of which nothing else was written leave the lists."
    >
      <form onSubmit={(event) => void form.hand(event)} noValidate className="grid gap-3">
        {form.problem && !errors.reason && <Notice title={form.problem} />}
        <TextField label="Why" autoFocus error={errors.reason?.message} {...form.register('reason')} />
        <div className="flex gap-3">
          <Button type="submit" weight="main" disabled={busy}>
            {busy ? 'Taking it back …' : 'Take it back'}
          </Button>
          <Button weight="quiet" onClick={onClose}>
            Leave it
          </Button>
        </div>
      </form>
    </Question>
  );
}
