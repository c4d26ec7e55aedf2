import { useState } from 'react';
import { offerSentence } from '../../../core/wording';
import { FailedRequest } from '../../app/api';
import { Button } from '../../kit/Button';
import type { MeterView } from './useMeter';

/** What the meter says about the open field, in one line under it; nothing where no meter speaks for itself. */
export function MeterLine({
  meter: { mine, other, offer, isOther, isSaved, take, read },
  tag,
  isFilled,
}: {
  meter: MeterView;
  tag: string;
  /** Whether what stands in the field is the meter's. */
  isFilled: boolean;
}) {
  const [problem, setProblem] = useState<string | null>(null);
  const takeIt = async () => {
    setProblem(null);
    try {
      await take();
    } catch (error) {
      if (!(error instanceof FailedRequest)) throw error;
      setProblem('No connection: the meter cannot be asked. Type the cells.');
    }
  };
  if (problem)
    return (
      <p role="alert" className="text-sm font-bold text-red">
        {problem}
      </p>
    );
  if (!mine)
    return other ? (
      <p className="flex flex-wrap items-center gap-x-3 text-sm">
        <span className="text-faint">
          {other.name} is connected{other.takenBy ? ' and reads for another page' : ''}.
        </span>
        <Button weight="quiet" onClick={() => void takeIt()}>
          Read with it here
        </Button>
      </p>
    ) : null;
  if (!mine.isOpen)
    return <p className="text-sm font-bold text-amber">{mine.name} is not connected. Type the cells.</p>;
  const why = offerSentence(offer, tag);
  if (why)
    return (
      <p
        role="status"
        className={
          offer.code === 'taken' ? 'text-sm text-faint' : 'bg-wash-amber px-2 py-1 text-sm font-bold'
        }
      >
        {why}
      </p>
    );
  if (isOther)
    return (
      <p role="status" className="flex flex-wrap items-center gap-x-3 bg-wash-amber px-2 py-1 text-sm">
        <b>Something else is on the meter now. Enter saves what stands here.</b>
        <Button weight="quiet" onClick={read}>
          Read it anew
        </Button>
      </p>
    );
  return (
    <p role="status" className="flex flex-wrap items-center gap-x-3 text-sm text-faint">
      <span>
        {offer.code === 'nothing'
          ? `${mine.name}: nothing plugged in.`
          : isFilled
            ? `Read by ${mine.name}. Enter saves.`
            : isSaved
              ? `${mine.name}: this reading of ${tag} is saved.`
              : `${mine.name} reads; what you typed stays.`}
      </span>
      {offer.code !== 'nothing' && !isFilled && (
        <Button weight="quiet" onClick={read}>
          Take its reading
        </Button>
      )}
    </p>
  );
}
