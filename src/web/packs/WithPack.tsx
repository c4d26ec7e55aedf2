import type { ReactNode } from 'react';
import { useParams } from 'react-router';
import type { PackDetails, PackTypeAnswer, RegisterAnswer } from '../../contract';
import type { PackId } from '../../core/measure';
import { Failure } from '../app/Failure';
import { usePack, useRegister } from '../app/queries';
import { Loading } from '../kit/Message';

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
  if (pack.isError) return <Failure error={pack.error} retry={() => void pack.refetch()} />;
  if (register.isError) return <Failure error={register.error} retry={() => void register.refetch()} />;
  if (pack.isPending || register.isPending) return <Loading what="the pack" />;
  const type = register.data.types.find((one) => one.id === pack.data.typeId);
  if (!type) return <Loading what="its type" />;
  return children({ pack: pack.data, type, register: register.data });
}
