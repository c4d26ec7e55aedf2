/**
 * Cell or pack volts as a meter shows them: hundredths, and thousandths only where they say something.
 * @example volts(3840) // => "3.84"
 * @example volts(3845) // => "3.845"
 * @example volts(15200) // => "15.20"
 */
export function volts(mv: number): string {
  return (mv / 1000).toFixed(mv % 10 === 0 ? 2 : 3);
}

/**
 * Ampere-hours for a hand to set or compare: three figures that matter at most.
 * @example ampHours(2.4567) // => "2.46 Ah"
 * @example ampHours(0.3041) // => "0.30 Ah"
 * @example ampHours(12.34) // => "12.3 Ah"
 */
export function ampHours(ah: number): string {
  return `${ah.toFixed(ah >= 10 ? 1 : 2)} Ah`;
}

/**
 * A current, to three figures that matter.
 * @example amps(3.3) // => "3.3 A"
 * @example amps(232.91) // => "233 A"
 * @example amps(0.55) // => "0.55 A"
 * @example amps(16) // => "16 A"
 */
export function amps(a: number): string {
  return `${Number(a.toFixed(a >= 100 ? 0 : a >= 1 ? 1 : 2))} A`;
}

/**
 * A cell's resistance, to the tenth below ten and whole above a hundred.
 * @example ohms(4.234) // => "4.2 mΩ"
 * @example ohms(128.4) // => "128 mΩ"
 */
export function ohms(milliohm: number): string {
  return `${milliohm.toFixed(milliohm >= 100 ? 0 : 1)} mΩ`;
}

/**
 * A capacity as labels print it: ampere-hours from one upward, milliampere-hours below.
 * @example capacity(3300) // => "3.3 Ah"
 * @example capacity(450) // => "450 mAh"
 */
export function capacity(mah: number): string {
  return mah >= 1000 ? `${Number((mah / 1000).toFixed(2))} Ah` : `${mah} mAh`;
}

/**
 * A state of charge with what the meter's error leaves open; a range instead of a figure where that is wide.
 * @example charge({ percent: 54.4, lowPercent: 51.9, highPercent: 56 }) // => "54 % ± 3"
 * @example charge({ percent: 55, lowPercent: 40, highPercent: 65 }) // => "40–65 %"
 */
export function charge(soc: { percent: number; lowPercent: number; highPercent: number }): string {
  const error = Math.ceil(Math.max(soc.percent - soc.lowPercent, soc.highPercent - soc.percent));
  if (error >= WIDE_PERCENT) return `${Math.round(soc.lowPercent)}–${Math.round(soc.highPercent)} %`;
  return error === 0 ? `${Math.round(soc.percent)} %` : `${Math.round(soc.percent)} % ± ${error}`;
}

/** From here on one figure would pretend to know: a tenth of the pack either way. */
const WIDE_PERCENT = 10;

/**
 * How long a job takes: minutes while they can be pictured, then hours.
 * @example durationWords(114.6) // => "115 min"
 * @example durationWords(200) // => "3.5 h"
 * @example durationWords(1568) // => "26 h"
 */
export function durationWords(minutes: number): string {
  if (minutes < 120) return `${Math.round(minutes)} min`;
  const hours = minutes / 60;
  return `${hours < 10 ? Math.round(hours * 2) / 2 : Math.round(hours)} h`;
}

/**
 * @example plural(1, 'cell') // => "1 cell"
 * @example plural(4, 'cell') // => "4 cells"
 */
export function plural(count: number, one: string, many = `${one}s`): string {
  return `${count} ${count === 1 ? one : many}`;
}
