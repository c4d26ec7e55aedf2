import { useEffect } from 'react';
import { Button } from '../kit/Button';
import { useEpoch } from './epoch';
import { handInAgain } from './outbox';

/** Which register this device knew last. */
const KNOWN = 'malle.epoch';

/**
 * Says that the register was brought back from a backup since this device last knew it, until that was seen. What was handed in from here lately is handed in
 * again; what the register still has arrives once.
 */
export function RestoredLine() {
  const { heard, again } = useEpoch();
  useEffect(() => {
    const known = localStorage.getItem(KNOWN);
    if (heard === null || heard === known) return;
    localStorage.setItem(KNOWN, heard);
    // It stays while somebody signs in anew: the register that was brought back knows no sessions.
    if (known !== null) useEpoch.setState({ again: handInAgain() });
  }, [heard]);
  if (again === null) return null;
  return (
    <p
      role="status"
      className="mx-auto flex max-w-350 flex-wrap items-center gap-x-3 bg-wash-amber px-3 py-1.5 text-sm md:px-6 print:hidden"
    >
      <span>
        <b>The register was brought back from a backup.</b>{' '}
        {again === 0
          ? 'Look whether what you wrote lately is there.'
          : 'What was handed in from this device lately is handed in again. Look whether the rest is there.'}
      </span>
      <Button weight="quiet" onClick={() => useEpoch.setState({ again: null })}>
        Seen
      </Button>
    </p>
  );
}
