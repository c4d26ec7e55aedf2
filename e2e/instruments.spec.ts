import type { Page } from '@playwright/test';
import { v7 as newId } from 'uuid';
import type {
  ChargingAnswer,
  CurveAnswer,
  DeviceAnswer,
  NewDeviceAnswer,
  PackDetails,
  PackRow,
  RegisterAnswer,
  SessionAnswer,
} from '../src/contract';
import { isLithium } from '../src/core/chemistry';
import { StandIns } from '../src/devices/standIns';
import type { PackFacts } from '../src/devices/standIns';
import { gateBody } from '../src/server/testing/bench';
import { choose, expect, notice, rowsOf, signedIn, test } from './malle';

/** An evening over instruments that speak for themselves: a round read without typing, and charges that draw themselves. */

test.describe.configure({ mode: 'serial' });

const open: StandIns[] = [];
test.afterAll(() => open.forEach((one) => one.close()));

const asked = async <Answer>(page: Page, path: string): Promise<Answer> =>
  (await (await page.request.get(`/api${path}`)).json()) as Answer;

async function made<Answer>(page: Page, path: string, data: object): Promise<Answer> {
  const answer = await page.request.post(`/api${path}`, { data });
  expect(answer.ok(), await answer.text()).toBe(true);
  return (await answer.json()) as Answer;
}

const doorOf = (url: string) => `${url.replace(/^http/, 'ws')}/api/instruments`;

/** Packs of the register that a stand-in can be, with what they rest at. */
async function packFacts(page: Page): Promise<(PackFacts & { row: PackRow })[]> {
  const { types } = await asked<RegisterAnswer>(page, '/register');
  return (await rowsOf(page)).flatMap((row) => {
    const type = types.find(({ id }) => id === row.typeId)!;
    if (!isLithium(type.chemistry) || row.cellsMv?.length !== type.series) return [];
    const { series, capacityMah } = type;
    return [
      {
        row,
        tag: row.tag,
        chemistry: type.chemistry,
        series,
        capacityAh: capacityMah / 1000,
        cellsMv: row.cellsMv,
      },
    ];
  });
}

test('a device is added under Settings, and its key is told once', async ({ custodian: page }) => {
  await page.goto('/settings/devices');
  await expect(page.getByText('No instrument speaks for itself yet.')).toBeVisible();
  await page.getByRole('link', { name: 'Add a device' }).click();
  await page.getByRole('button', { name: 'Add it and make its key' }).click();
  await expect(page.getByRole('textbox', { name: 'Name' })).toHaveAccessibleDescription(/missing/);
  await page.getByRole('textbox', { name: 'Name' }).fill('Meter on the bench');
  await choose(page.getByRole('combobox', { name: 'Which of your meters' }), /^Bench meter/);
  await page.getByRole('button', { name: 'Add it and make its key' }).click();
  const key = page.getByRole('textbox', { name: 'Key' });
  await expect(key).toHaveValue(/^malle_device_/);
  await page.reload();
  await expect(key).toHaveCount(0);
  await page.goto('/settings/devices');
  await page.getByRole('link', { name: /Meter on the bench/ }).click();
  await expect(page.getByText('never connected').first()).toBeVisible();
});

