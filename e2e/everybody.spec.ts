import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { cells, expect, openPack, signedIn, standing, test } from './malle';

/** Every main screen, for everybody: no violation axe can find, in both themes; usable at 390 px; reachable by keyboard. */

const SCREENS: readonly (readonly [string, (page: Page) => Promise<void>])[] = [
  ['Today', () => Promise.resolve()],
  ['Packs', (page) => go(page, '/packs')],
  ['a pack', (page) => pack(page, 'HX-11')],
  [
    'a pack out of use, a finding open',
    async (page) => {
      await pack(page, 'FW-03');
      await standing(page).getByText('why').first().click();
    },
  ],
  [
    'a reading typed',
    async (page) => {
      await pack(page, 'HX-11');
      await cells(page).fill('384 383 385 384 384 340');
    },
  ],
  [
    'a reading refused',
    async (page) => {
      await pack(page, 'HX-11');
      await cells(page).fill('384 383');
      await cells(page).press('Enter');
    },
  ],
  [
    'a correction',
    async (page) => {
      await pack(page, 'HX-11');
      await page
        .getByRole('button', { name: /^Correct record/ })
        .first()
        .click();
    },
  ],
  ['receiving', (page) => go(page, '/packs/receive')],
  ['House rules', (page) => go(page, '/rules')],
  [
    'House rules with a preview and a refused value',
    async (page) => {
      await go(page, '/rules');
      await page.getByRole('button', { name: 'Change the rules' }).click();
      await page.getByRole('textbox', { name: 'Spread to watch, over', exact: true }).fill('30');
      await expect(page.getByRole('region', { name: 'Preview' })).toContainText('judged twice in');
      await page.getByRole('textbox', { name: 'Storage target, LiPo' }).fill('often');
      await page.evaluate(() => window.scrollTo(0, 0));
    },
  ],
  [
    'a charge typed',
    async (page) => {
      await pack(page, 'HX-11');
      await page.getByRole('button', { name: /^Charge/ }).click();
      await page.getByRole('textbox', { name: 'mAh moved' }).fill('plenty');
      await page.keyboard.press('Enter');
    },
  ],
  [
    'trends with their figures open',
    async (page) => {
      await pack(page, 'HX-05');
      await page.getByText('As figures').first().click();
    },
  ],
  [
    'Bench sums laid out for a pack',
    async (page) => {
      await go(page, '/bench');
      await page.getByRole('textbox', { name: 'Lay out for the pack' }).fill('HX-06');
      await page.keyboard.press('Enter');
      await expect(page.getByRole('status', { name: 'Charging time: result' })).toContainText('min');
    },
  ],
  [
    'the storage record',
    async (page) => {
      await go(page, '/storage');
      await expect(page.getByRole('region', { name: 'Hours' })).toBeVisible();
    },
  ],
  [
    'pack types',
    async (page) => {
      await go(page, '/settings/types');
      await page.getByRole('link', { name: /Mapping hexacopter/ }).click();
    },
  ],
  ['people', (page) => go(page, '/settings/people/new')],
  [
    'the key sheet',
    async (page) => {
      await page.keyboard.press('?');
    },
  ],
  ['an unknown tag', (page) => go(page, '/tag/ZZ-99')],
  ['Rounds', (page) => go(page, '/rounds')],
  ['a round with a row being typed', (page) => round(page, 'Put-away after flying')],
  ['a season start', (page) => round(page, 'Season start')],
  [
    'a round’s summary',
    async (page) => {
      await round(page, 'Put-away after flying');
      await page.getByRole('link', { name: 'Summary' }).click();
      await expect(page.getByRole('region', { name: /^To see to/ })).toBeVisible();
    },
  ],
  [
    'a bench sheet',
    async (page) => {
      await round(page, 'Scheduled inspection');
      await page.getByRole('link', { name: 'Bench sheet' }).click();
      await expect(page.getByRole('button', { name: 'Print' })).toBeVisible();
    },
  ],
  [
    'an inspection with something found',
    async (page) => {
      await pack(page, 'HX-07');
      await page.getByRole('button', { name: /^Inspection/ }).click();
      await page.getByRole('group', { name: 'Swelling' }).getByRole('button', { name: 'fail' }).click();
    },
  ],
  ['Stowage', (page) => go(page, '/packs/stowage')],
  [
    'the map being arranged',
    async (page) => {
      await go(page, '/packs/stowage');
      const arrange = page.getByRole('button', { name: 'Arrange the map' });
      if (await arrange.isVisible()) await arrange.click();
    },
  ],
  ['what happened', (page) => go(page, '/incidents/new')],
  ['an incident’s card', (page) => go(page, '/incidents/new/crash')],
  [
    'an incident being logged',
    async (page) => {
      await go(page, '/incidents/new/other/log');
      await page.getByRole('textbox', { name: 'Packs' }).fill('HX');
    },
  ],
  [
    'an incident',
    async (page) => {
      await go(page, '/incidents');
      await page.getByRole('link', { name: /^Overcharged/ }).click();
      await expect(page.getByRole('region', { name: 'Log', exact: true })).toBeVisible();
    },
  ],
  ['Holds', (page) => go(page, '/incidents/holds')],
  [
    'a decision',
    async (page) => {
      await pack(page, 'IQ-09');
      await page.getByRole('link', { name: 'Decide about it' }).click();
      await page.getByText('Retire', { exact: true }).click();
      await expect(page.getByRole('region', { name: 'Health and trends' })).toBeVisible();
    },
  ],
  ['decisions waiting', (page) => go(page, '/end-of-life/decisions')],
  [
    'a step on the way out',
    async (page) => {
      await go(page, '/end-of-life/board');
      await page.getByRole('button', { name: /TR-13/ }).click();
    },
  ],
  ['several retired', (page) => go(page, '/end-of-life/batch')],
  [
    'a consignment',
    async (page) => {
      await go(page, '/end-of-life/consignments');
      await page.getByRole('link', { name: /metals yard.*handed over/ }).click();
      await expect(page.getByRole('region', { name: 'Receipt' })).toBeVisible();
    },
  ],
  ['a recovery refused', (page) => recovery(page)],
  [
    'reports',
    async (page) => {
      await go(page, '/reports');
      await expect(page.getByRole('region', { name: 'Holds and their length', exact: true })).toBeVisible();
    },
  ],
  ['recyclers', (page) => go(page, '/settings/recyclers/new')],
  ['a delivery', (page) => go(page, '/packs/deliver')],
  ['labels', (page) => go(page, '/packs/labels')],
  ['places', (page) => go(page, '/settings/places/new')],
  ['one’s calendar', (page) => go(page, '/settings/calendar')],
  [
    'checklists being changed',
    async (page) => {
      await go(page, '/rules');
      await page.getByRole('button', { name: 'Change the rules' }).click();
      await page.getByRole('button', { name: 'Add an item' }).click();
      await page.evaluate(() => window.scrollTo(0, 0));
    },
  ],
];

