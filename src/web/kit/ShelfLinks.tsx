import { Link } from 'react-router';

const VIEWS = [
  { view: 'list', path: '/packs', name: 'Register' },
  { view: 'stowage', path: '/packs/stowage', name: 'Stowage' },
] as const;

/** The same packs as a table, and as they lie. */
export function ShelfLinks({ now }: { now: (typeof VIEWS)[number]['view'] }) {
  return (
    <nav aria-label="Views of the packs" className="flex gap-4">
      {VIEWS.map(({ view, path, name }) => (
        <Link
          key={view}
          to={path}
          aria-current={view === now ? 'page' : undefined}
          className="inline-flex min-h-11 items-center border-b-3 border-transparent text-accent aria-[current=page]:border-accent aria-[current=page]:font-bold md:min-h-8"
        >
          {name}
        </Link>
      ))}
    </nav>
  );
}