test('a round of twenty is read without typing a volt, and no reading lands on the wrong pack', async ({
  browser,
  register,
  custodian: page,
}) => {
  const [device] = (await asked<DeviceAnswer[]>(page, '/devices')).filter(({ kind }) => kind === 'meter');
  const { secret } = await made<NewDeviceAnswer>(page, `/devices/${device!.id}/key`, {});
  const packs = await packFacts(page);
  const fit = packs
    .filter(({ row, series }) => row.verdict === 'fit' && row.holderId === null && series > 1)
    .slice(0, 20);
  expect(fit).toHaveLength(20);
  const standIns = new StandIns({ url: doorOf(register.url), meterKey: secret, chargers: [], packs });
  open.push(standIns);
  const round = {
    id: newId(),
    kind: 'scheduled',
    title: 'By the meter',
    checklist: false,
    placeId: null,
    fliesAt: null,
    packIds: fit.map(({ row }) => row.id),
  };
  await made(page, '/rounds', round);
  await page.goto(`/rounds/${round.id}`);
  await page.getByRole('button', { name: 'Read with it here' }).click();
  await expect(page.getByText(/nothing plugged in/)).toBeVisible();
  const field = page.getByPlaceholder('cells in order');
  const current = async () => (await page.locator('label.font-mono').first().textContent())!.trim();

  // Another pack with another number of cells is on the meter: it is asked about, and the field stays empty.
  const first = await current();
  const odd = packs.find(({ series }) => series !== fit.find(({ tag }) => tag === first)!.series)!;
  standIns.read(odd.tag);
  await expect(
    page.getByText(`The meter reads ${odd.series === 1 ? '1 cell' : `${odd.series} cells`}`),
  ).toBeVisible();
  await expect(field).toHaveValue('');

  for (let done = 0; done < 20; done += 1) {
    const tag = await current();
    standIns.read(tag);
    await expect(field).toHaveValue(/^\d\.\d{3}( \d\.\d{3})+$/);
    if (done === 3) {
      // A hand that corrects a figure has read it otherwise; the meter leaves that alone.
      const read = await field.inputValue();
      await field.fill(
        read.replace(/\d( |$)/, (last) => `${last.startsWith('9') ? '8' : '9'}${last.slice(1)}`),
      );
      await expect(page.getByText(/what you typed stays/)).toBeVisible();
    }
    await field.press('Enter');
    if (done < 19) {
      await expect.poll(current).not.toBe(tag);
      await expect(page.getByText(`The meter still shows ${tag}, which is saved.`)).toBeVisible();
      await expect(field).toHaveValue('');
    }
  }
  await expect(page.getByText('Every row is worked.')).toBeVisible();
  await expect(page.getByText('all sent')).toBeVisible();
  let measured = 0;
  for (const { row, tag } of fit) {
    const { records } = await asked<PackDetails>(page, `/packs/${row.id}`);
    const reading = records.filter((one) => one.kind === 'reading').at(-1)!;
    if (reading.payload.measured) {
      measured += 1;
      expect(reading.payload).toMatchObject({
        measured: { deviceId: device!.id },
        instrument: 'Bench meter',
      });
    }
    const cells = reading.payload.volts.of === 'cells' ? reading.payload.volts.cellsMv : [];
    const truth = packs.find((one) => one.tag === tag)!.cellsMv!;
    for (const [i, mv] of cells.entries()) expect(Math.abs(mv - truth[i]!)).toBeLessThan(25);
  }
  expect(measured).toBe(19);

  // Somebody else has the meter from now on, and this page knows it.
  const other = await signedIn(browser, register, 'Tolle Marsk');
  await other.goto(`/packs/${fit[0]!.row.id}`);
  await other.getByRole('button', { name: 'Read with it here' }).first().click();
  standIns.read(fit[0]!.tag);
  await expect(other.getByRole('textbox', { name: /^Cells in order/ })).toHaveValue(/\d\.\d{3}/);
  await other.getByRole('button', { name: 'Save reading' }).click();
  await expect(notice(other)).toContainText('reading saved');
  await expect(other.getByText(/this reading of .* is saved/)).toBeVisible();
  await other.context().close();
  standIns.close();
});

