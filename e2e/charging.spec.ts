import type { PackDetails } from '../src/contract';
import { benchOf, onBench, placed, startAtTheGate, stripJob, tickAll, topOf } from './benchSteps';
import { choose, expect, notice, signedIn, test, timeline } from './malle';

/** An evening at the bench: the plan, a start through the gate, a hand-over, an end by thumb. */

test.describe.configure({ mode: 'serial' });

test('tonight’s plan is there at once, says how good it is, and follows what a person changes', async ({
  custodian: page,
}) => {
  await page.getByRole('link', { name: 'Charging' }).first().click();
  await expect(page.getByText(/\d+ jobs, \d+ packs\./)).toBeVisible();
  await expect(page.getByText(/best possible|No plan can|more could be served/)).toBeVisible({
    timeout: 60_000,
  });
  const bar = page.getByRole('button', { name: /^Down to storage: HX-/ }).first();
  const label = (await bar.getAttribute('aria-label'))!;
  const tag = /HX-\d\d/.exec(label)![0];
  await bar.click();
  const panel = page.getByRole('region', { name: 'The job' });
  await expect(panel).toContainText(tag);
  await expect(panel).toContainText(/Begins as soon as|Full as late as|Comes first/);
  await panel.getByRole('button', { name: 'Leave it out' }).click();
  const out = page.getByRole('region', { name: 'Not in the plan' });
  await expect(out).toContainText(`${tag}`, { timeout: 60_000 });
  await expect(out.getByText('Left out by hand.')).toBeVisible();
  // While a better plan is looked for, what stands below it moves.
  await expect(page.getByRole('button', { name: 'Stop here' })).toHaveCount(0, { timeout: 60_000 });
  await out.getByRole('button', { name: `Put ${tag} back` }).click();
  await expect(out.getByText('Left out by hand.')).toHaveCount(0, { timeout: 60_000 });
});

test('a plan is kept for everybody; another browser’s older one is not', async ({
  browser,
  register,
  custodian: page,
}) => {
  const other = await signedIn(browser, register, 'Tolle Marsk');
  await other.goto('/charging/plan');
  await page.goto('/charging/plan');
  for (const one of [page, other])
    await expect(one.getByRole('button', { name: 'Keep this plan' })).toBeEnabled();
  await page.getByRole('button', { name: 'Keep this plan' }).click();
  await expect(page.getByText(/\d+ jobs to come/)).toBeVisible();
  await expect(other.getByRole('alert')).toContainText('Somebody kept another plan meanwhile');
  await expect(other.getByRole('button', { name: 'Keep this plan' })).toBeDisabled();
  await other.context().close();
});

