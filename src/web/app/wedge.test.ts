import { WedgeListener, withoutScan } from './wedge';

/** Feeds keys at a pace; answers the scans heard. */
function heard(keys: readonly string[], paceMs: number, wedge = new WedgeListener(), start = 1000): string[] {
  return keys.flatMap((key, i) => wedge.key(key, start + i * paceMs) ?? []);
}

const scan = (text: string) => [...text, 'Enter'];

it('hears a scan by its pace', () => {
  expect(heard(scan('HX-07'), 8)).toEqual(['HX-07']);
});

it('hears capitals that come with Shift', () => {
  expect(heard(['Shift', 'H', 'Shift', 'X', '-', '0', '7', 'Enter'], 8)).toEqual(['HX-07']);
});

it('takes no hand for a scanner, however fast the hand', () => {
  expect(heard(scan('HX-07'), 60)).toEqual([]);
  expect(heard(scan('384 383 385 384'), 55)).toEqual([]);
});

it('wants at least three characters', () => {
  expect(heard(scan('A1'), 8)).toEqual([]);
  expect(heard(scan('A12'), 8)).toEqual(['A12']);
});

it('leaves out what was typed by hand before the scan', () => {
  const wedge = new WedgeListener();
  heard(['3', '8', '4'], 120, wedge, 1000);
  expect(heard(scan('HX-07'), 8, wedge, 2000)).toEqual(['HX-07']);
});

it('is broken by any other key', () => {
  expect(heard(['H', 'X', 'Backspace', '0', '7', 'Enter'], 8)).toEqual([]);
});

it('knows the key a scan may begin with, so that a field’s value before it can be restored', () => {
  const wedge = new WedgeListener();
  wedge.key('H', 1000);
  expect(wedge.starting).toBe(true);
  wedge.key('X', 1008);
  expect(wedge.starting).toBe(false);
});

it('takes out of a field only what the scan put there', () => {
  expect(withoutScan('38410', 'FW-10')).toBe('384');
  expect(withoutScan('FW-10', 'FW-10')).toBe('');
  expect(withoutScan('384', 'FW-10')).toBe('384');
  expect(withoutScan('', 'FW-10')).toBe('');
});