test('two charges draw themselves, and one is stopped by the register’s own alarm', async ({
  register,
  custodian: page,
}) => {
  const { equipment } = await asked<RegisterAnswer>(page, '/register');
  const charger = equipment.find(({ name }) => name === 'Bench charger')!;
  const { secret } = await made<NewDeviceAnswer>(page, '/devices', {
    id: newId(),
    name: 'Charger on the bench',
    kind: 'charger',
    instrumentId: null,
    equipmentId: charger.id,
    patterns: [],
  });
  const session = await asked<SessionAnswer>(page, '/session');
  const attendantId = session.state === 'signed-in' ? session.person.id : null;
  const charging = await asked<ChargingAnswer>(page, '/charging');
  const [one, two] = charging.packs
    .filter(
      ({ bar, chemistry, series, freeFrom }) =>
        bar === null && chemistry === 'lipo' && series > 2 && freeFrom < Date.now(),
    )
    .sort((a, b) => a.labelAh - b.labelAh);
  // Read low a moment ago, both have room for a whole charge.
  for (const { id, series } of [one!, two!])
    await made(page, '/records', {
      packId: id,
      records: [
        {
          id: newId(),
          kind: 'reading',
          at: Date.now(),
          supersedes: null,
          payload: {
            volts: { of: 'cells', cellsMv: Array.from({ length: series }, () => 3_720) },
            condition: 'rested',
            instrument: null,
            meterErrorMv: 5,
            temperatureC: null,
            remarks: null,
          },
        },
      ],
    });
  const facts = (await packFacts(page)).map((pack) => ({
    ...pack,
    cellsMv: pack.tag === two!.tag ? pack.cellsMv!.map(() => 4_150) : pack.cellsMv,
  }));
  const standIns = new StandIns({
    url: doorOf(register.url),
    meterKey: null,
    chargers: [{ name: 'Bench charger', key: secret, channels: ['1', '2'], watts: { each: 400, all: 500 } }],
    packs: facts,
  });
  open.push(standIns);
  const stand = standIns.chargers[0]!.charger;
  for (const [pack, channel] of [
    [one!, '1'],
    [two!, '2'],
  ] as const) {
    const setting = {
      chemistry: 'lipo',
      mode: 'balance',
      cells: pack.series,
      topMv: 4200,
      amps: Math.min(12, Math.floor(pack.capacityAh * 10) / 10),
    } as const;
    const id = newId();
    const start = Date.now();
    await made(page, '/charging/jobs', {
      id,
      do: 'charge',
      packIds: [pack.id],
      equipmentId: charger.id,
      channel,
      boardId: null,
      adapterId: null,
      setting,
      start,
      end: start + 80 * 60_000,
    });
    await made(page, `/charging/jobs/${id}/start`, gateBody(attendantId!, { detectedCells: pack.series }));
    standIns.plug(stand, channel, pack.tag);
    Object.assign(stand.channel(channel)!, { setting, fault: channel === '2' ? 'never stops' : 'none' });
  }
  await page.goto('/charging/bench');
  const onBench = (name: string) =>
    page.getByRole('listitem').filter({ has: page.getByRole('heading', { name, exact: true }) });
  stand.start('1');
  stand.start('2');
  standIns.speed = 120;
  const [drawn, stopped] = [onBench('Bench charger 1'), onBench('Bench charger 2')];
  await expect(drawn.getByText('at the whole current')).toBeVisible();
  await expect(drawn.getByRole('img', { name: /^The charge so far/ })).toBeVisible();
  const before = await drawn.getByRole('img', { name: /^The charge so far/ }).getAttribute('aria-label');
  await expect
    .poll(() => drawn.getByRole('img', { name: /^The charge so far/ }).getAttribute('aria-label'))
    .not.toBe(before);

  // The server dies in the middle and comes again: what the charger said meanwhile is drawn as well.
  const [running] = (await asked<ChargingAnswer>(page, '/charging')).jobs.filter(
    ({ state, channel }) => state === 'running' && channel === '1',
  );
  const curve = async () =>
    (await asked<CurveAnswer>(page, `/charging/jobs/${running!.id}/curve`)).points.map(
      ({ seconds }) => seconds,
    );
  const drawnBefore = (await curve()).at(-1)!;
  register.kill();
  await new Promise((later) => setTimeout(later, 3_000));
  await register.start();
  await expect
    .poll(async () => (await curve()).at(-1), { timeout: 40_000 })
    .toBeGreaterThan(drawnBefore + 600);
  const seconds = await curve();
  expect(Math.max(...seconds.slice(1).map((one, i) => one - seconds[i]!))).toBeLessThanOrEqual(180);
  await expect(stopped.getByRole('alert')).toContainText('Malle stopped it.');
  await expect(stopped.getByRole('alert')).toContainText('above full');
  expect(stand.channel('2')!.state).toBe('ended');

  // What the charger told of the end stands on the page that writes it down; a person presses the button.
  await stopped.getByRole('link', { name: /It is stopped|End it/ }).click();
  await expect(page.getByText('As Charger on the bench tells it.')).toBeVisible();
  await expect(page.getByRole('textbox', { name: 'Cells at the end' })).toHaveValue(/^4\.2\d\d( 4\.2\d\d)+$/);
  await expect(page.getByRole('combobox', { name: 'How it ended' })).toContainText(/stopped by hand/i);
  await page.getByRole('button', { name: 'It is off the charger' }).click();
  await expect(notice(page)).toContainText('Written down.');
  await page.goto(`/packs/${two!.id}`);
  await page.getByRole('button', { name: 'Its curve' }).first().click();
  await expect(page.getByText(/points in \d/)).toBeVisible();

  // A line that is lost is said where the charge stands.
  standIns.close();
  await page.goto('/charging/bench');
  await expect(drawn.getByText('The charger is not heard.')).toBeVisible();
});

