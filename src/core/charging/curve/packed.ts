import type { CurvePoint } from './point';

const VERSION = 1;
const NO_CELSIUS = -1_000;

/**
 * A curve as bytes: column by column, each figure as the difference from the one before it, small differences in one byte. Seconds are
 * kept whole, volts to the millivolt, current to 10 mA, charge to the mAh, temperature to the tenth.
 */
export function packedCurve(points: readonly CurvePoint[]): Uint8Array {
  const cells = points[0]?.mv.length ?? 0;
  const bytes: number[] = [VERSION, cells];
  put(bytes, points.length);
  for (const column of columnsOf(points, cells)) {
    let before = 0;
    for (const value of column) {
      put(bytes, zigzag(value - before));
      before = value;
    }
  }
  return Uint8Array.from(bytes);
}

/**
 * The curve these bytes hold.
 * @throws where they are no curve; the database holds nothing else
 */
export function unpackedCurve(bytes: Uint8Array): CurvePoint[] {
  if (bytes[0] !== VERSION) throw new Error('These bytes are no curve that can be read here.');
  const cells = bytes[1]!;
  let at = 2;
  const next = (): number => {
    let value = 0;
    let factor = 1;
    for (;;) {
      const byte = bytes[at];
      if (byte === undefined) throw new Error('These bytes end before the curve does.');
      at += 1;
      value += (byte & 0x7f) * factor;
      if (byte < 0x80) return value;
      factor *= 0x80;
    }
  };
  const length = next();
  const columns = Array.from({ length: cells + 4 }, () => {
    let before = 0;
    return Array.from({ length }, () => (before += unzigzag(next())));
  });
  const [seconds, amps, moved, celsius, ...mv] = columns as [number[], number[], number[], number[]];
  return Array.from({ length }, (_, i) => ({
    seconds: seconds[i]!,
    mv: mv.map((column) => (column as number[])[i]!),
    amps: amps[i]! / 100,
    movedMah: moved[i]!,
    celsius: celsius[i] === NO_CELSIUS ? null : celsius[i]! / 10,
  }));
}

function columnsOf(points: readonly CurvePoint[], cells: number): number[][] {
  return [
    points.map(({ seconds }) => Math.round(seconds)),
    points.map(({ amps }) => Math.round(amps * 100)),
    points.map(({ movedMah }) => Math.round(movedMah)),
    points.map(({ celsius }) => (celsius === null ? NO_CELSIUS : Math.round(celsius * 10))),
    ...Array.from({ length: cells }, (_, i) => points.map(({ mv }) => Math.round(mv[i]!))),
  ];
}

function zigzag(value: number): number {
  return value < 0 ? -2 * value - 1 : 2 * value;
}

function unzigzag(value: number): number {
  return value % 2 === 1 ? -(value + 1) / 2 : value / 2;
}

function put(bytes: number[], value: number): void {
  let rest = value;
  while (rest >= 0x80) {
    bytes.push((rest % 0x80) + 0x80);
    rest = Math.floor(rest / 0x80);
  }
  bytes.push(rest);
}