async function recovery(page: Page): Promise<void> {
  await pack(page, 'FW-03');
  await go(page, `${new URL(page.url()).pathname}/recovery`);
}

async function round(page: Page, kind: string): Promise<void> {
  await go(page, '/rounds');
  await page.getByRole('combobox', { name: 'For' }).selectOption({ label: kind });
  await page.getByRole('button', { name: /^Begin with/ }).click();
  await page.getByRole('textbox', { name: /^[A-Z]{2}-\d\d$/ }).fill('3');
}

async function go(page: Page, path: string): Promise<void> {
  await page.goto(new URL(path, page.url()).href);
  await expect(page.getByRole('main')).not.toContainText('Fetching');
}

async function pack(page: Page, tag: string): Promise<void> {
  await page.getByRole('combobox', { name: /Scan or type/ }).fill(tag);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: tag })).toBeVisible();
}

const STANDARDS = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'];

for (const theme of ['light', 'dark'] as const) {
  test(`axe finds nothing on any screen: ${theme}`, async ({ browser, register }) => {
    test.setTimeout(900_000);
    const page = await signedIn(browser, register, 'Ineke Varrow', { theme });
    const found: string[] = [];
    for (const [name, open] of SCREENS) {
      await open(page);
      const { violations } = await new AxeBuilder({ page }).withTags(STANDARDS).analyze();
      for (const { id, nodes } of violations)
        found.push(`${name}: ${id} at ${nodes.map(({ target }) => target.join(' ')).join(', ')}`);
      await leave(page);
    }
    expect(found).toEqual([]);
    await page.context().close();
  });
}