test('a smart pack is set by the rules, read back, and only then counts as set', async ({
  register,
  custodian: page,
}) => {
  const { device, secret } = await made<NewDeviceAnswer>(page, '/devices', {
    id: newId(),
    name: 'Memory reader',
    kind: 'memory-reader',
    instrumentId: null,
    equipmentId: null,
    patterns: [],
  });
  const row = (await rowsOf(page)).find(({ tag }) => tag === 'IQ-06')!;
  const standIns = new StandIns({
    url: doorOf(register.url),
    meterKey: null,
    readerKey: secret,
    chargers: [],
    packs: [
      { tag: 'IQ-06', chemistry: 'lihv', series: 4, capacityAh: 5.2, cellsMv: null, ownCycles: 22 },
      { tag: 'IQ-03', chemistry: 'lihv', series: 4, capacityAh: 5.2, cellsMv: null, ownCycles: 9 },
    ],
  });
  open.push(standIns);
  const reader = standIns.reader!;

  await page.goto('/');
  await page
    .getByRole('region', { name: 'Smart packs whose own storage is off' })
    .getByRole('link', { name: 'IQ-06' })
    .click();
  await expect(page.getByText(/own storage is switched off/).first()).toBeVisible();
  const entry = page.getByRole('region', { name: 'Write a record' });
  await expect(entry.getByText(/no memory to be read/)).toBeVisible();

  // Another pack's memory is on the reader: its counter and number are asked about, and nothing is saved.
  reader.plug('IQ-03');
  await expect(entry.getByRole('textbox', { name: 'The pack’s own number' })).toHaveValue('N-IQ-03');
  await entry.getByRole('button', { name: 'Save what it says' }).click();
  await expect(entry.getByRole('textbox', { name: 'The pack’s own number' })).toHaveAccessibleDescription(
    /another pack’s/,
  );
  await expect(entry.getByRole('textbox', { name: 'Its cycles' })).toHaveAccessibleDescription(
    /does not go back/,
  );
  reader.plug('IQ-06');
  await expect(entry.getByRole('textbox', { name: 'The pack’s own number' })).toHaveValue('N-IQ-06');

  // A hand that types something which cannot be loses nothing.
  await entry.getByRole('radio', { name: 'Set' }).click();
  await entry.getByRole('button', { name: 'Fill in by the house rules' }).click();
  const after = entry.getByRole('textbox', { name: 'Begins after, h' });
  await expect(after).toHaveValue('48');
  await after.fill('two days');
  await entry.getByRole('button', { name: 'Write it into the pack' }).click();
  await expect(after).toHaveAccessibleDescription(/no figure/);
  await expect(after).toHaveValue('two days');
  await after.fill('48');

  // A write that does not take is seen in what is read back.
  reader.fault = 'does not keep what is written';
  await entry.getByRole('button', { name: 'Write it into the pack' }).click();
  await expect(notice(page)).toContainText('IQ-06: memory saved.');
  await expect(entry.getByText(/Not as it was set: .*when that begins/)).toBeVisible();
  await expect(page.getByText(/not read back, so nobody knows/).first()).toBeVisible();

  reader.fault = 'none';
  await entry.getByRole('radio', { name: 'Set' }).click();
  await entry.getByRole('button', { name: 'Fill in by the house rules' }).click();
  await entry.getByRole('button', { name: 'Write it into the pack' }).click();
  await expect(entry.getByText(/Read back as it was set/)).toBeVisible();
  await entry.getByRole('button', { name: 'Save what it says' }).press('Enter');
  await expect(entry.getByText(/that is how it is set/)).toBeVisible();
  await expect(page.getByText(/own storage is switched off|not read back, so nobody/)).toHaveCount(0);
  const details = await asked<PackDetails>(page, `/packs/${row.id}`);
  expect(details.records.at(-1)).toMatchObject({
    kind: 'memory',
    payload: {
      did: 'read',
      measured: { deviceId: device.id },
      memory: { storage: { isOn: true, afterHours: 48 } },
    },
  });
  await page.goto('/');
  await expect(page.getByRole('heading', { name: /^Smart packs whose own storage/ })).toHaveCount(0);

  // An update: keep it connected, then read it again.
  await page.goto(`/packs/${row.id}`);
  await entry.getByRole('tab', { name: /Memory/ }).click();
  reader.update();
  await expect(entry.getByText(/being updated, \d+ %. Keep it connected/)).toBeVisible();
  await expect(entry.getByRole('textbox', { name: 'Program version' })).toHaveValue('1.05');
  await expect(after).toHaveValue('120');
  await expect(page.getByText(/set to store itself only after 120 h/).first()).toBeVisible();
});
