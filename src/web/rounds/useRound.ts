import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { PackRow, PackTypeAnswer, RegisterAnswer, RoundDetails, RoundRow } from '../../contract';
import type { PackId, RoundId } from '../../core/measure';
import { useOwnItems } from '../app/outbox';
import type { Outgoing } from '../app/outbox';
import { QUERIES } from '../app/queries';

export function useRounds() {
  return useQuery(QUERIES.rounds);
}

export function useRound(id: RoundId) {
  return useQuery(QUERIES.round(id));
}

/** A row as it stands, with what still waits on this device counted as done. */
export interface RowView extends RoundRow {
  readonly pack: PackRow | null;
  readonly type: PackTypeAnswer | null;
  /** What of it is on its way to the register, or came back. */
  readonly outgoing: Outgoing | null;
}

const NONE: readonly PackId[] = [];

/** The rows of a round with their packs, in the order they are worked through. The same rows while nothing changed. */
export function useRowViews(
  round: RoundDetails,
  packs: readonly PackRow[],
  register: RegisterAnswer,
  scannedIn: readonly PackId[] = NONE,
): readonly RowView[] {
  const items = useOwnItems();
  return useMemo(
    () => rowViews(round, packs, register, scannedIn, items),
    [round, packs, register, scannedIn, items],
  );
}

function rowViews(
  round: RoundDetails,
  packs: readonly PackRow[],
  register: RegisterAnswer,
  scannedIn: readonly PackId[],
  outbox: readonly Outgoing[],
): readonly RowView[] {
  const items = outbox.filter((item) => item.round?.roundId === round.id);
  const byId = new Map(packs.map((pack) => [pack.id, pack]));
  const types = new Map(register.types.map((type) => [type.id, type]));
  const known = new Set(round.rows.map(({ packId }) => packId));
  const added = [...new Set([...scannedIn, ...items.flatMap(({ packId }) => packId ?? [])])].filter(
    (packId) => !known.has(packId),
  );
  const open = added.map((packId) => ({ packId, outcome: null, by: null, at: null, reason: null }));
  return [...round.rows, ...open].map((row) => {
    const outgoing = items.findLast(({ packId }) => packId === row.packId) ?? null;
    const pack = byId.get(row.packId) ?? null;
    const type = (pack && types.get(pack.typeId)) ?? null;
    const waiting = outgoing?.state === 'waiting' && row.outcome === null ? outgoing : null;
    const { outcome = null, at = null, reason = null } = waiting?.round ?? {};
    return { ...row, ...(waiting && { outcome, at, reason, by: waiting.by }), pack, type, outgoing };
  });
}
