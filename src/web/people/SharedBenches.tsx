import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { SharedBenchAnswer } from '../../contract';
import { whenWords } from '../../core/wording';
import { ask } from '../app/api';
import { useReader } from '../app/clock';
import { dropDraft } from '../app/drafts';
import { say } from '../app/notices';
import { KEYS, queryClient } from '../app/queries';
import { useServerForm } from '../app/useServerForm';
import { Button } from '../kit/Button';
import { TextField } from '../kit/fields';
import { Notice } from '../kit/Message';
import { AccessLine } from './AccessLine';

async function benchesChanged(): Promise<void> {
  await queryClient.invalidateQueries({ queryKey: KEYS.sharedBenches });
  // Whether this browser is one.
  await queryClient.invalidateQueries({ queryKey: KEYS.session });
}

/** The browsers at which people change by PIN or badge. */
export function SharedBenches() {
  const benches = useQuery({ queryKey: KEYS.sharedBenches, queryFn: () => ask('GET /shared-benches') });
  const [made, setMade] = useState(0);
  return (
    <section aria-labelledby="shared-benches" className="max-w-md">
      <h2 id="shared-benches" className="mb-2 border-b-2 border-ink pb-1">
        Shared benches
      </h2>
      <p className="mb-3">
        A browser that several people use. There, and nowhere else, a PIN or a badge is enough to take over;
        each chooses theirs on their own page.
      </p>
      <ul className="mb-3">
        {benches.data?.map((bench) => (
          <BenchLine key={bench.id} bench={bench} />
        ))}
      </ul>
      <NewBench key={made} onMade={() => setMade(made + 1)} />
    </section>
  );
}

function NewBench({ onMade }: { onMade: () => void }) {
  const initial = { name: '' };
  const form = useServerForm<typeof initial>('shared-bench', initial, async (values) => {
    await ask('POST /shared-benches', { body: values });
    say(`This browser is a shared bench now: ${values.name}.`);
    dropDraft('shared-bench');
    onMade();
    await benchesChanged();
  });
  const { errors, isSubmitting } = form.formState;
  return (
    <>
      {form.problem && <Notice title={form.problem} />}
      <form
        onSubmit={(event) => void form.hand(event)}
        className="flex flex-wrap items-start gap-3"
        noValidate
      >
        <div className="w-56">
          <TextField
            label="What this one is called"
            error={errors.name?.message}
            {...form.register('name')}
          />
        </div>
        <Button type="submit" className="mt-5.5" disabled={isSubmitting}>
          Make this browser one
        </Button>
      </form>
    </>
  );
}

function BenchLine({ bench }: { bench: SharedBenchAnswer }) {
  const reader = useReader();
  const end = async () => {
    await ask('DELETE /shared-benches/:id', { params: { id: bench.id } });
    say(`${bench.name} is no shared bench any more.`);
    await benchesChanged();
  };
  return (
    <AccessLine
      name={bench.name}
      mark={bench.isThis ? 'this browser' : null}
      said={`since ${whenWords(bench.madeAt, reader)}`}
      press="End it"
      onEnd={end}
    />
  );
}
