import type { Page } from '@playwright/test';
import { MINUTE_MS } from '../src/core/measure';
import type { JobAnswer, PackDetails } from '../src/contract';
import { benchOf, onBench, placed, registerOf, startAtTheGate, stripJob } from './benchSteps';
import { choose, expect, notice, signedIn, test } from './malle';

/**
 * The evening before a flying day: twenty-four packs are wanted tomorrow, two people share the bench, and four jobs are started through the
 * gate, handed over, forgotten past their end, and taken off by thumb.
 */
test('the evening before a flying day of twenty-four packs, with two people and four jobs', async ({
  browser,
  register,
  custodian: page,
}) => {
  await daysAndHours(page);

  // What is full already stays so, and the plan fills the rest; it is kept for both, and printed.
  await page.goto('/charging/plan');
  await expect(page.getByText(/best possible|No plan can|more could be served/)).toBeVisible({
    timeout: 60_000,
  });
  const asIs = await page.getByText(/\d+ packs full already/).innerText();
  await page.getByRole('button', { name: 'Keep this plan' }).click();
  await expect(page.getByText(/\d+ jobs to come/)).toBeVisible();
  const { jobs } = await benchOf(page);
  const filled = new Set(jobs.filter((job) => job.do === 'charge').flatMap(({ packIds }) => packIds));
  expect(filled.size + Number(/(\d+) packs full/.exec(asIs)![1])).toBeGreaterThanOrEqual(24);
  await page.emulateMedia({ media: 'print' });
  const printed = page.getByRole('region', { name: 'In the order of the evening' });
  await expect(printed.getByRole('listitem')).toHaveCount(jobs.length);
  await page.emulateMedia({ media: 'screen' });

  // The evening goes on; the server is killed, and comes back at the hour of the first of them.
  const { equipment } = await registerOf(page);
  const firstOn = (name: string): JobAnswer =>
    jobs
      .filter((job) => `${equipment.find(({ id }) => id === job.equipmentId)!.name} ${job.channel}` === name)
      .reduce((first, job) => (job.start < first.start ? job : first));
  const remembering = firstOn('Bench charger 2');
  const onVan = firstOn('Van charger A');
  const onPorts = firstOn('Six-port charger 1');
  register.kill();
  await register.start(remembering.start);
  const { packs } = await benchOf(page);
  const cellsOf = ({ packIds }: JobAnswer) => packs.find(({ id }) => id === packIds[0])!.series;

  // One: its channel remembers a high-voltage pack, and what it detects is not what the record says.
  await page.goto(`/charging/jobs/${remembering.id}`);
  await expect(page.getByText(/changed from LiHV: left so, it could burn the pack/)).toBeVisible();
  const detected = page.getByRole('textbox', { name: 'Cells it detects' });
  await detected.fill(String(cellsOf(remembering) - 1));
  await expect(detected).toHaveAccessibleDescription(/Stop: perhaps one is dead/);
  await expect(page.getByRole('button', { name: 'Start it' })).toBeDisabled();
  await startAtTheGate(page, remembering.id, cellsOf(remembering));
  await expect(notice(page)).toContainText('on charge. Stay with it.');
  // Two and three as planned, four a full series board in between.
  for (const job of [onVan, onPorts]) {
    await startAtTheGate(page, job.id, cellsOf(job));
    await expect(page).toHaveURL(/charging\/bench/);
  }
  const { job: strip, loaded } = await stripJob(page);
  const board = await placed(page, { ...strip, end: remembering.start + 90 * MINUTE_MS });
  await startAtTheGate(page, board, loaded.length);
  await expect(page).toHaveURL(/charging\/bench/);
  for (const name of ['Bench charger 1', 'Bench charger 2', 'Van charger A', 'Six-port charger 1'])
    await expect(onBench(page, name)).toContainText('Watched by Ineke Varrow');

  // Ineke goes home, Bram takes over on the phone; both see who watches what.
  const phone = await signedIn(browser, register, 'Bram Oosterfen', { phone: true });
  await phone.goto('/charging/bench');
  for (const name of ['Bench charger 1', 'Bench charger 2', 'Van charger A', 'Six-port charger 1']) {
    await onBench(phone, name).getByRole('button', { name: 'I watch it now' }).tap();
    await expect(onBench(page, name)).toContainText('Watched by Bram Oosterfen');
  }

  // An hour later one should be done and nobody has said anything: the bench calls, and everybody's Today says so.
  register.kill();
  await register.start(remembering.end + 2 * MINUTE_MS);
  await page.goto('/');
  await expect(page.getByRole('list', { name: 'On charge' })).toContainText(/[Nn]obody/);
  await phone.goto('/charging/bench');
  await expect(onBench(phone, 'Bench charger 2')).toContainText('Go and look.');
  await onBench(phone, 'Bench charger 2').getByRole('button', { name: 'Still here' }).tap();
  await expect(onBench(phone, 'Bench charger 2')).toContainText('It should be done: look, and take it off.');

  // All four are taken off by thumb, each written to its own packs.
  await ended(phone, 'Bench charger 2', { 'Charge moved, mAh': '9100' });
  await ended(phone, 'Van charger A', { 'Charge moved, mAh': '5200' });
  await ended(phone, 'Six-port charger 1', { 'Charge moved, mAh': '210' });
  await ended(phone, 'Bench charger 1', { 'Cells at the end': '417 416 418 417' });
  await page.goto('/charging/bench');
  await expect(page.getByText('Watched by')).toHaveCount(0);
  expect((await benchOf(page)).jobs.filter(({ state }) => state === 'running')).toEqual([]);
  const lastOf = async (id: string) => {
    const { records } = (await (await page.request.get(`/api/packs/${id}`)).json()) as PackDetails;
    return records.findLast(({ kind }) => kind === 'charge')?.payload;
  };
  for (const [job, movedMah] of [
    [remembering, 9_100],
    [onVan, 5_200],
    [onPorts, 210],
  ] as const)
    expect(await lastOf(job.packIds[0]!)).toMatchObject({ movedMah });
  // The strip's first slot is the charger's last cell.
  expect(await Promise.all(loaded.map(({ id }) => lastOf(id)))).toMatchObject(
    [4170, 4180, 4160, 4170].map((mv) => ({ endCellsMv: [mv] })),
  );
  await phone.context().close();
});

