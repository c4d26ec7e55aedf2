import { useEffect } from 'react';
import { Button } from '../kit/Button';
import { useEpoch } from './epoch';
import { handInAgain } from './outbox';

/** Which register this device knew last. */
const KNOWN = 'malle.epoch';
/** So many things were handed in again; there until somebody has seen that, over reloads and over signing in anew. */
const RESTORED = 'malle.restored';

/**
 * Says that the register was brought back from a backup since this device last knew it, until that was seen. What was handed in from here lately is handed in
 * again; what the register still has arrives once.
 */
export function RestoredLine() {
  const { heard, again } = useEpoch();
  useEffect(() => {
    const known = localStorage.getItem(KNOWN);
    if (heard !== null && heard !== known) {
      localStorage.setItem(KNOWN, heard);
      if (known !== null) localStorage.setItem(RESTORED, String(handInAgain()));
    }
    useEpoch.setState({ again: localStorage.getItem(RESTORED) });
  }, [heard]);
  const seen = () => {
    localStorage.removeItem(RESTORED);
    useEpoch.setState({ again: null });
  };
  if (again === null) return null;
  return (
    <p
      role="status"
      className="mx-auto flex max-w-350 flex-wrap items-center gap-x-3 bg-wash-amber px-3 py-1.5 text-sm md:px-6 print:hidden"
    >
      <span>
        <b>The register was brought back from a backup.</b>{' '}
        {again === '0'
          ? 'Look whether what you wrote lately is there.'
          : 'What was handed in from this device lately is handed in again. Look whether the rest is there.'}
      </span>
      <Button weight="quiet" onClick={seen}>
        Seen
      </Button>
    </p>
  );
}
