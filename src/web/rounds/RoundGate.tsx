import type { ReactNode } from 'react';
import { useParams } from 'react-router';
import type { PackRow, RegisterAnswer, RoundDetails } from '../../contract';
import type { RoundId } from '../../core/measure';
import { Failure } from '../app/Failure';
import { useRegister } from '../app/queries';
import { usePackRows } from '../domain/waitingRows';
import { Loading } from '../kit/Message';
import { useRound } from './useRound';

/** A round with everything its pages show. */
export interface OpenRound {
  readonly round: RoundDetails;
  readonly packs: readonly PackRow[];
  readonly register: RegisterAnswer;
}

/** Fetches the round named in the address, and says so while it does or when it cannot. */
export function RoundGate({ children }: { children: (open: OpenRound) => ReactNode }) {
  const round = useRound(useParams().id as RoundId);
  const packs = usePackRows();
  const register = useRegister();
  for (const query of [round, packs, register])
    if (query.isLoadingError) return <Failure error={query.error} retry={() => void query.refetch()} />;
  if (!round.data || !packs.data || !register.data) return <Loading what="the round" />;
  return children({ round: round.data, packs: packs.data, register: register.data });
}
