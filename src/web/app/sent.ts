import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { DAY_MS } from '../../core/measure';
import type { PersonId } from '../../core/measure';
import type { HandedIn } from './outbox';

interface Sent {
  readonly item: HandedIn;
  readonly at: number;
}

/** A backup is a day old, not a month. */
const KEPT_MS = 30 * DAY_MS;
const MOST_KEPT = 300;

/**
 * What this device handed in lately and the ledger acknowledged. Kept for one case: the register is brought back from a backup that does not have it. Whoever
 * signs out takes it along.
 */
export const useSent = create<{ readonly items: readonly Sent[] }>()(
  persist((): { readonly items: readonly Sent[] } => ({ items: [] }), { name: 'malle.sent' }),
);

/** Keeps what was acknowledged, the newest of it. */
export function keepSent(item: HandedIn, at: number): void {
  useSent.setState(({ items }) => ({
    items: [...items.filter((one) => at - one.at < KEPT_MS), { item, at }].slice(-MOST_KEPT),
  }));
}

/** Everything that is kept, in the order it was handed in; nothing is kept of it any more. */
export function takeSent(): readonly HandedIn[] {
  const { items } = useSent.getState();
  useSent.setState({ items: [] });
  return items.map(({ item }) => item);
}

export function forgetSent(personId: PersonId | null): void {
  useSent.setState(({ items }) => ({ items: items.filter(({ item }) => item.by !== personId) }));
}