async function ended(phone: Page, station: string, figures: Readonly<Record<string, string>>): Promise<void> {
  await phone.goto('/charging/bench');
  await onBench(phone, station)
    .getByRole('link', { name: /^(End it|It is stopped)$/ })
    .tap();
  await expect(phone.getByText('First the pack off the lead')).toBeVisible();
  for (const [label, text] of Object.entries(figures))
    await phone.getByRole('textbox', { name: label }).fill(text);
  await phone.getByRole('button', { name: 'It is off the charger' }).tap();
  await expect(notice(phone)).toContainText('Written down.');
}

/** Says, on the page for it, who is there tonight and what flies tomorrow; the hours that were there are taken back. */
async function daysAndHours(page: Page): Promise<void> {
  await page.goto('/charging/days');
  await expect(page.getByRole('button', { name: 'Add hours' })).toBeVisible();
  const takeBack = page.getByRole('button', { name: 'Take back' });
  for (let left = await takeBack.count(); left > 0; left--) {
    await takeBack.first().click();
    await expect(takeBack).toHaveCount(left - 1);
  }
  for (const [who, from, to] of [
    ['Ineke Varrow', null, 'in 6 h'],
    ['Bram Oosterfen', 'in 5 h', 'in 8 h'],
  ] as const) {
    await page.getByRole('button', { name: 'Add hours' }).click();
    const hours = page.getByRole('dialog');
    await choose(hours.getByRole('combobox', { name: 'Who' }), who);
    if (from) await hours.getByRole('textbox', { name: 'From' }).fill(from);
    await hours.getByRole('textbox', { name: 'To' }).fill(to);
    await hours.getByRole('button', { name: 'Add them' }).click();
    await expect(hours).toBeHidden();
  }
  await page.getByRole('button', { name: 'Add a flying day' }).click();
  const day = page.getByRole('dialog');
  await day.getByRole('textbox', { name: 'First flight' }).fill('in 16 h');
  await day.getByRole('textbox', { name: 'Where' }).fill('North bank');
  for (const [type, packs] of [
    [/Mapping hexacopter/, '9'],
    [/Survey wing/, '6'],
    [/Inspection quad/, '3'],
    [/Trainer/, '6'],
  ] as const)
    await day.getByRole('textbox', { name: type }).fill(packs);
  await day.getByRole('button', { name: 'Add it' }).click();
  await expect(day).toBeHidden();
}
