import { filtered, listedPacks, sorted, sortFrom } from '../src/web/packs/register/listing';
import { aRow, REGISTER } from '../src/web/testing/rows';
import { median, ms, say } from './measure';

const PACKS = 5000;

/** What a keystroke in the Packs filter costs for a large register. */
export function benchScreens(): void {
  const rows = Array.from({ length: PACKS }, (_, i) =>
    aRow(`HX-${i}`, { readAt: i, storage: i % 3 ? 'in-band' : 'high', dueAt: i % 3 ? null : i }),
  );
  const packs = listedPacks(rows, REGISTER);
  const time = (work: () => unknown) =>
    median(
      Array.from({ length: 30 }, () => {
        const start = performance.now();
        work();
        return performance.now() - start;
      }),
    );
  say(`Filter ${PACKS} packs, two words (wanted 16 ms)`, ms(time(() => filtered(packs, 'hx cabinet', 0))));
  say(
    `Filter and sort ${PACKS} packs by clock`,
    ms(time(() => sorted(filtered(packs, 'hx', 0), sortFrom('-due')))),
  );
  say(`Put ${PACKS} packs into words, once an answer`, ms(time(() => listedPacks(rows, REGISTER))));
}
