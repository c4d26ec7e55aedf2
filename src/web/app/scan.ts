import type { PackRow } from '../../contract';
import { tagKey } from '../../core/pack';

/** What a person may type into the scan field besides a tag. */
export const COMMANDS = [
  { verb: 'today', does: 'What needs hands now' },
  { verb: 'packs', does: 'The register of packs' },
  { verb: 'stowage', does: 'The packs as they lie' },
  { verb: 'rounds', does: 'Put-away, season start, inspections' },
  { verb: 'incident', does: 'Something went wrong: the card, then the report' },
  { verb: 'incidents', does: 'What went wrong, and what follows' },
  { verb: 'holds', does: 'Packs out of use, and what would release them' },
  { verb: 'end of life', does: 'Decisions, discharge, recycling' },
  { verb: 'reports', does: 'Compliance, incidents, holds, retirements, recycling' },
  { verb: 'receive', does: 'Take a new pack into the register' },
  { verb: 'delivery', does: 'Receive several packs of a type at once' },
  { verb: 'storage', does: 'How the register has been stored, by month and hand' },
  { verb: 'bench', does: 'Bench sums: currents, times, timers' },
  { verb: 'rules', does: 'The house rules in force' },
  { verb: 'settings', does: 'Types, places, meters, people' },
  { verb: 'paper', does: 'Light theme' },
  { verb: 'shed', does: 'Dark theme' },
  { verb: 'keys', does: 'All keys on one sheet' },
  { verb: 'sign out', does: 'Leave this browser' },
] as const;
export type Verb = (typeof COMMANDS)[number]['verb'];

export type Suggestion =
  | { readonly kind: 'pack'; readonly row: PackRow; readonly volts: string }
  | { readonly kind: 'command'; readonly verb: Verb; readonly does: string };

const MOST = 8;

/**
 * What the typed text may mean, the likeliest first: an exact tag, tags that begin so, commands, tags that contain it.
 * Text after a whole tag is taken as volts: `HX-07 384 383 385`.
 */
export function suggestions(text: string, rows: readonly PackRow[]): readonly Suggestion[] {
  const typed = tagScanned(text.trim());
  const key = tagKey(typed);
  if (key === '') return [];
  const withVolts = tagAndVolts(typed, rows);
  if (withVolts) return [{ kind: 'pack', ...withVolts }];
  const keyed = rows.map((row) => ({ row, key: tagKey(row.tag) }));
  const packs = (matches: (candidate: string) => boolean): Suggestion[] =>
    keyed.filter((candidate) => matches(candidate.key)).map(({ row }) => ({ kind: 'pack', row, volts: '' }));
  return [
    ...packs((candidate) => candidate === key),
    ...packs((candidate) => candidate !== key && candidate.startsWith(key)),
    ...COMMANDS.filter(({ verb }) => verb.startsWith(typed.toLowerCase())).map((command) => ({
      kind: 'command' as const,
      ...command,
    })),
    ...packs((candidate) => !candidate.startsWith(key) && candidate.includes(key)),
  ].slice(0, MOST);
}

function tagAndVolts(typed: string, rows: readonly PackRow[]): { row: PackRow; volts: string } | null {
  for (let space = typed.indexOf(' '); space !== -1; space = typed.indexOf(' ', space + 1)) {
    const volts = typed.slice(space + 1).trim();
    if (!/^\d[\d.,/ ]*$/.test(volts)) continue;
    const row = packOfTag(typed.slice(0, space), rows);
    if (row) return { row, volts };
  }
  return null;
}

/**
 * The tag a scan means: a label's code holds the address of its pack, a plain code the tag itself.
 * @example tagScanned('http://127.0.0.1:4180/tag/HX-07') // => "HX-07"
 * @example tagScanned('HX-07') // => "HX-07"
 */
export function tagScanned(scanned: string): string {
  const [, tag] = /^https?:\/\/[^/]+\/tag\/([^/?#]+)$/i.exec(scanned.trim()) ?? [];
  if (tag === undefined) return scanned;
  try {
    return decodeURIComponent(tag);
  } catch {
    return tag;
  }
}

/** The pack that carries this tag, however it is written. */
export function packOfTag(tag: string, rows: readonly PackRow[]): PackRow | null {
  const key = tagKey(tag);
  return key === '' ? null : (rows.find((row) => tagKey(row.tag) === key) ?? null);
}
