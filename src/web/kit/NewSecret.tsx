import type { ReactNode } from 'react';
import { CopyButton } from './CopyButton';
import { TextField } from './fields';

interface Props {
  readonly of: string;
  readonly what?: 'key' | 'link';
  readonly secret: string;
  readonly children: ReactNode;
}

/** A key or a link is shown once; whoever leaves without it makes another. Below it stands how it is used. */
export function NewSecret({ of, what = 'key', secret, children }: Props) {
  return (
    <section aria-label={`The new ${what}`} className="mb-6 border-2 border-ink bg-sheet p-4">
      <h2>
        The {what} of {of}
      </h2>
      <p className="font-bold text-amber">It is shown this once. Copy it now.</p>
      <TextField
        label={what === 'key' ? 'Key' : 'Link'}
        readOnly
        value={secret}
        onFocus={({ target }) => target.select()}
        className="my-2 font-mono text-sm"
      />
      <p className="mb-3">
        <CopyButton text={secret} />
      </p>
      {children}
    </section>
  );
}
