import { MINUTE_MS } from '../measure';
import { EVEN_KEEL } from '../testing/histories';
import { watchOf } from './watch';

/** A charge of an hour, begun at nought and last seen after so many minutes. */
const at = (minute: number, { seen = null as number | null, everyMinutes = 20 } = {}) =>
  watchOf(
    { start: 0, end: 60 * MINUTE_MS, seenAt: seen === null ? null : seen * MINUTE_MS },
    minute * MINUTE_MS,
    { charge: { ...EVEN_KEEL.charge, stillHereMinutes: everyMinutes } },
  );

it.each([
  ['just begun', at(5), 'well'],
  ['when the question is due', at(20), 'ask'],
  ['ten minutes after it was due, to the minute', at(30), 'ask'],
  ['after that', at(31), 'unwatched'],
  ['somebody has answered', at(45, { seen: 40 }), 'well'],
  ['a house that asks every five minutes', at(6, { everyMinutes: 5 }), 'ask'],
  ['at its end', at(60, { seen: 55 }), 'well'],
  ['after its end', at(61, { seen: 55 }), 'ends'],
  ['unwatched is graver than over', at(100, { seen: 55 }), 'unwatched'],
  ['twice as long as expected, to the minute', at(120, { seen: 119 }), 'ends'],
  ['longer than that', at(121, { seen: 120 }), 'stop-now'],
  ['stop-now is graver than unwatched', at(200), 'stop-now'],
])('%s', (_, watch, expected) => expect(watch).toBe(expected));

it('a charge of a minute is not called off before an estimate may be wrong', () => {
  const short = { start: 0, end: MINUTE_MS, seenAt: null };
  expect(watchOf(short, 5 * MINUTE_MS, EVEN_KEEL)).toBe('ends');
  expect(watchOf(short, 7 * MINUTE_MS, EVEN_KEEL)).toBe('stop-now');
});
