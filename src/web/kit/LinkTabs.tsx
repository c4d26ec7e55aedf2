import clsx from 'clsx';
import type { ReactNode } from 'react';
import { NavLink } from 'react-router';

/** The pages of one section side by side; the one shown is marked by the address. */
export function LinkTabs({
  label,
  tabs,
  ruled = false,
  exact = false,
}: {
  label: string;
  tabs: readonly { path: string; name: ReactNode; note?: string }[];
  /** Whether a line runs below them across the page. */
  ruled?: boolean;
  /** Whether a page below one of them is another page, not a part of it. */
  exact?: boolean;
}) {
  return (
    <nav
      aria-label={label}
      className={clsx('flex flex-wrap gap-x-5 print:hidden', ruled && 'mb-5 border-b border-rule')}
    >
      {tabs.map(({ path, name, note }) => (
        <NavLink
          key={path}
          to={path}
          end={exact}
          className={clsx(
            'inline-flex min-h-11 items-center gap-1.5 border-b-3 border-transparent aria-[current=page]:border-accent aria-[current=page]:font-bold md:min-h-9',
            ruled ? '-mb-px' : 'text-accent',
          )}
        >
          {name} {note && <span className="font-normal text-faint">{note}</span>}
        </NavLink>
      ))}
    </nav>
  );
}
