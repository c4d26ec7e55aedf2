import type { ReactNode } from 'react';

/** A whole page's worth of nothing: what is missing, and how to begin. */
export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="mx-auto max-w-lg py-14 text-center">
      <h1 className="text-lg">{title}</h1>
      <div className="mt-2 text-faint">{children}</div>
    </div>
  );
}

export function Loading({ what }: { what: string }) {
  return (
    <p role="status" data-loading className="py-10 text-center text-faint">
      Fetching {what} …
    </p>
  );
}

/** Something went wrong: what, and what to do. */
export function Notice({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div role="alert" className="my-4 border-l-4 border-red bg-wash-red px-4 py-2">
      <p className="font-bold">{title}</p>
      {children}
    </div>
  );
}
