import { Link } from 'react-router';

const VIEWS = [
  { view: 'incidents', path: '/incidents', name: 'Incidents' },
  { view: 'holds', path: '/incidents/holds', name: 'Holds' },
  { view: 'reports', path: '/reports', name: 'Reports' },
] as const;

/** The views of what went wrong; the one on screen is the page's heading. */
export function IncidentTabs({ now }: { now: (typeof VIEWS)[number]['view'] }) {
  return (
    <div className="flex flex-wrap items-baseline gap-x-6">
      <h1>{VIEWS.find(({ view }) => view === now)!.name}</h1>
      <nav aria-label="Views of what went wrong" className="flex gap-4">
        {VIEWS.filter(({ view }) => view !== now).map(({ view, path, name }) => (
          <Link
            key={view}
            to={path}
            className="inline-flex min-h-11 items-center font-bold text-accent underline-offset-3 hover:underline md:min-h-8"
          >
            {name}
          </Link>
        ))}
      </nav>
    </div>
  );
}
