import { useState } from 'react';
import { Button } from './Button';

/** Copies a text, and says beside itself whether that worked: pages over plain HTTP, for one, may not. */
export function CopyButton({ text }: { text: string }) {
  const [said, setSaid] = useState('');
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(text);
      setSaid('Copied.');
    } catch {
      setSaid('This browser does not let pages copy; select it instead.');
    }
  };
  return (
    <span className="inline-flex flex-wrap items-center gap-x-3">
      <Button onClick={() => void copy()}>Copy it</Button>
      <span role="status" className="text-sm">
        {said}
      </span>
    </span>
  );
}
