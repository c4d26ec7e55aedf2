import type { PackRow, RegisterAnswer } from '../../contract';
import { tagKey } from '../../core/pack';

/** What a person may type into the scan field besides a tag. */
export const COMMANDS = [
  { verb: 'today', does: 'What needs hands now' },
  { verb: 'packs', does: 'The register of packs' },
  { verb: 'stowage', does: 'The packs as they lie' },
  { verb: 'take out', does: 'Take packs out to fly, one scan after the other' },
  { verb: 'return', does: 'Bring packs back, with their flights' },
  { verb: 'flying', does: 'Who has what, flying days, what fits, landings' },
  { verb: 'charging', does: 'Tonight’s plan on the chargers' },
  { verb: 'rounds', does: 'Put-away, season start, inspections' },
  { verb: 'incident', does: 'Something went wrong: the first-aid card, then the report' },
  { verb: 'incidents', does: 'What went wrong, and what follows' },
  { verb: 'holds', does: 'Packs out of use, and what would release them' },
  { verb: 'disposal', does: 'Decisions, discharge, recycling' },
  { verb: 'reports', does: 'Compliance, incidents, holds, retirements, recycling' },
  { verb: 'receive', does: 'Take a new pack into the register' },
  { verb: 'delivery', does: 'Receive several packs of a type at once' },
  { verb: 'storage', does: 'How the register has been stored, by month and hand' },
  { verb: 'bench', does: 'Calculators: currents, times, timers' },
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
  /** All packs of a type, in a place, or in somebody's hands. */
  | { readonly kind: 'packs'; readonly name: string; readonly what: string; readonly count: number }
  | { readonly kind: 'command'; readonly verb: Verb; readonly does: string };

const MOST = 8;

/** What besides tags leads to packs: the names the register gives types, places and people. */
export type Named = Pick<RegisterAnswer, 'types' | 'places' | 'people'>;

/**
 * What the typed text may mean, the likeliest first: an exact tag, with or without its leading noughts, tags that begin so, commands, tags
 * that contain it, then types, places and people so named. Text after a whole tag is taken as volts: `HX-07 384 383 385`.
 */
export function suggestions(
  text: string,
  rows: readonly PackRow[],
  named: Named | null = null,
): readonly Suggestion[] {
  const typed = tagScanned(text.trim());
  const key = tagKey(typed);
  if (key === '') return [];
  const withVolts = tagAndVolts(typed, rows);
  if (withVolts) return [{ kind: 'pack', ...withVolts }];
  const keyed = rows.map((row) => ({ row, rank: rankOf(tagKey(row.tag), key) }));
  const packs = (rank: number): Suggestion[] =>
    keyed.filter((candidate) => candidate.rank === rank).map(({ row }) => ({ kind: 'pack', row, volts: '' }));
  return [
    ...packs(0),
    ...packs(1),
    ...packs(2),
    ...COMMANDS.filter(({ verb }) => verb.startsWith(typed.toLowerCase())).map((command) => ({
      kind: 'command' as const,
      ...command,
    })),
    ...packs(3),
    ...(named ? groups(typed, rows, named) : []),
  ].slice(0, MOST);
}

/** How well a tag answers what was typed: it is the tag; it is but for noughts; it begins so; it holds it; 9 not at all. */
function rankOf(tag: string, key: string): number {
  if (tag === key) return 0;
  if (withoutNoughts(tag) === withoutNoughts(key)) return 1;
  if (tag.startsWith(key)) return 2;
  return tag.includes(key) ? 3 : 9;
}

/** HX07 as a hand in a hurry types it: HX7. */
function withoutNoughts(key: string): string {
  return key.replace(/(^|\D)0+(?=\d)/g, '$1');
}

/** Types, places and people of whose names a word begins so, with how many packs they have. */
function groups(typed: string, rows: readonly PackRow[], { types, places, people }: Named): Suggestion[] {
  const text = typed.toLowerCase();
  const answers = (name: string) =>
    name.toLowerCase().startsWith(text) || name.toLowerCase().includes(` ${text}`);
  const group = (
    what: string,
    things: Named['people'] | Named['places'] | Named['types'],
    of: (row: PackRow) => string | null,
  ) =>
    things
      .filter(({ name }) => answers(name))
      .map(({ id, name }) => ({
        kind: 'packs' as const,
        name,
        what,
        count: rows.filter((row) => of(row) === id).length,
      }))
      .filter(({ count }) => count > 0);
  return [
    ...group('of this type', types, ({ typeId }) => typeId),
    ...group('here', places, ({ placeId, holderId }) => (holderId === null ? placeId : null)),
    ...group('in these hands', people, ({ holderId }) => holderId),
  ];
}

/**
 * Whether Enter may open the first suggestion at once: nothing else answers as well. Of four packs that end in 7 none is opened unseen.
 */
export function isSure(found: readonly Suggestion[], text: string): boolean {
  const [first, second] = found;
  if (first?.kind !== 'pack') return first !== undefined;
  const key = tagKey(tagScanned(text.trim()));
  if (first.volts !== '' || second?.kind !== 'pack') return true;
  return rankOf(tagKey(first.row.tag), key) < Math.min(2, rankOf(tagKey(second.row.tag), key));
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
