import { useAttempt } from '../app/useAttempt';
import { Button } from '../kit/Button';

/** Something that lets somebody in, and the press that ends it; no press where it cannot be ended from here. */
export function AccessLine({
  name,
  mark,
  said,
  press,
  onEnd,
}: {
  name: string;
  mark?: string | null;
  said: string;
  press: string | null;
  onEnd: () => Promise<void>;
}) {
  const { problem, attempt } = useAttempt();
  return (
    <li className="ruled flex min-h-14 flex-wrap items-center justify-between gap-x-4 py-1.5">
      <span>
        <b>{name}</b>
        {mark && <span className="ml-2 text-sm font-bold text-leaf">{mark}</span>}
        <span className="block text-sm text-faint">{said}</span>
        {problem && <span className="block text-sm font-bold text-red">{problem}</span>}
      </span>
      {press !== null && (
        <Button weight="quiet" onClick={() => void attempt(onEnd)}>
          {press}
        </Button>
      )}
    </li>
  );
}
