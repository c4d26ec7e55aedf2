import { dayWords } from '.';
import { DAY_MS, HOUR_MS } from '../measure';
import { decision, START } from '../testing/histories';
import { recordLine } from './recordLine';
import type { Names } from './recordLine';

const namesIn = (zone: string): Names => ({
  place: () => 'a place',
  person: () => 'somebody',
  craft: () => 'a craft',
  day: (at) => dayWords(at, { now: START, zone }),
});

it('a release says the day its watch ends where the reader is, not in Greenwich', () => {
  // 8 March, 23:30 in Greenwich: the 9th in the east, the 8th in the west.
  const until = START + 6 * DAY_MS + 15.5 * HOUR_MS;
  const release = decision(0, { to: 'release', answers: [], watch: { until } });
  const said = (zone: string) => recordLine(release as never, namesIn(zone)).words;
  expect(said('Europe/Berlin')).toContain('on caution until 9 Mar');
  expect(said('America/Halifax')).toContain('on caution until 8 Mar');
});
