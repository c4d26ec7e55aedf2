import { useCallback } from 'react';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { usePerson } from '../domain/Person';

/** How one person has laid out one table: which columns, in which order, how wide, sorted by what. */
export interface TableLayout {
  /** Null while the usual ones show. */
  readonly columns: readonly string[] | null;
  /** In pixels, by column; one that is not named has its usual width. */
  readonly widths: Readonly<Record<string, number>>;
  /** `due`, `-due` from the last to the first; null for the usual order. */
  readonly sort: string | null;
}

const AS_AT_FIRST: TableLayout = { columns: null, widths: {}, sort: null };

/** On this device, for each person who signs in on it. */
export const useTableLayouts = create<{ readonly layouts: Readonly<Record<string, TableLayout>> }>()(
  persist(() => ({ layouts: {} }), { name: 'malle.tables' }),
);

/** The layout of a table for whoever is signed in, and what changes a part of it. */
export function useTableLayout(table: string): [TableLayout, (part: Partial<TableLayout>) => void] {
  const key = `${usePerson().id}.${table}`;
  const layout = useTableLayouts(({ layouts }) => layouts[key]) ?? AS_AT_FIRST;
  const change = useCallback(
    (part: Partial<TableLayout>) =>
      useTableLayouts.setState(({ layouts }) => ({
        layouts: { ...layouts, [key]: { ...(layouts[key] ?? AS_AT_FIRST), ...part } },
      })),
    [key],
  );
  return [layout, change];
}
