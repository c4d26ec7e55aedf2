/** Zones of one style that are kept: the readers' own. A zone can be spelt in more ways than anybody lives in. */
const MOST_ZONES = 20;

/**
 * The formatter of a style for any zone, made once. Making one takes as long as hundreds of uses, and memory that the engine’s own
 * collector does not count.
 * @throws RangeError for a zone that does not exist
 */
export function formatByZone(
  locale: string,
  style: Intl.DateTimeFormatOptions,
): (zone: string) => Intl.DateTimeFormat {
  const made = new Map<string, Intl.DateTimeFormat>();
  return (zone) => {
    const known = made.get(zone);
    if (known) return known;
    const format = new Intl.DateTimeFormat(locale, { ...style, timeZone: zone });
    if (made.size === MOST_ZONES) made.clear();
    made.set(zone, format);
    return format;
  };
}
