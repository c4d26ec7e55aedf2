import { setPriority } from 'node:os';
import { VERIFY, verificationOf } from './evidence';
import { REBUILD, rebuilt } from './ledger';
import { redrawn, REDRAW } from './photos';
import type { HeavyOrder, Told } from './platform/heavy';
import { drawn, PRINT } from './platform/pdf';
import { REPORT, reportFrom } from './reports';

/** What a worker can do; each is run by `HeavyWork`. */
const WORK: Readonly<Record<string, (input: never, told: Told) => Promise<unknown>>> = {
  [PRINT.name]: drawn,
  [REDRAW.name]: redrawn,
  [REBUILD.name]: rebuilt,
  [REPORT.name]: reportFrom,
  [VERIFY.name]: verificationOf,
};

/** Whoever reads or writes a record goes first: on Linux this is the thread's own priority. */
const LATER = 10;
setPriority(LATER);

export default async function work({ task, input, port }: HeavyOrder): Promise<unknown> {
  const told: Told = (done, of) => port?.postMessage([done, of]);
  try {
    return await WORK[task]!(input as never, told);
  } finally {
    port?.close();
  }
}
