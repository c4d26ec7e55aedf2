import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../app/api';
import { Failure } from '../app/Failure';
import { say } from '../app/notices';
import { KEYS, queryClient } from '../app/queries';
import { Button } from '../kit/Button';
import { CopyButton } from '../kit/CopyButton';
import { TextField } from '../kit/fields';
import { Loading } from '../kit/Message';

/** A person's calendar subscription: what is due, in whatever calendar they live by. */
export function CalendarSettings() {
  const calendar = useQuery({
    queryKey: KEYS.calendar,
    queryFn: () => ask('GET /calendar'),
  });
  const [busy, setBusy] = useState(false);
  if (calendar.isLoadingError)
    return <Failure error={calendar.error} retry={() => void calendar.refetch()} />;
  if (calendar.isPending) return <Loading what="your calendar" />;
  const { path } = calendar.data;
  const address = path && `${window.location.origin}${path}`;
  const renew = async () => {
    setBusy(true);
    try {
      queryClient.setQueryData(KEYS.calendar, await ask('POST /calendar'));
      say(path ? 'The old address no longer works.' : 'Here is your calendar’s address.');
    } finally {
      setBusy(false);
    }
  };
  return (
    <div className="grid max-w-2xl gap-4">
      <p>
        Inspections, measurements due, top-ups and storage hours as appointments, kept up to date by your own
        calendar program: custodians and deputies see every pack, pilots the packs in their hands.
      </p>
      {address && (
        <TextField
          label="Subscribe to this address"
          readOnly
          value={address}
          onFocus={(event) => event.target.select()}
          hint="Whoever has it can read what is due; give it to nobody."
          className="font-mono text-sm"
        />
      )}
      <div className="flex flex-wrap gap-3">
        {address && <CopyButton text={address} />}
        <Button weight={address ? 'quiet' : 'main'} disabled={busy} onClick={() => void renew()}>
          {address ? 'Make a new address, end the old' : 'Get an address'}
        </Button>
      </div>
    </div>
  );
}
