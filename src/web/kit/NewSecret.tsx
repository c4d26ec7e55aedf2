import type { ReactNode } from 'react';
import { TextField } from './fields';

/** A key is shown once; whoever leaves without it makes another. Below it stands how it is used. */
export function NewSecret({ of, secret, children }: { of: string; secret: string; children: ReactNode }) {
  return (
    <section aria-label="The new key" className="mb-6 border-2 border-ink bg-sheet p-4">
      <h2>The key of {of}</h2>
      <p className="font-bold text-amber">It is shown this once. Copy it now.</p>
      <TextField
        label="Key"
        readOnly
        value={secret}
        onFocus={({ target }) => target.select()}
        className="my-2 font-mono text-sm"
      />
      {children}
    </section>
  );
}
