import { ask } from '../app/api';
import { useAttempt } from '../app/useAttempt';
import { Button } from '../kit/Button';
import { factorsChanged, useFactors } from './SecondFactor';

/** Whether custodians need a second factor, for whoever may change that. */
export function CustodianFactor() {
  const factors = useFactors();
  const { problem, attempt } = useAttempt();
  if (!factors.data) return <section />;
  const { asked } = factors.data;
  const choose = async () => {
    await ask('PUT /custodian-factor', { body: { asked: !asked } });
    await factorsChanged();
  };
  return (
    <section aria-labelledby="custodian-factor" className="max-w-md">
      <h2 id="custodian-factor" className="mb-2 border-b-2 border-ink pb-1">
        Second factor
      </h2>
      <p className="mb-3">
        {asked
          ? 'Custodians need codes of a phone, or a passkey. Until they have one they may do what a deputy may.'
          : 'Everybody may set up codes of a phone or a passkey on their own page. Nobody must.'}
      </p>
      <Button onClick={() => void attempt(choose)}>
        {asked ? 'Ask custodians for none' : 'Ask custodians for one'}
      </Button>
      {problem && (
        <p role="alert" className="mt-2 font-bold text-red">
          {problem}
        </p>
      )}
    </section>
  );
}
