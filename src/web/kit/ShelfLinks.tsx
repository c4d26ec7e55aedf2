import { LinkTabs } from './LinkTabs';

const VIEWS = [
  { path: '/packs', name: 'Register' },
  { path: '/packs/stowage', name: 'Stowage' },
] as const;

/** The same packs as a table, and as they lie. */
export function ShelfLinks() {
  return <LinkTabs label="Views of the packs" exact tabs={VIEWS} />;
}
