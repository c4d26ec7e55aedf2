import type { ReactNode } from 'react';
import { useParams } from 'react-router';
import type { PackDetails, PackTypeAnswer, RegisterAnswer } from '../../../contract';
import type { PackId } from '../../../core/measure';
import { noAnswer } from '../../app/api';
import { registerTime } from '../../app/clock';
import { Failure } from '../../app/Failure';
import { useLive } from '../../app/live';
import { usePack, useRegister } from '../../app/queries';
import { usePackRows } from '../../domain/waitingRows';
import { Loading } from '../../kit/Message';
import { OfflineCopyNotice } from './OfflineCopyNotice';

/** A pack with everything a page about it needs to judge it. */
export interface PackInHand {
  readonly pack: PackDetails;
  readonly type: PackTypeAnswer;
  readonly register: RegisterAnswer;
}

/** Fetches the pack of this address, and shows it once all of it is here. */
export function WithPack({ children }: { children: (inHand: PackInHand) => ReactNode }) {
  const id = useParams().id as PackId;
  const pack = usePack(id);
  const register = useRegister();
  const rows = usePackRows({ isPatient: true });
  const lost = useLive(({ state }) => state === 'lost');
  const retry = () => void pack.refetch();
  if (!pack.data && (lost || noAnswer(pack.failureReason))) {
    const row = rows.data?.find((one) => one.id === id);
    const rowType = row && register.data?.types.find((one) => one.id === row.typeId);
    const toldAt = registerTime(rows.dataUpdatedAt);
    if (rowType) return <OfflineCopyNotice row={row} type={rowType} toldAt={toldAt} retry={retry} />;
  }
  if (pack.isLoadingError) return <Failure error={pack.error} retry={retry} />;
  if (register.isLoadingError)
    return <Failure error={register.error} retry={() => void register.refetch()} />;
  if (pack.isPending || register.isPending) return <Loading what="the pack" />;
  const type = register.data.types.find((one) => one.id === pack.data.typeId);
  if (!type) return <Loading what="its type" />;
  return children({ pack: pack.data, type, register: register.data });
}
