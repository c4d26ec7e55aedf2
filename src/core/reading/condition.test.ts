import { MINUTE_MS } from '../measure';
import { conditionHeld, DECIDES } from '.';

describe('the condition a reading really had', () => {
  it.each([
    ['rested', null, 'rested'],
    ['rested', 29, 'settling'],
    ['rested', 30, 'rested'],
    ['settling', 90, 'settling'],
    ['loaded', null, 'loaded'],
  ] as const)('claimed %s, under load %s minutes before: %s', (claimed, minutesBefore, held) => {
    const at = 100 * MINUTE_MS;
    expect(
      conditionHeld(claimed, at, minutesBefore === null ? null : at - minutesBefore * MINUTE_MS, 30),
    ).toBe(held);
  });

  it('only rested readings decide', () => {
    expect(DECIDES).toEqual({
      rested: { storage: true, spread: true },
      settling: { storage: false, spread: false },
      loaded: { storage: false, spread: false },
    });
  });
});
