import type { Page } from '@playwright/test';
import { cells, choose, expect, signedIn, standing, test as base } from './malle';
import { openRegister } from './registers';

/** Every main screen with something done on it, one test each, on one page that lives as long as its worker. */

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
  [
    'tonight’s plan, a job open',
    async (page) => {
      await go(page, '/charging/plan');
      await page
        .getByRole('button', { name: /^Down to storage/ })
        .first()
        .click();
      await expect(page.getByRole('region', { name: 'The job' })).toBeVisible();
    },
  ],
  ['the bench', (page) => go(page, '/charging/bench')],
  ['what is out', (page) => go(page, '/flying/out')],
  [
    'what to buy',
    async (page) => {
      await go(page, '/fleet/buy');
      await expect(page.getByRole('region', { name: 'In short' })).toBeVisible({ timeout: 60_000 });
    },
  ],
  [
    'packs for a day',
    async (page) => {
      await go(page, '/fleet/day');
      await expect(page.getByRole('region', { name: 'Packs for the day' })).toBeVisible();
    },
  ],
  ['packs as they came', (page) => go(page, '/fleet/deliveries')],
  [
    'a smart pack’s memory',
    async (page) => {
      await pack(page, 'IQ-06');
      await page.getByRole('tab', { name: /^Memory/ }).click();
      await expect(page.getByRole('radio', { name: 'Set' })).toBeVisible();
    },
  ],
  [
    'packs to take out, one of them not',
    async (page) => {
      await go(page, '/flying/take-out');
      await choose(page.getByRole('combobox', { name: 'For which craft' }), 'Inspection quad');
      for (const tag of ['IQ-04', 'IQ-10', 'HX-03']) {
        await page.getByRole('textbox', { name: /^Scan or type a tag/ }).fill(tag);
        await page.keyboard.press('Enter');
        await expect(page.getByRole('listitem', { name: tag })).toBeVisible();
      }
    },
  ],
  [
    'a pack that comes back, with a mistake',
    async (page) => {
      await go(page, '/flying/return');
      await page.getByRole('textbox', { name: /^Scan or type a tag/ }).fill('IQ-05');
      await page.keyboard.press('Enter');
      await page.getByRole('radio', { name: 'flown', exact: true }).click();
      await page.getByRole('textbox', { name: 'Landed, V' }).fill('3 3 3');
      await page.getByRole('button', { name: 'Unplugged, it is back' }).click();
      await expect(page.getByRole('alert').first()).toBeVisible();
    },
  ],
  [
    'a day’s hand-out',
    async (page) => {
      await go(page, '/flying/days');
      await page.getByRole('link', { name: 'Hand-out' }).first().click();
      await expect(page.getByRole('list', { name: 'Packs to take along' })).toBeVisible();
    },
  ],
  [
    'what fits what',
    async (page) => {
      await go(page, '/flying/fit');
      await page
        .getByRole('button', { name: /on Old survey wing: no/ })
        .first()
        .click();
    },
  ],
  ['landings', (page) => go(page, '/flying/landings')],
  [
    'a craft',
    async (page) => {
      await go(page, '/settings/craft');
      await page.getByRole('link', { name: /^Survey wing/ }).click();
    },
  ],
  [
    'one pack on charge now',
    async (page) => {
      await go(page, '/charging/now');
      await page.getByRole('textbox', { name: 'Which pack' }).fill('HX-02');
      await page.getByRole('textbox', { name: 'Which pack' }).press('Enter');
      await expect(page.getByRole('region', { name: 'What it gets' })).toBeVisible();
    },
  ],
  [
    'hours at the bench',
    async (page) => {
      await go(page, '/charging/days');
      await page.getByRole('button', { name: 'Add hours' }).click();
    },
  ],
  [
    'a charger',
    async (page) => {
      await go(page, '/settings/equipment');
      await page.getByRole('link', { name: /^Bench charger/ }).click();
    },
  ],
  ['receiving', (page) => go(page, '/packs/receive')],
  ['House rules', (page) => go(page, '/rules')],
  [
    'House rules with a preview and a refused value',
    async (page) => {
      await go(page, '/rules');
      await page.getByRole('button', { name: 'Change the rules' }).click();
      await page.getByRole('textbox', { name: 'Spread for caution, over', exact: true }).fill('30');
      await expect(page.getByRole('region', { name: 'Preview' })).toContainText('judged anew in');
      await page.getByRole('textbox', { name: 'Storage target, LiPo' }).fill('often');
      await page.evaluate(() => window.scrollTo(0, 0));
    },
  ],
  [
    'a charge typed',
    async (page) => {
      await pack(page, 'HX-11');
      await page.getByRole('tab', { name: /^Charge/ }).click();
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
    'Calculators filled in from a pack',
    async (page) => {
      await go(page, '/bench');
      await page.getByRole('textbox', { name: 'Fill in from the pack' }).fill('HX-06');
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
  ['people', (page) => go(page, '/settings/people')],
  ['a new person', (page) => go(page, '/settings/people/new')],
  [
    'a change of person at a shared bench',
    async (page) => {
      await page.request.post('/api/shared-benches', { data: { name: 'The long bench' } });
      await go(page, '/change-person');
      await expect(page.getByLabel('Scan your badge')).toBeFocused();
    },
  ],
  ['the register’s log', (page) => go(page, '/settings/log')],
  ['the evidence', (page) => go(page, '/settings/evidence')],
  [
    'one’s own account',
    async (page) => {
      await go(page, '/account');
      await expect(page.getByText('this device')).toBeVisible();
    },
  ],
  ['a device', (page) => go(page, '/settings/devices/new')],
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
      await page.getByRole('tab', { name: /^Inspection/ }).click();
      await page.getByRole('radiogroup', { name: 'Swelling' }).getByRole('radio', { name: 'fail' }).click();
    },
  ],
  ['Stowage', (page) => go(page, '/packs/stowage')],
  [
    'the map being arranged',
    async (page) => {
      await go(page, '/packs/stowage');
      const arrange = page.getByRole('switch', { name: 'Arrange the map' });
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
  [
    'a list to be brought in',
    async (page) => {
      await go(page, '/settings/import');
      await page
        .getByLabel('The file', { exact: true })
        .last()
        .setInputFiles({
          name: 'packs.csv',
          mimeType: 'text/csv',
          buffer: Buffer.from(
            'Tag;Chemistry;Cells;Capacity;Place\nZZ-1;LiPo;4;5000;Loft\nZZ-2;Blei;4;22;Loft\n',
          ),
        });
      await expect(page.getByRole('region', { name: 'What each line becomes' })).toContainText(
        '1 pack can come in',
      );
    },
  ],
  ['export', (page) => go(page, '/settings/export')],
  ['scripts', (page) => go(page, '/settings/scripts')],
  ['incidents, filtered', (page) => go(page, '/incidents?q=quay')],
  ['holds, filtered', (page) => go(page, '/incidents/holds?q=crash')],
  ['one’s calendar', (page) => go(page, '/settings/calendar')],
  [
    'a calendar opened',
    async (page) => {
      await go(page, '/settings/export');
      await page.getByRole('button', { name: 'Calendar for From' }).click();
      await page.getByRole('grid').waitFor();
    },
  ],
  ['the parts', (page) => go(page, '/settings/parts')],
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
  await choose(page.getByRole('combobox', { name: 'For' }), kind);
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

/** The custodian's page, kept from test to test: forty sign-ins would cost more than the screens. */
const walk = base.extend<{ leave: undefined }, { onPhone: boolean; walker: Page }>({
  onPhone: [false, { scope: 'worker', option: true }],
  walker: [
    async ({ browser, onPhone }, use) => {
      const register = await openRegister();
      const page = await signedIn(browser, register, 'Ineke Varrow', { phone: onPhone });
      await use(page);
      await page.context().close();
      await register.close();
    },
    { scope: 'worker' },
  ],
  leave: [
    async ({ walker }, use) => {
      await use(undefined);
      // Closes what is open and forgets what was typed.
      await walker.keyboard.press('Escape');
      await walker.evaluate(() => localStorage.clear());
    },
    { auto: true },
  ],
});

/** One test a screen. */
export function onEachScreen(phone: boolean, check: (page: Page) => Promise<void>): void {
  walk.use({ onPhone: phone });
  for (const [name, open] of SCREENS)
    walk(name, async ({ walker }) => {
      await open(walker);
      await check(walker);
    });
}
