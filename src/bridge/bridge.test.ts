import { spawn } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { appendFileSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type TestAgent from 'supertest/lib/agent';
import type { DeviceAnswer } from '../contract';
import { addDevice, openSocket } from '../server/testing/device';
import { openTestApp } from '../server/testing/testApp';
import type { TestApp } from '../server/testing/testApp';
import { until } from '../server/testing/until';

let test: TestApp;
let custodian: TestAgent;
let door: Awaited<ReturnType<typeof openSocket>>;
const children: ChildProcess[] = [];

beforeAll(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
  door = await openSocket(test);
});
afterAll(async () => {
  for (const child of children) child.kill();
  await test.close();
  await door.close();
});

/** A terminal that is none: what is written to it comes out at `path` as from a device on a serial port. */
async function pseudoTerminal(): Promise<{ path: string; write(text: string): void }> {
  const perl = `
    $| = 1;
    open(my $m, "+<", "/dev/ptmx") or die; ioctl($m, 0x40045431, my $no = pack("i", 0)) or die;
    ioctl($m, 0x80045430, my $n = pack("i", 0)) or die; my $path = "/dev/pts/" . unpack("i", $n);
    open(my $slave, "+<", $path) or die; system("stty", "-F", $path, "raw", "-echo");
    print "$path\\n"; select($m); $| = 1; while (sysread(STDIN, my $b, 4096)) { syswrite($m, $b); }`;
  const child = spawn('perl', ['-e', perl], { stdio: ['pipe', 'pipe', 'inherit'] });
  children.push(child);
  const path = await new Promise<string>((done) =>
    child.stdout.once('data', (data: Buffer) => done(data.toString().trim())),
  );
  return { path, write: (text) => void child.stdin.write(text) };
}

/** The bridge as somebody starts it. */
function bridge(
  from: string,
  key: string,
  ...more: string[]
): { output(): string; ended: Promise<number | null> } {
  const child = spawn(
    process.execPath,
    ['--import', 'tsx', 'src/bridge/main.ts', '--from', from, '--to', door.url, ...more],
    { env: { ...process.env, MALLE_DEVICE_KEY: key } },
  );
  children.push(child);
  let output = '';
  child.stdout.on('data', (data: Buffer) => (output += data.toString()));
  child.stderr.on('data', (data: Buffer) => (output += data.toString()));
  return { output: () => output, ended: new Promise((done) => child.on('exit', done)) };
}

async function shown(
  id: string,
  holds: (device: DeviceAnswer) => boolean,
  after?: () => void,
): Promise<DeviceAnswer> {
  return until(async () => {
    const { body } = await custodian.get('/api/devices').expect(200);
    const device = (body as DeviceAnswer[]).find((one) => one.id === id)!;
    if (!holds(device)) after?.();
    return device;
  }, holds);
}

describe('three devices that print as nobody thought of', () => {
  const cases: readonly [string, string, readonly string[], (readonly number[] | null)[]][] = [
    [
      'a meter with decimal commas behind a time stamp',
      '{skip} Zellen [{cells}] {skip}',
      ['12:01:07 Zellen [3,841 | 3,832 | 3,850] ok\r\n', '12:01:08 Zellen [3,842 | 3,832 | 3,850] ok\r\n'],
      [[3842, 3832, 3850]],
    ],
    [
      'a logger that prints millivolts, a line a cell, and ends with a carriage return alone',
      '#{no};{cell:mV};{skip}',
      ['#1;3841;x\r#2;3832;x\r', '#1;3840;x\r#2;3831;x\r#1;'],
      [[3841, 3832]],
    ],
    [
      'a checker that prints noughts when nothing is plugged in, and half lines in between',
      'B{skip}={cells}V',
      [
        'B4=3.841/3.832/3.850/3.840V\nB4=3.84',
        '1/3.832/3.850/3.840V\n',
        '\u0007\u0000garbage\nB4=0.000/0.000/0.000/0.000V\n',
      ],
      [[3841, 3832, 3850, 3840], null],
    ],
  ];
  it.each(cases)('%s', async (_what, pattern, writes, wanted) => {
    const { device, secret } = await addDevice(custodian, 'meter', { patterns: [pattern] });
    const terminal = await pseudoTerminal();
    const process = bridge(terminal.path, secret);
    await shown(device.id, ({ isOpen, software }) => isOpen && software === 'bridge');
    // The port is opened beside the connection; what comes before either is nobody's loss.
    await until(
      () => process.output(),
      (told) => told.includes('Reading'),
    );
    if (wanted.length === 1) {
      for (const text of writes) terminal.write(text);
      await shown(device.id, ({ meter }) => JSON.stringify(meter?.cellsMv) === JSON.stringify(wanted[0]));
    } else {
      for (const text of writes.slice(0, 2)) terminal.write(text);
      await shown(device.id, ({ meter }) => JSON.stringify(meter?.cellsMv) === JSON.stringify(wanted[0]));
      terminal.write(writes[2]!);
      await shown(device.id, ({ meter }) => meter === null);
    }
  });
});

it('follows a file that is written into, and one that is begun anew', async () => {
  const { device, secret } = await addDevice(custodian, 'meter', { patterns: ['B {cells}'] });
  const file = join(mkdtempSync(join(tmpdir(), 'bridge-')), 'log.txt');
  writeFileSync(file, 'B 1.111 1.111\n');
  bridge(file, secret);
  await shown(device.id, ({ isOpen }) => isOpen);
  appendFileSync(file, 'B 3.841 3.832\n');
  await shown(
    device.id,
    ({ meter }) => meter?.cellsMv?.[0] === 3841,
    () => appendFileSync(file, 'B 3.841 3.832\n'),
  );
  writeFileSync(file, 'B 3.7\n');
  await shown(
    device.id,
    ({ meter }) => meter?.cellsMv?.[0] === 3700,
    () => appendFileSync(file, 'B 3.7\n'),
  );
});

it('says what is wrong with how it was started, and ends where its key is none', async () => {
  const none = bridge('/dev/null', 'malle_device_none');
  expect(await none.ended).toBe(1);
  expect(none.output()).toMatch(/key/);
  const wrong = spawn(process.execPath, [
    '--import',
    'tsx',
    'src/bridge/main.ts',
    '--from',
    'x',
    '--to',
    'http://x',
  ]);
  expect(await new Promise((done) => wrong.on('exit', done))).toBe(2);
});
