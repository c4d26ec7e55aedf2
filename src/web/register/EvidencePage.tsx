import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { EvidenceAnswer, EvidenceFinding, VerificationAnswer } from '../../contract';
import { whenWords } from '../../core/wording';
import { ask } from '../app/api';
import { useReader } from '../app/clock';
import { Failure } from '../app/Failure';
import { say } from '../app/notices';
import { KEYS, queryClient } from '../app/queries';
import { useServerForm } from '../app/useServerForm';
import { CameraButton } from '../domain/camera/CameraButton';
import { Button } from '../kit/Button';
import { TextArea } from '../kit/fields';
import { FileButton } from '../kit/FileButton';
import { Loading, Notice } from '../kit/Message';

const LINK =
  'inline-flex min-h-11 items-center font-bold text-accent underline underline-offset-3 md:min-h-8';

/** Whether the register is still what it was: a look at all of it, and the checkpoints that speak for it elsewhere. */
export function EvidencePage() {
  const evidence = useQuery({ queryKey: KEYS.evidence, queryFn: () => ask('GET /evidence') });
  if (evidence.isLoadingError)
    return <Failure error={evidence.error} retry={() => void evidence.refetch()} />;
  if (evidence.isPending) return <Loading what="the evidence" />;
  const { canSign, checkpoints, mail, last } = evidence.data;
  return (
    <div className="grid gap-8 lg:grid-cols-[3fr_2fr]">
      <section aria-labelledby="look" className="min-w-0">
        <h2 id="look" className="border-b-2 border-ink pb-1">
          Is the register what it was?
        </h2>
        <Found last={last} />
        <LookForm />
      </section>
      <section aria-labelledby="checkpoints" className="min-w-0">
        <h2 id="checkpoints" className="border-b-2 border-ink pb-1">
          Checkpoints
        </h2>
        <Checkpoints canSign={canSign} checkpoints={checkpoints} mail={mail} />
      </section>
    </div>
  );
}

function Found({ last }: { last: VerificationAnswer | null }) {
  const reader = useReader();
  if (!last) return <p className="py-3 text-faint">Nobody has looked yet.</p>;
  const { at, packs, records, entries, checkpoints, against, findings } = last;
  return (
    <div aria-live="polite" className="py-3">
      <p className={`text-lg font-bold ${findings.length === 0 ? 'text-green' : 'text-red'}`}>
        {findings.length === 0
          ? 'Everything holds.'
          : findings.length === 1
            ? 'One thing does not hold.'
            : `${findings.length} things do not hold.`}
      </p>
      <p className="text-sm text-faint">
        Looked {whenWords(at, reader)}: {count(packs, 'pack')}, {count(records, 'record')},{' '}
        {count(entries, 'entry', 'entries')} of the log, {count(checkpoints, 'checkpoint')}
        {against === null ? '' : `, against checkpoint ${against} that was kept elsewhere`}.
      </p>
      {findings.length > 0 && (
        <>
          <ul className="mt-3 border-l-4 border-red pl-3">
            {findings.map((finding) => (
              <Finding key={`${finding.what} ${finding.why}`} finding={finding} />
            ))}
          </ul>
          <p className="mt-3 max-w-prose">
            Somebody or something changed the register past Malle. Do not rely on what is named here. Whoever
            runs the register compares it with a backup from before.
          </p>
        </>
      )}
    </div>
  );
}

function Finding({ finding: { what, why, heldAt } }: { finding: EvidenceFinding }) {
  const reader = useReader();
  return (
    <li className="py-1">
      <b>{what}</b>: {why}
      {why.endsWith('.') ? '' : '.'}
      {heldAt !== null && <span className="text-faint"> It held {whenWords(heldAt, reader)}.</span>}
    </li>
  );
}

function count(many: number, one: string, several = `${one}s`): string {
  return `${many.toLocaleString('en')} ${many === 1 ? one : several}`;
}