test('the gate lets nobody start a wrong charge, and a right one is watched, handed over and ended', async ({
  browser,
  register,
  custodian: page,
}) => {
  await page.goto('/charging/bench');
  const channel = onBench(page, 'Bench charger 2');
  const tag = (await channel.locator('b').first().textContent())!.trim();
  await channel.getByRole('link', { name: /Its card|Start it/ }).click();
  await expect(page.getByRole('heading', { level: 1, name: tag })).toBeVisible();
  // The channel remembers a high-voltage pack: what would burn this one is marked, in the charger's own words.
  await expect(page.getByText('End volts')).toBeVisible();
  await expect(page.getByText(/changed from LiHV: left so, it could burn the pack/)).toBeVisible();
  await page.getByRole('button', { name: 'Start it' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'Not yet.' })).toContainText(
    'Type how many cells the charger detects',
  );
  const cells = page.getByRole('textbox', { name: 'Cells it detects' });
  await cells.fill('3');
  await expect(cells).toHaveAccessibleDescription(/sees 3 of \d cells. Stop: perhaps one is dead/);
  await expect(page.getByRole('button', { name: 'Start it' })).toBeDisabled();
  const count = await page.getByText(/^\dS$/).first().textContent();
  await cells.fill(count!.replace('S', ''));
  await choose(page.getByRole('combobox', { name: 'Chemistry on the display now' }), 'NiMH');
  await expect(page.getByRole('alert').filter({ hasText: 'This cannot be started.' })).toContainText(
    'The display says NiMH',
  );
  const chemistry = (await page.getByRole('definition').first().textContent())!.trim();
  await choose(page.getByRole('combobox', { name: 'Chemistry on the display now' }), chemistry);
  await tickAll(page);
  await page.getByRole('button', { name: 'Start it' }).click();
  await expect(notice(page)).toContainText('on charge. Stay with it.');
  await expect(onBench(page, 'Bench charger 2')).toContainText('Watched by Ineke Varrow');

  const phone = await signedIn(browser, register, 'Bram Oosterfen', { phone: true });
  await expect(phone.getByRole('list', { name: 'On charge' })).toContainText(tag);
  await phone.goto('/charging/bench');
  await onBench(phone, 'Bench charger 2').getByRole('button', { name: 'I watch it now' }).tap();
  await expect(onBench(page, 'Bench charger 2')).toContainText('Watched by Bram Oosterfen');

  await onBench(phone, 'Bench charger 2').getByRole('link', { name: 'End it' }).tap();
  await expect(phone.getByText('First the pack off the lead')).toBeVisible();
  await phone.getByRole('textbox', { name: 'Cells at the end' }).fill('12');
  await phone.getByRole('button', { name: 'It is off the charger' }).tap();
  await expect(phone.getByRole('textbox', { name: 'Cells at the end' })).toHaveAttribute(
    'aria-invalid',
    'true',
  );
  await phone.getByRole('textbox', { name: 'Cells at the end' }).fill('');
  await phone.getByRole('textbox', { name: 'Charge moved, mAh' }).fill('2100');
  await phone.reload();
  await expect(phone.getByRole('textbox', { name: 'Charge moved, mAh' })).toHaveValue('2100');
  await phone.getByRole('button', { name: 'It is off the charger' }).tap();
  await expect(notice(phone)).toContainText('Written down.');
  await expect(onBench(page, 'Bench charger 2')).not.toContainText('Watched by');

  await page.goto(`/packs?q=${tag}`);
  await page.getByRole('link', { name: tag, exact: true }).first().click();
  await expect(timeline(page)).toContainText('Bench charger, channel 2');
  await phone.context().close();
});

test('a pack nobody planned goes on charge by the same rules, and a charge past its end asks for hands', async ({
  custodian: page,
}) => {
  await page.goto('/charging/bench');
  await onBench(page, 'Bench charger 1')
    .getByRole('link', { name: /Another pack first|A pack on it now/ })
    .click();
  const { packs, jobs } = await benchOf(page);
  const busy = new Set(jobs.flatMap(({ packIds }) => packIds));
  const pack = packs.find(
    ({ id, bar, series, storage, cellsMv }) =>
      !bar && series > 1 && storage === 'in-band' && cellsMv !== null && !busy.has(id),
  )!;
  const field = page.getByRole('textbox', { name: 'Which pack' });
  await field.fill('NO-99');
  await field.press('Enter');
  await expect(field).toHaveAccessibleDescription(/No pack carries the tag NO-99/);
  await field.fill(pack.tag);
  await field.press('Enter');
  const gets = page.getByRole('region', { name: 'What it gets' });
  await expect(gets).toContainText(/Bench charger 1: charge full at [\d.]+ A, about .+, until \d\d:\d\d/);
  const where = page.getByRole('combobox', { name: 'Where' });
  await choose(where, 'wherever it goes');
  await page.getByText('emptied, then full').click();
  await expect(gets).toContainText(
    /empty for a cycle at [\d.]+ A.*charge full at [\d.]+ A, .* from \d\d:\d\d until/,
  );
  await page.getByText('full', { exact: true }).click();
  await choose(where, 'Bench charger 1');
  await gets.getByRole('button', { name: 'To its card' }).click();
  await expect(page.getByRole('heading', { level: 1, name: pack.tag })).toBeVisible();
  await expect(page.getByText('Before it starts')).toBeVisible();

  // The same pack, expected to be full in a second: the bench says so when that is over.
  const soon = await placed(page, {
    packIds: [pack.id],
    setting: { chemistry: pack.chemistry, mode: 'balance', cells: pack.series, topMv: topOf(pack), amps: 2 },
  });
  await startAtTheGate(page, soon, pack.series);
  await expect(notice(page)).toContainText('on charge. Stay with it.');
  await expect(onBench(page, 'Bench charger 1')).toContainText('It should be done: look, and take it off.');
  await page.goto(`/packs/${pack.id}`);
  await expect(page.getByText(/On Bench charger 1 since \d\d:\d\d: charge full/)).toBeVisible();
  await page.getByRole('link', { name: 'To the bench' }).click();
  await onBench(page, 'Bench charger 1').getByRole('link', { name: 'End it' }).click();
  await page.getByRole('textbox', { name: 'Charge moved, mAh' }).fill('900');
  await page.getByRole('button', { name: 'It is off the charger' }).click();
  await expect(notice(page)).toContainText('Written down.');
});

