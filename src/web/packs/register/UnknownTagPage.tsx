import { useQuery } from '@tanstack/react-query';
import { Navigate, useParams } from 'react-router';
import { FailedRequest, ask } from '../../app/api';
import { Failure } from '../../app/Failure';
import { tagKey } from '../../../core/pack';
import { useMay } from '../../domain/Person';
import { ButtonLink } from '../../kit/Button';
import { Empty, Loading } from '../../kit/Message';

/** A tag that no pack on this page's list carries: a former tag leads to its pack, an unknown one can be received. */
export default function UnknownTagPage() {
  const { tag = '' } = useParams();
  const mayReceive = useMay('pack.create');
  const found = useQuery({
    queryKey: ['by-tag', tag],
    queryFn: () => ask('GET /packs/by-tag/:tag', { params: { tag } }),
    staleTime: 0,
  });
  if (found.isPending) return <Loading what={`the pack tagged ${tag}`} />;
  if (found.isSuccess) {
    // Every label's code leads here; only a tag the pack no longer carries was replaced.
    const former = tagKey(found.data.tag) !== tagKey(tag);
    return <Navigate to={`/packs/${found.data.id}`} replace state={former ? { calledBy: tag } : null} />;
  }
  if (!(found.error instanceof FailedRequest) || found.error.code !== 'not-found') {
    return <Failure error={found.error} retry={() => void found.refetch()} />;
  }
  return (
    <Empty title={`No pack carries the tag ${tag}.`}>
      <p>Scan again if a character may be wrong.</p>
      {mayReceive && (
        <ButtonLink to="/packs/receive" state={{ tag }} weight="main" className="mt-4">
          Receive {tag} as a new pack
        </ButtonLink>
      )}
    </Empty>
  );
}
