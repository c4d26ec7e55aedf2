import { assess } from '../assess';
import { isLithium } from '../chemistry';
import type { Instant } from '../measure';
import { fold, putsIn } from '../record';
import type { MemoryPayload, OwnMemory, PackHistory, PackRecord, RecordBody } from '../record';
import type { HouseRules } from '../rules';

/** A figure that a slip of the finger would explain better than the pack: asked about once where it is typed, then believed. */
export type OddFigure =
  /** More charge came out of the pack than it can hold, or than was in it. */
  | {
      readonly code: 'out-of-too-little';
      readonly field: string;
      readonly mah: number;
      readonly mostMah: number;
    }
  /** More charge went in than the pack has room for. */
  | {
      readonly code: 'into-too-little';
      readonly field: string;
      readonly mah: number;
      readonly mostMah: number;
    }
  /** A counter of the pack's own shows less than before. */
  | { readonly code: 'count-fell'; readonly field: string; readonly was: number; readonly now: number }
  /** The memory that was read calls itself by another number than this pack's did. */
  | { readonly code: 'other-number'; readonly field: string; readonly was: string };

/** So much more than can be is beyond any counter's error. */
const BEYOND = 1.2;
/** Below this share of the capacity the counters' own error is larger than the difference. */
const LEAST = 0.1;

/**
 * What is odd about the figures of a charge or flight as typed: fifteen ampere-hours out of four, charge out of an empty pack.
 * Nothing is refused: what happened is evidence, however unlikely.
 * @param records the pack's records so far
 */
export function oddFigures(
  history: PackHistory,
  records: readonly PackRecord[],
  body: RecordBody,
  rules: HouseRules,
  at: Instant,
): readonly OddFigure[] {
  const { pack } = history;
  if (body.kind === 'memory') return oddMemory(history, body.payload, at);
  if (!isLithium(pack.chemistry)) return [];
  const { contents, capacityMah } = assess(
    fold(
      pack,
      records.filter((one) => one.at <= at),
    ),
    rules,
    at,
  );
  const out = (field: string, mah: number | null): OddFigure[] => {
    const held = contents ? (contents.lowest.highPercent / 100) * capacityMah : pack.capacityMah;
    return mah !== null && mah > held * BEYOND && mah - held > LEAST * pack.capacityMah
      ? [{ code: 'out-of-too-little', field, mah, mostMah: held }]
      : [];
  };
  if (body.kind === 'flight') return out('payload.usedMah', body.payload.usedMah);
  if (body.kind !== 'charge') return [];
  const { movedMah, startCellsMv } = body.payload;
  const field = 'payload.movedMah';
  if (body.payload.mode === 'discharge') return out(field, movedMah);
  // The cells as read before this very charge say it better than what was known before.
  if (!putsIn(body.payload) || movedMah === null || startCellsMv) return [];
  const room = contents ? ((100 - contents.lowest.lowPercent) / 100) * pack.capacityMah : pack.capacityMah;
  return movedMah > room * BEYOND && movedMah - room > LEAST * pack.capacityMah
    ? [{ code: 'into-too-little', field, mah: movedMah, mostMah: room }]
    : [];
}

const COUNTERS = [
  'cycles',
  'overCharges',
  'overDischarges',
  'overTemperatures',
] as const satisfies readonly (keyof OwnMemory)[];

/** A memory that counts less than it did, or has another number, is another pack's more often than not. */
function oddMemory({ memories }: PackHistory, { did, memory }: MemoryPayload, at: Instant): OddFigure[] {
  if (did !== 'read' || memory === null) return [];
  const before = memories
    .filter((one) => one.did === 'read' && one.at <= at)
    .flatMap((one) => one.memory ?? []);
  const number = before.findLast((one) => one.number !== null)?.number ?? null;
  const odd: OddFigure[] =
    number !== null && memory.number !== null && memory.number !== number
      ? [{ code: 'other-number', field: 'payload.memory.number', was: number }]
      : [];
  for (const counter of COUNTERS) {
    const was = before.findLast((one) => one[counter] !== null)?.[counter] ?? null;
    const now = memory[counter];
    if (was !== null && now !== null && now < was)
      odd.push({ code: 'count-fell', field: `payload.memory.${counter}`, was, now });
  }
  return odd;
}
