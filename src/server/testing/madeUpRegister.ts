import { execFile } from 'node:child_process';
import { promisify } from 'node:util';
import { NOW } from './testApp';

/** Fills an empty database with the made-up register, by the program that does so: within Jest it takes half as long again. */
export async function layMadeUpRegister(url: string): Promise<void> {
  await promisify(execFile)(process.execPath, ['--import', 'tsx', 'src/demo/main.ts'], {
    env: { ...process.env, DATABASE_URL: url, MALLE_CLOCK: new Date(NOW).toISOString() },
  });
}
