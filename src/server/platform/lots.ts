/**
 * A list in parts of so many, the last with what is left.
 * @example inLots([1, 2, 3, 4, 5], 2) // => [[1, 2], [3, 4], [5]]
 */
export function inLots<One>(list: readonly One[], size: number): (readonly One[])[] {
  return Array.from({ length: Math.ceil(list.length / size) }, (_, i) =>
    list.slice(i * size, (i + 1) * size),
  );
}