test('no screen scrolls sideways on a phone, down to 360 px', async ({ browser, register }) => {
  test.setTimeout(720_000);
  const page = await signedIn(browser, register, 'Ineke Varrow', { phone: true });
  const found: string[] = [];
  for (const [name, open] of SCREENS) {
    await open(page);
    for (const width of [390, 360]) {
      await page.setViewportSize({ width, height: 844 });
      const sideways = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
      if (sideways > 0) found.push(`${name} at ${width}: ${sideways} px too wide`);
    }
    await leave(page);
  }
  expect(found).toEqual([]);
  await page.context().close();
});

/** Closes what is open and forgets what was typed. */
async function leave(page: Page): Promise<void> {
  await page.keyboard.press('Escape');
  await page.evaluate(() => localStorage.clear());
}

test('the sign-in page is clean too, and needs no mouse', async ({ page, register }) => {
  await page.goto(register.url);
  await expect(page.getByRole('heading', { name: 'Who are you today?' })).toBeVisible();
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map(({ id }) => id)).toEqual([]);
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: /^Today/ })).toBeVisible();
});

test('every control of a pack’s page is reached by Tab and shows where the focus is', async ({
  custodian,
}) => {
  await openPack(custodian, 'FW-03');
  await expect(custodian.getByRole('figure').first()).toBeVisible();
  await custodian.locator('body').evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  const wanted = await custodian
    .locator('main :is(a[href], button, input, select, textarea, summary)')
    .evaluateAll(
      (controls) =>
        controls.filter((control) => control.checkVisibility({ contentVisibilityAuto: true })).length,
    );
  const reached = new Set<string>();
  for (let i = 0; i < wanted + 40; i++) {
    await custodian.keyboard.press('Tab');
    const focus = await custodian.evaluate(() => {
      const element = document.activeElement;
      if (!element?.closest('main')) return null;
      const all = [
        ...document.querySelectorAll('main :is(a[href], button, input, select, textarea, summary)'),
      ];
      return {
        at: String(all.indexOf(element)),
        outline: getComputedStyle(element.closest('label') ?? element).outlineStyle,
        tag: element.tagName,
      };
    });
    if (!focus) continue;
    expect(focus.outline === 'none' ? focus : 'outlined').toBe('outlined');
    reached.add(focus.at);
  }
  // The condition's three answers are one stop: arrow keys choose among them.
  expect(reached.size).toBeGreaterThanOrEqual(wanted - 2);
});

test('a pilot in the field: may I fly this one, on a phone', async ({ browser, register }) => {
  const page = await signedIn(browser, register, 'Jory Penhallick', { phone: true });
  await pack(page, 'IQ-05');
  await expect(page.getByText('Charge before flying')).toBeInViewport();
  await expect(cells(page)).not.toBeFocused();
  const small = await page.locator('main :is(button, a[href], input, select)').evaluateAll((controls) =>
    controls
      .filter((control) => control.closest('[hidden]') === null && control.getClientRects().length > 0)
      .filter(
        (control) =>
          !control.classList.contains('sr-only') && !control.closest('details:not([open]) > :not(summary)'),
      )
      .map((control) => ({ name: control.textContent, height: control.getBoundingClientRect().height }))
      .filter(({ height }) => height < 24),
  );
  expect(small).toEqual([]);
  await page.context().close();
});
