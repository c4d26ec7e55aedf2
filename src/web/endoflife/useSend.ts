import { useState } from 'react';
import type { ConsignmentId } from '../../core/measure';
import { FailedRequest, request } from '../app/api';
import { say } from '../app/notices';
import { KEYS, queryClient } from '../app/queries';

interface Sent {
  readonly send: (path: string, body: object, done: string) => Promise<boolean>;
  readonly busy: boolean;
  readonly problem: (field: string) => string | undefined;
  readonly rest: string | null;
}

/** Sends changes of one consignment and keeps each refusal at its field. */
export function useSend(id: ConsignmentId): Sent {
  const [busy, setBusy] = useState(false);
  const [failed, setFailed] = useState<FailedRequest | null>(null);
  const send = async (path: string, body: object, done: string) => {
    setBusy(true);
    setFailed(null);
    try {
      const fresh = await request('POST', `/consignments/${id}/${path}`, body);
      queryClient.setQueryData(KEYS.consignment(id), fresh);
      await queryClient.invalidateQueries({ queryKey: KEYS.endOfLife });
      say(done);
      return true;
    } catch (error) {
      if (!(error instanceof FailedRequest)) throw error;
      setFailed(error);
      if (error.code === 'changed-meanwhile')
        await queryClient.invalidateQueries({ queryKey: KEYS.endOfLife });
      return false;
    } finally {
      setBusy(false);
    }
  };
  const known = failed?.fields ?? [];
  const shown = ['handedBy', 'receivedBy', 'receiptNumber', 'rulesChecked', 'reason', 'text'];
  const elsewhere = known.filter(({ field }) => !shown.includes(field));
  return {
    send,
    busy,
    problem: (field) => known.find((one) => one.field === field)?.message,
    rest:
      failed === null
        ? null
        : known.length > 0
          ? elsewhere.map(({ message }) => message).join(' ') || null
          : (failed.problem?.detail ??
            (failed.problem === null ? 'No connection. Nothing was changed.' : failed.message)),
  };
}
