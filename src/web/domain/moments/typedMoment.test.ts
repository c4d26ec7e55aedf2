import fc from 'fast-check';
import { momentWords, typedMoment, weekdayWords } from './typedMoment';
import type { Lean, Wanted } from './typedMoment';

/** Thursday, 26 November 2026, 14:30 in a zone an hour east of Greenwich. */
const ZONE = 'Europe/Amsterdam';
const NOW = Date.UTC(2026, 10, 26, 13, 30);

function read(text: string, wanted: Wanted, lean: Lean, now = NOW, zone = ZONE): string {
  const typed = typedMoment(text, wanted, lean, { now, zone });
  if (typed.outcome === 'moment') return typed.value;
  return typed.outcome === 'refused' ? `! ${typed.why}` : '';
}

test.each([
  ['3.12.', 'ahead', '2026-12-03'],
  ['3.12.', 'past', '2025-12-03'],
  ['3.12', 'ahead', '2026-12-03'],
  ['3/12/25', 'ahead', '2025-12-03'],
  ['03-12-2025', 'past', '2025-12-03'],
  ['2025-12-03', 'ahead', '2025-12-03'],
  ['3 dec', 'past', '2025-12-03'],
  ['3. December 2027', 'past', '2027-12-03'],
  ['3 sept 25', 'past', '2025-09-03'],
  ['Sat 28 Nov 2026', 'past', '2026-11-28'],
  ['today', 'past', '2026-11-26'],
  ['Yesterday', 'ahead', '2026-11-25'],
  ['fri', 'ahead', '2026-11-27'],
  ['friday', 'past', '2026-11-20'],
  ['thu', 'past', '2026-11-26'],
  ['thurs', 'ahead', '2026-11-26'],
  ['in 2 d', 'past', '2026-11-28'],
  ['+2w', 'past', '2026-12-10'],
  ['3 months ago', 'ahead', '2026-08-26'],
  ['  29.2.2028 ', 'ahead', '2028-02-29'],
] as const)('the day “%s”, leaning %s, is %s', (text, lean, day) => {
  expect(read(text, 'day', lean)).toBe(day);
});

test.each([
  ['fri 18:00', 'ahead', '2026-11-27T18:00'],
  ['fri 18', 'ahead', '2026-11-27T18:00'],
  ['fri 1830', 'past', '2026-11-20T18:30'],
  ['thu 18:00', 'ahead', '2026-11-26T18:00'],
  ['thu 9:00', 'ahead', '2026-12-03T09:00'],
  ['thu 18:00', 'past', '2026-11-19T18:00'],
  ['18:00', 'ahead', '2026-11-26T18:00'],
  ['9:00', 'ahead', '2026-11-27T09:00'],
  ['18:00', 'past', '2026-11-25T18:00'],
  ['6 pm', 'ahead', '2026-11-26T18:00'],
  ['12 am', 'past', '2026-11-26T00:00'],
  ['tomorrow at 7', 'ahead', '2026-11-27T07:00'],
  ['3.12. 18:00', 'ahead', '2026-12-03T18:00'],
  ['3.12. 18', 'ahead', '2026-12-03T18:00'],
  ['3 dec 18h30', 'ahead', '2026-12-03T18:30'],
  ['2026-12-03T18:00', 'past', '2026-12-03T18:00'],
  ['Fri 27 Nov 2026 18:00', 'past', '2026-11-27T18:00'],
  ['now', 'past', '2026-11-26T14:30'],
  ['in 90 min', 'past', '2026-11-26T16:00'],
  ['3 h ago', 'ahead', '2026-11-26T11:30'],
  ['-2d', 'ahead', '2026-11-24T14:30'],
] as const)('the moment “%s”, leaning %s, is %s', (text, lean, moment) => {
  expect(read(text, 'minute', lean)).toBe(moment);
});

test.each([
  ['12/31', 'day', '! There is no month 31: the day comes first, as in 31.12.'],
  ['30.2.2026', 'day', '! There is no 30.2.2026.'],
  ['0.1.2026', 'day', '! There is no 0.1.2026.'],
  ['3.0.', 'day', '! There is no 3.0.2026.'],
  ['fri 26 nov 2026', 'day', '! 26 Nov 2026 is a Thursday.'],
  ['soon', 'day', '! Type a day as in 3.12., 3 Dec 2025, fri, or in 2 d.'],
  ['3 dez', 'day', '! “dez” is no month.'],
  ['18:00', 'day', '! Type a day, as in 3.12. or fri; a time alone is none.'],
  ['fri', 'minute', '! Add the time, as in fri 18:00.'],
  ['fri 25:00', 'minute', '! There is no time 25:00.'],
  ['fri 18:75', 'minute', '! There is no time 18:75.'],
  ['13 pm', 'minute', '! There is no time 13 pm.'],
  ['2 d', 'minute', '! Type a day as in 3.12., 3 Dec 2025, fri, or in 2 d.'],
] as const)('“%s” is no %s', (text, wanted, why) => {
  expect(read(text, wanted, 'ahead')).toBe(why);
});

test('nothing is nothing', () => expect(read('  ', 'day', 'past')).toBe(''));

test('the day is the reader’s, not Greenwich’s', () => {
  const late = Date.UTC(2026, 10, 26, 23, 30);
  expect(read('today', 'day', 'past', late, 'Europe/Amsterdam')).toBe('2026-11-27');
  expect(read('today', 'day', 'past', late, 'America/Halifax')).toBe('2026-11-26');
});

test('a day counted over a clock change is a day of the calendar', () => {
  const before = Date.UTC(2026, 9, 24, 16, 0);
  expect(read('in 1 d', 'minute', 'ahead', before)).toBe('2026-10-25T18:00');
  expect(read('in 24 h', 'minute', 'ahead', before)).toBe('2026-10-25T17:00');
});

test('what is shown reads as what it was', () => {
  fc.assert(
    fc.property(
      fc.date({ min: new Date('2001-01-01'), max: new Date('2080-01-01'), noInvalidDate: true }),
      (date) => {
        const day = date.toISOString().slice(0, 10);
        const minute = date.toISOString().slice(0, 16);
        for (const lean of ['past', 'ahead'] as const) {
          expect(read(momentWords(day), 'day', lean)).toBe(day);
          expect(read(momentWords(minute), 'minute', lean)).toBe(minute);
          expect(read(weekdayWords(day), 'day', lean)).toBe(day);
          expect(read(weekdayWords(minute), 'minute', lean)).toBe(minute);
        }
      },
    ),
  );
});

test('no text at all breaks the reading of it', () => {
  const pieces = fc.constantFrom(
    '3',
    '12',
    '.',
    '/',
    ':',
    ' ',
    'fri',
    'dec',
    'in',
    'd',
    'h',
    'pm',
    '18',
    '2026',
    '-',
    't',
    'ago',
    'ü',
    '9999',
  );
  fc.assert(
    fc.property(
      fc.array(pieces, { maxLength: 7 }),
      fc.constantFrom('day' as const, 'minute' as const),
      (parts, wanted) => {
        const answer = read(parts.join(''), wanted, 'ahead');
        expect(
          answer === '' || answer.startsWith('! ') || /^\d{4,}-\d\d-\d\d(T\d\d:\d\d)?$/.test(answer),
        ).toBe(true);
      },
    ),
    { numRuns: 2_000 },
  );
});