test('a series board is read off as one pack, and each slot’s volts go to the pack in it', async ({
  custodian: page,
}) => {
  await page.goto('/charging/bench');
  const { job: board, loaded } = await stripJob(page);
  const job = await placed(page, board);
  await startAtTheGate(page, job, loaded.length);
  await expect(notice(page)).toContainText('on charge. Stay with it.');
  await onBench(page, 'Bench charger 1').getByRole('link', { name: 'End it' }).click();
  await page.getByRole('textbox', { name: 'Cells at the end' }).fill('411 412 413 414');
  // The strip's first slot is the charger's last cell.
  await expect(page.getByText(`Slot by slot: ${loaded[0]!.tag} 4.14, ${loaded[1]!.tag} 4.13`)).toBeVisible();
  await page.getByRole('button', { name: 'It is off the charger' }).click();
  await expect(notice(page)).toContainText('Written down.');
  for (const [i, { id }] of loaded.entries()) {
    const { records } = (await (await page.request.get(`/api/packs/${id}`)).json()) as PackDetails;
    const last = records.findLast(({ kind }) => kind === 'charge');
    expect(last?.payload).toMatchObject({ endCellsMv: [4140 - 10 * i] });
  }
});

test('the plan prints as one list, for whoever has no screen at the bench', async ({ custodian: page }) => {
  await page.goto('/charging/plan');
  await expect(page.getByText(/\d+ jobs, \d+ packs\.|\d+ jobs to come/).first()).toBeVisible();
  await page.emulateMedia({ media: 'print' });
  const printed = page.getByRole('region', { name: 'In the order of the evening' });
  await expect(printed.getByRole('listitem').first()).toContainText(
    /\d\d:\d\d–\d\d:\d\d.*chemistry .*current/,
  );
  await expect(page.getByRole('navigation').first()).toBeHidden();
});

test('hours that overlap and a flying day that is over say so at their fields, and keep what was typed', async ({
  custodian: page,
}) => {
  await page.goto('/charging/days');
  await page.getByRole('button', { name: 'Add hours' }).click();
  const hours = page.getByRole('dialog');
  await hours.getByRole('textbox', { name: 'To' }).fill('in 1 h');
  await hours.getByRole('button', { name: 'Add them' }).click();
  await expect(hours.getByRole('textbox', { name: 'From' })).toHaveAccessibleDescription(
    /there already for a part of that time/,
  );
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Add a flying day' }).click();
  const day = page.getByRole('dialog');
  await day.getByRole('textbox', { name: 'Where' }).fill('South bank');
  await day.getByRole('textbox', { name: 'First flight' }).fill('1.1.2026 9:00');
  await day.getByRole('textbox', { name: /Inspection quad/ }).fill('2');
  await day.getByRole('button', { name: 'Add it' }).click();
  await expect(day.getByRole('textbox', { name: 'First flight' })).toHaveAccessibleDescription(
    /This time is over/,
  );
  await expect(day.getByRole('textbox', { name: 'Where' })).toHaveValue('South bank');
});

test('a charger is added within a minute, and what is wrong with it stands at its field', async ({
  custodian: page,
}) => {
  await page.goto('/settings/equipment/new');
  await page.getByRole('textbox', { name: 'Name' }).fill('Field charger');
  await page.getByRole('textbox', { name: 'Charge, A' }).fill('10');
  await page.getByRole('textbox', { name: 'Charge, W' }).fill('lots');
  await page.getByRole('button', { name: 'One more channel like it' }).click();
  await page.getByRole('button', { name: 'Add it' }).click();
  await expect(page.getByRole('textbox', { name: 'Charge, W' }).first()).toHaveAccessibleDescription(
    /The charging power is missing or not a number/,
  );
  for (const field of await page.getByRole('textbox', { name: 'Charge, W' }).all()) await field.fill('150');
  await page.getByRole('button', { name: 'Add it' }).click();
  await expect(page.getByRole('link', { name: /Field charger charger, 2 channels/ })).toBeVisible();
});
