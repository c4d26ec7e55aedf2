import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { NewCodesAnswer } from '../../contract';
import { whenWords } from '../../core/wording';
import { ask } from '../app/api';
import { useReader } from '../app/clock';
import { Failure } from '../app/Failure';
import { say } from '../app/notices';
import { KEYS, queryClient } from '../app/queries';
import { useServerForm } from '../app/useServerForm';
import { useAttempt } from '../app/useAttempt';
import { Button } from '../kit/Button';
import { TextField } from '../kit/fields';
import { Loading, Notice } from '../kit/Message';

export function useFactors() {
  return useQuery({ queryKey: KEYS.factors, queryFn: () => ask('GET /session/factors') });
}

/** What was set up changes what a custodian may do, and what the page shows. */
export async function factorsChanged(): Promise<void> {
  await queryClient.invalidateQueries({ queryKey: KEYS.factors });
  await queryClient.invalidateQueries({ queryKey: KEYS.session });
}

/** Codes of a phone, asked for besides the password. */
export function SecondFactor() {
  const factors = useFactors();
  const reader = useReader();
  const [begun, setBegun] = useState<NewCodesAnswer & { picture: string }>();
  const [spare, setSpare] = useState<readonly string[]>();
  const { problem, attempt } = useAttempt();
  const begin = async () => {
    const codes = await ask('POST /session/codes');
    const { toDataURL } = await import('qrcode');
    setBegun({ ...codes, picture: await toDataURL(codes.address, { margin: 2, width: 200 }) });
  };
  const end = async () => {
    await ask('DELETE /session/codes');
    setSpare(undefined);
    say('You sign in by your password alone again.');
    await factorsChanged();
  };
  return (
    <section aria-labelledby="second-factor" className="max-w-md">
      <h2 id="second-factor" className="mb-3 border-b-2 border-ink pb-1">
        Codes of your phone
      </h2>
      {problem && <Notice title={problem} />}
      {factors.isLoadingError && <Failure error={factors.error} retry={() => void factors.refetch()} />}
      {factors.isPending && <Loading what="what you have set up" />}
      {spare && <SpareCodes codes={spare} />}
      {factors.data?.codesSince === null && !begun && (
        <>
          <p className="mb-3">
            Besides your password the sign-in asks for six figures that only your phone knows. Whoever learns
            your password does not come in by it alone.
          </p>
          <Button onClick={() => void attempt(begin)}>Set up a phone</Button>
        </>
      )}
      {begun && (
        <ProveCodes
          begun={begun}
          onProven={(codes) => {
            setBegun(undefined);
            setSpare(codes);
          }}
          onLeave={() => setBegun(undefined)}
        />
      )}
      {typeof factors.data?.codesSince === 'number' && (
        <>
          <p className="mb-3">
            Asked for since {whenWords(factors.data.codesSince, reader)}.{' '}
            <SpareLeft left={factors.data.spareCodes} />
          </p>
          <Button weight="quiet" className="-ml-3" onClick={() => void attempt(end)}>
            Sign in without codes again
          </Button>
        </>
      )}
    </section>
  );
}

function SpareLeft({ left }: { left: number }) {
  if (left > 2) return <>{left} spare codes are left.</>;
  return (
    <b className="text-amber">
      {left === 0 ? 'No spare code is left.' : `${left} spare ${left === 1 ? 'code is' : 'codes are'} left.`}{' '}
      Take the phone away and set it up again for new ones.
    </b>
  );
}

function ProveCodes({
  begun,
  onProven,
  onLeave,
}: {
  begun: NewCodesAnswer & { picture: string };
  onProven: (spare: readonly string[]) => void;
  onLeave: () => void;
}) {
  const initial = { code: '' };
  const form = useServerForm<typeof initial>('prove-codes', initial, async (values) => {
    const { spareCodes } = await ask('POST /session/codes/confirmation', { body: values });
    onProven(spareCodes);
    await factorsChanged();
  });
  const { errors, isSubmitting } = form.formState;
  return (
    <form onSubmit={(event) => void form.hand(event)} className="grid gap-4" noValidate>
      <p>
        1. Take this picture with the program on your phone that makes codes. Where it cannot, type{' '}
        <code className="font-mono text-sm break-all">{begun.secret.replace(/(.{4})/g, '$1 ').trim()}</code>{' '}
        there.
      </p>
      <img
        src={begun.picture}
        width={200}
        height={200}
        alt="The picture for your phone"
        className="border-[1.5px] border-rule"
      />
      {form.problem && <Notice title={form.problem} />}
      <TextField
        label="2. The code that the phone shows now"
        inputMode="numeric"
        autoComplete="one-time-code"
        autoFocus
        error={errors.code?.message}
        {...form.register('code')}
      />
      <div className="flex gap-3">
        <Button type="submit" weight="main" disabled={isSubmitting}>
          Ask for codes from now on
        </Button>
        <Button onClick={onLeave}>Leave it</Button>
      </div>
    </form>
  );
}

function SpareCodes({ codes }: { codes: readonly string[] }) {
  return (
    <div role="status" className="mb-4 border-2 border-ink bg-sheet p-4">
      <h3>Spare codes, for when the phone is lost</h3>
      <p className="font-bold text-amber">They are shown this once. Keep them where the phone is not.</p>
      <ul className="mt-2 grid grid-cols-2 gap-x-6 font-mono">
        {codes.map((code) => (
          <li key={code}>{code}</li>
        ))}
      </ul>
      <p className="mt-2 text-sm text-faint">Each lets you in once, instead of a code.</p>
    </div>
  );
}
