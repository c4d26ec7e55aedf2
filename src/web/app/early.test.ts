import { readFileSync } from 'node:fs';
import { runInNewContext } from 'node:vm';
import { ROLES } from '../../core/lifecycle';
import { firstPageOf } from './sections';

const SCRIPT = readFileSync('src/web/public/early.js', 'utf8');

/** Which addresses of the register a page asks before the application has arrived. */
async function askedEarly(
  pathname: string,
  session: object,
  kept: Record<string, string> = {},
): Promise<string[]> {
  const asked: string[] = [];
  const window: { malleEarly?: Record<string, Promise<Response | null>> } = {};
  const fetch = (path: string) => {
    asked.push(path);
    return Promise.resolve(new Response(JSON.stringify(path === '/api/session' ? session : {})));
  };
  const localStorage = { getItem: (key: string) => kept[key] ?? null };
  runInNewContext(SCRIPT, { window, fetch, localStorage, location: { pathname } });
  await Promise.all(Object.values(window.malleEarly ?? {}));
  return asked;
}

it('Today is asked for early by those whose first page it is, and by whoever goes there', async () => {
  for (const role of ROLES) {
    const session = { state: 'signed-in', person: { role } };
    const isFirst = firstPageOf(role) === 'today';
    expect([role, await askedEarly('/', session)]).toEqual([
      role,
      isFirst ? ['/api/session', '/api/today'] : ['/api/session'],
    ]);
    expect(await askedEarly('/today', session)).toEqual(['/api/session', '/api/today']);
    expect(await askedEarly('/packs', session)).toEqual(['/api/session']);
  }
});

it('nothing is told to somebody who is not in, and nothing asked by a device that was left without a network', async () => {
  expect(await askedEarly('/', { state: 'signed-out', demoPeople: [] })).toEqual(['/api/session']);
  const session = { state: 'signed-in', person: { role: 'custodian' } };
  expect(await askedEarly('/', session, { 'malle.left': 'yes' })).toEqual([]);
});
