import type { ReactNode } from 'react';

/** The page in front of the register. */
export function FrontPage({ children }: { children: ReactNode }) {
  return (
    <main className="mx-auto max-w-2xl px-4 py-[10vh]">
      <div className="mb-8 border-b-2 border-ink pb-4">
        <h1 className="text-4xl tracking-wide">Malle</h1>
        <p className="mt-1 text-lg text-faint">
          Which pack may fly, which must be put to storage and by when, and why.
        </p>
      </div>
      {children}
    </main>
  );
}
