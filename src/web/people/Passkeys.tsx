import { useState } from 'react';
import type { FactorsAnswer } from '../../contract';
import { whenWords } from '../../core/wording';
import { ask } from '../app/api';
import { useReader } from '../app/clock';
import { say } from '../app/notices';
import { Button } from '../kit/Button';
import { TextField } from '../kit/fields';
import { AccessLine } from './AccessLine';
import { makePasskey, mayHavePasskeys, whyNoPasskey } from './webauthn';
import { factorsChanged, useFactors } from './SecondFactor';

/** Passkeys: instead of name, password and code. */
export function Passkeys() {
  const factors = useFactors();
  const [name, setName] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const add = async () => {
    setProblem(null);
    setBusy(true);
    try {
      await makePasskey(name);
      setName('');
      say('From now on you can sign in by this passkey.');
      await factorsChanged();
    } catch (error) {
      setProblem(whyNoPasskey(error));
    } finally {
      setBusy(false);
    }
  };
  const kept = factors.data?.passkeys ?? [];
  return (
    <section aria-labelledby="passkeys" className="max-w-md">
      <h2 id="passkeys" className="mb-3 border-b-2 border-ink pb-1">
        Passkeys
      </h2>
      <p className="mb-3">
        A passkey stays on your device, which gives it to you alone, by finger, face or its own code. It lets
        you in without name, password or code.
      </p>
      <ul className="mb-3">
        {kept.map((one) => (
          <PasskeyLine key={one.id} one={one} />
        ))}
      </ul>
      {mayHavePasskeys() ? (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            void add();
          }}
          className="flex flex-wrap items-start gap-3"
          noValidate
        >
          <div className="w-56">
            <TextField
              label="What you call this device"
              value={name}
              onChange={(event) => {
                setName(event.target.value);
                setProblem(null);
              }}
              error={problem ?? undefined}
            />
          </div>
          <Button type="submit" className="mt-5.5" disabled={isBusy}>
            Make a passkey
          </Button>
        </form>
      ) : (
        <p className="text-faint">
          This browser makes none here: a passkey needs HTTPS, and an address with a name instead of figures.
        </p>
      )}
    </section>
  );
}

function PasskeyLine({ one }: { one: FactorsAnswer['passkeys'][number] }) {
  const reader = useReader();
  const end = async () => {
    await ask('DELETE /session/passkeys/:id', { params: { id: one.id } });
    say(`The passkey ${one.name} lets nobody in any more.`);
    await factorsChanged();
  };
  const used = one.usedAt === null ? '' : ` · last used ${whenWords(one.usedAt, reader)}`;
  return (
    <AccessLine
      name={one.name}
      said={`made ${whenWords(one.madeAt, reader)}${used}`}
      press="Take it away"
      onEnd={end}
    />
  );
}
