import { readFileSync, readdirSync, statSync } from 'node:fs';
import { brotliCompressSync } from 'node:zlib';
import { say } from './measure';

const ASSETS = 'dist/web/assets';

/** What a phone must fetch before it shows anything: the scripts the page names, packed as they are sent. */
export function benchFirstScreen(): void {
  const page = readFileSync('dist/web/index.html', 'utf8');
  const named = readdirSync(ASSETS).filter((file) => file.endsWith('.js') && page.includes(file));
  const early = brotliCompressSync(readFileSync('dist/web/early.js')).length;
  const bytes = named.reduce((sum, file) => sum + statSync(`${ASSETS}/${file}.br`).size, early);
  say('JavaScript of the first screen, packed', `${(bytes / 1000).toFixed(1)} kB of 150 kB allowed`);
}