function LookForm() {
  const form = useServerForm('evidence', { checkpoint: '' }, async ({ checkpoint }) => {
    const given = checkpoint.trim() === '' ? null : checkpoint;
    const last = await ask('POST /evidence/verification', { body: { checkpoint: given } });
    queryClient.setQueryData(KEYS.evidence, (before: object | undefined) => before && { ...before, last });
  });
  const { errors, isSubmitting } = form.formState;
  const take = (text: string) => form.setValue('checkpoint', text, { shouldDirty: true });
  return (
    <form onSubmit={(event) => void form.hand(event)} noValidate className="grid gap-3">
      {form.problem && <Notice title={form.problem} />}
      <TextArea
        label="A checkpoint that was kept elsewhere"
        hint="May be left empty. With one from paper or from a file, a register that was exchanged as a whole shows, too."
        rows={4}
        className="font-mono text-xs"
        spellCheck={false}
        error={errors.checkpoint?.message}
        {...form.register('checkpoint')}
      />
      <div className="flex flex-wrap gap-3">
        <Button type="submit" weight="main" disabled={isSubmitting}>
          {isSubmitting ? 'Looking…' : 'Look at everything'}
        </Button>
        <CameraButton once onScan={take} />
        <FileButton
          name="A file with a checkpoint"
          accept=".txt,text/plain"
          disabled={isSubmitting}
          onFile={(file) => void file.text().then(take)}
        >
          From a file
        </FileButton>
      </div>
      <p className="max-w-prose text-sm text-faint">
        Every record, every verdict, every tag and the log are worked out anew and compared. A register of
        sixty packs takes a few seconds.
      </p>
    </form>
  );
}

function Letters({ to, number, at, problem }: NonNullable<EvidenceAnswer['mail']>) {
  const reader = useReader();
  return (
    <div className="mt-3 grid gap-2">
      {problem && <Notice title={problem} />}
      <p className="text-sm text-faint">
        By mail to {to.join(', ')}, one letter for each day in which something changed.{' '}
        {number === null || at === null
          ? 'None went out yet.'
          : `No. ${number} went out ${whenWords(at, reader)}.`}
      </p>
    </div>
  );
}

function Checkpoints({ canSign, checkpoints, mail }: Omit<EvidenceAnswer, 'last'>) {
  const reader = useReader();
  const [isMaking, setMaking] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const make = async () => {
    setMaking(true);
    setProblem(null);
    try {
      const made = await ask('POST /evidence/checkpoints');
      say(
        checkpoints.some(({ number }) => number === made.number)
          ? 'Nothing changed since the newest checkpoint.'
          : `Checkpoint ${made.number} is made. Keep it somewhere else.`,
      );
      await queryClient.invalidateQueries({ queryKey: KEYS.evidence });
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error));
    } finally {
      setMaking(false);
    }
  };
  return (
    <>
      <p className="py-3 text-sm text-faint">
        A checkpoint is a short signed text that stands for everything the register held at a moment. One is
        made in every hour in which something changed; reports and manifests carry it as a code. Keep some
        where the register is not.
      </p>
      {problem && <Notice title={problem} />}
      {canSign ? (
        <Button disabled={isMaking} onClick={() => void make()}>
          Make one now
        </Button>
      ) : (
        <Notice title="This server has no key to sign with.">
          Whoever runs the register sets MALLE_SIGNING_KEY to a file for it.
        </Notice>
      )}
      {mail && <Letters {...mail} />}
      <ol className="mt-3 border-t-2 border-ink">
        {checkpoints.map(({ number, at, leaves, root }) => (
          <li key={number} className="ruled flex flex-wrap items-center justify-between gap-x-4 py-1">
            <span>
              <b>No. {number}</b> · {whenWords(at, reader)}{' '}
              <span className="text-sm text-faint">
                {count(leaves, 'thing')} · <span className="font-mono">{root.slice(0, 12)}</span>
              </span>
            </span>
            <a className={LINK} href={`/api/evidence/checkpoints/${number}.txt`} download>
              Save
            </a>
          </li>
        ))}
      </ol>
      {checkpoints.length === 0 && <p className="py-2 text-faint">There is none yet.</p>}
    </>
  );
}
