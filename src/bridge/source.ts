import { closeSync, openSync, readSync, statSync } from 'node:fs';
import { StringDecoder } from 'node:string_decoder';
import { SerialPort } from 'serialport';

/** Where lines come from. */
export interface Source {
  close(): void;
}

export interface SourceOptions {
  readonly baudRate: number;
  /** For a file: read it from its beginning, not only what is written from now on. */
  readonly whole: boolean;
  readonly onLine: (line: string) => void;
  readonly onState: (words: string) => void;
}

const AGAIN_MS = 2_000;
const FILE_EVERY_MS = 250;
const LARGEST_READ = 64 * 1024;
/** A device that prints no line ends is cut here. */
const LONGEST_LINE = 400;

/** Reads lines from a serial port or a file, and comes again when the port goes away or the file is begun anew. */
export function openSource(path: string, options: SourceOptions): Source {
  return isDevice(path) ? serialSource(path, options) : fileSource(path, options);
}

function isDevice(path: string): boolean {
  if (/^COM\d+$/i.test(path) || path.startsWith('/dev/')) return true;
  try {
    return statSync(path).isCharacterDevice();
  } catch {
    return false;
  }
}

function serialSource(path: string, { baudRate, onLine, onState }: SourceOptions): Source {
  let port: SerialPort | null = null;
  let closed = false;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const again = (why: string) => {
    if (closed) return;
    onState(`${path}: ${why} Trying again.`);
    timer = setTimeout(open, AGAIN_MS);
  };
  const open = () => {
    const lines = splitter(onLine);
    port = new SerialPort({ path, baudRate, autoOpen: false });
    port.on('data', (data: Buffer) => lines(data));
    port.on('error', () => undefined);
    port.open((error) => {
      if (error) return again(`it cannot be opened (${error.message}).`);
      onState(`Reading ${path} at ${baudRate} baud.`);
      port!.once('close', () => again('it went away.'));
    });
  };
  open();
  return {
    close: () => {
      closed = true;
      clearTimeout(timer);
      if (port?.isOpen) port.close(() => undefined);
    },
  };
}

function fileSource(path: string, { whole, onLine, onState }: SourceOptions): Source {
  const lines = splitter(onLine);
  let at = -1;
  let missing = false;
  const read = () => {
    let file: number;
    try {
      file = openSync(path, 'r');
    } catch {
      if (!missing) onState(`${path}: there is no such file yet.`);
      missing = true;
      at = 0;
      return;
    }
    try {
      const { size } = statSync(path);
      if (at === -1) {
        at = whole ? 0 : size;
        onState(`Reading ${path}${whole ? '' : ' from its end'}.`);
      }
      // A file that became shorter was begun anew.
      if (size < at) at = 0;
      missing = false;
      const buffer = Buffer.alloc(LARGEST_READ);
      for (;;) {
        const count = readSync(file, buffer, 0, buffer.length, at);
        if (count === 0) break;
        at += count;
        lines(buffer.subarray(0, count));
      }
    } finally {
      closeSync(file);
    }
  };
  const timer = setInterval(read, FILE_EVERY_MS);
  read();
  return { close: () => clearInterval(timer) };
}

/** Bytes into lines, whatever ends them; a character may be cut between two reads. */
function splitter(onLine: (line: string) => void): (data: Buffer) => void {
  const decoder = new StringDecoder('utf8');
  let rest = '';
  return (data) => {
    rest += decoder.write(data);
    const parts = rest.split(/\r\n|\n|\r/);
    rest = parts.pop()!;
    for (const part of parts) if (part !== '') onLine(part.slice(0, LONGEST_LINE));
    if (rest.length > LONGEST_LINE) {
      onLine(rest.slice(0, LONGEST_LINE));
      rest = '';
    }
  };
}
