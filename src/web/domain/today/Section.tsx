import type { ReactNode } from 'react';

/** One question of Today with how many answer it. */
export function Section({ title, count, children }: { title: string; count: number; children: ReactNode }) {
  return (
    <section aria-label={title}>
      <h2 className="border-b-2 border-ink pb-1">
        {title} <span className="font-normal text-faint">{count}</span>
      </h2>
      {children}
    </section>
  );
}
