/** A tag's stem and number: "HX-" and 13 in "HX-13". */
const NUMBERED = /^(.*?)(\d+)$/;

/**
 * Tags in a series, counted on from the first: as many figures as it has.
 * @returns null when the first tag ends in no number
 * @example tagSeries('HX-09', 3) // => ["HX-09", "HX-10", "HX-11"]
 * @example tagSeries('spare', 2) // => null
 */
export function tagSeries(first: string, count: number): readonly string[] | null {
  const match = NUMBERED.exec(first.trim());
  if (!match) return null;
  const [, stem, digits] = match as unknown as [string, string, string];
  return Array.from(
    { length: count },
    (_, i) => `${stem}${String(Number(digits) + i).padStart(digits.length, '0')}`,
  );
}

/**
 * The tag after the highest of a series; null when the tags carry no numbers.
 * @example nextTag(['HX-02', 'HX-11']) // => "HX-12"
 */
export function nextTag(tags: readonly string[]): string | null {
  const numbered = tags.flatMap((tag) => {
    const match = NUMBERED.exec(tag);
    return match ? [{ tag, number: Number(match[2]) }] : [];
  });
  const last = numbered.sort((a, b) => a.number - b.number).at(-1);
  return last ? (tagSeries(last.tag, 2)?.[1] ?? null) : null;
}
