import { createInterface } from 'node:readline/promises';
import { parseArgs } from 'node:util';
import { Link } from './link';
import { openSource } from './source';

const HELP = `npm run bridge -- --from <serial port or file> --to <the register> [--baud 9600] [--whole]

  --from   a serial port, as in /dev/ttyUSB0 or COM3, or a file that lines are written into
  --to     the register's door, as in ws://localhost:4180/api/instruments
  --baud   of a serial port; 9600 if left out
  --whole  read a file from its beginning, not only what is written from now on

The key of the device is taken from MALLE_DEVICE_KEY, or asked for. What is picked out of the lines is set at the register, under
Settings, Devices.
`;

/** A device prints faster than its figures change; of each tenth of a second the register gets the newest lines. */
const A_SECOND = 15;

/** Reads lines from a port or file and passes them to the register, as they are. */
async function main(): Promise<void> {
  const { values } = parseArgs({
    options: {
      from: { type: 'string' },
      to: { type: 'string' },
      baud: { type: 'string', default: '9600' },
      whole: { type: 'boolean', default: false },
      help: { type: 'boolean', default: false },
    },
  });
  const { from, to, baud, whole, help } = values;
  const baudRate = Number(baud);
  if (help || !from || !to || !Number.isInteger(baudRate) || baudRate <= 0) {
    process.stdout.write(HELP);
    process.exit(help ? 0 : 2);
  }
  if (!/^wss?:\/\//.test(to)) {
    process.stderr.write(`--to begins with ws:// or wss://, and this is ${to}.\n`);
    process.exit(2);
  }
  const key = process.env.MALLE_DEVICE_KEY ?? (await askedKey());
  const say = (words: string) => void process.stdout.write(`${words}\n`);
  const link = new Link({
    url: to,
    key: key.trim(),
    software: 'bridge',
    onState: say,
    onAnswer: (line) => {
      if (line.type === 'refused') say(`Not taken: ${line.field ?? ''} ${line.message}`);
      if (line.type === 'end') process.exitCode = 1;
      if (line.type === 'end') stop();
    },
  });
  let second = 0;
  let count = 0;
  const source = openSource(from, {
    baudRate,
    whole,
    onState: say,
    onLine: (text) => {
      const now = Math.floor(Date.now() / 1000);
      count = now === second ? count + 1 : 1;
      second = now;
      // A file read from its beginning comes as fast as the disk; it waits in the link instead.
      if (count <= A_SECOND || whole) link.say({ type: 'text', text });
    },
  });
  const stop = () => {
    source.close();
    link.close();
  };
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, stop);
}

async function askedKey(): Promise<string> {
  const asking = createInterface({ input: process.stdin, output: process.stdout });
  try {
    return await asking.question('The key of this device: ');
  } finally {
    asking.close();
  }
}

main().catch((error: unknown) => {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
  process.exit(2);
});
