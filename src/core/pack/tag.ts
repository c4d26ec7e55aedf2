/** A tag as a hand may write it on a label: letters and figures, dashes or spaces between, 1 to 24 characters. */
export const TAG_PATTERN = /^[\p{L}\p{N}](?:[\p{L}\p{N} ._/-]{0,22}[\p{L}\p{N}])?$/u;

/**
 * What two writings of one tag have in common: no case, no dashes, no spaces. Two packs may not share a key.
 * @example tagKey('hx-07') // => "HX07"
 * @example tagKey(' HX 07 ') // => "HX07"
 */
export function tagKey(tag: string): string {
  return tag.toUpperCase().replace(/[^\p{L}\p{N}]/gu, '');
}
