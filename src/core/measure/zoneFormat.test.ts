import { formatByZone } from '.';

const NOON = Date.UTC(2026, 6, 1, 12);

it('makes one formatter a zone, and tells the hour there', () => {
  const hours = formatByZone('en-GB', { hour: '2-digit', minute: '2-digit' });
  expect(hours('Europe/Berlin').format(NOON)).toBe('14:00');
  expect(hours('UTC').format(NOON)).toBe('12:00');
  expect(hours('Europe/Berlin')).toBe(hours('Europe/Berlin'));
  expect(() => hours('Nowhere/Atall')).toThrow(RangeError);
});

it('keeps few, however many ways somebody spells a zone', () => {
  const days = formatByZone('sv-SE', { dateStyle: 'short' });
  const zone = 'europe/berlin';
  const first = days(zone);
  for (let i = 0; i < zone.length; i += 1)
    for (const j of [0, 1, 2])
      days([...zone].map((letter, at) => (at === i || at === j ? letter.toUpperCase() : letter)).join(''));
  expect(days(zone)).not.toBe(first);
  expect(days(zone).format(NOON)).toBe('2026-07-01');
});
