import { readFileSync, readdirSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import { say } from './measure';

const ASSETS = 'dist/web/assets';

/** What a phone must fetch before it shows anything: the scripts the page names, compressed. */
export function benchFirstScreen(): void {
  const page = readFileSync('dist/web/index.html', 'utf8');
  const named = readdirSync(ASSETS).filter((file) => file.endsWith('.js') && page.includes(file));
  const bytes = named.reduce((sum, file) => sum + gzipSync(readFileSync(`${ASSETS}/${file}`)).length, 0);
  say('JavaScript of the first screen, compressed', `${(bytes / 1000).toFixed(1)} kB of 200 kB allowed`);
}
