import { readFileSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { pino } from 'pino';
import request from 'supertest';
import { PROBLEMS, problemCode, problemOf } from '../../contract/problems';
import { openApp } from '../app';
import { addPack, addType, openTestApp, PASSWORD, testConfig } from '../testing/testApp';

const SERVER = join(__dirname, '..');

function sources(folder: string): string[] {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) return sources(path);
    return path.endsWith('.ts') && !path.endsWith('.test.ts') ? [readFileSync(path, 'utf8')] : [];
  });
}

it('every problem of the table is given somewhere, and no other', () => {
  const given = sources(SERVER).flatMap((source) =>
    [
      ...source.matchAll(
        /(?:new Refused|problemOf)\(\s*'([a-z-]+)'|\? problemOf\('([a-z-]+)'\) : problemOf\('([a-z-]+)'\)/g,
      ),
    ].flatMap(([, ...codes]) => codes.filter(Boolean)),
  );
  expect([...new Set(given)].sort()).toEqual(Object.keys(PROBLEMS).sort());
});

it('every problem knows its code again, and reads as a sentence', () => {
  for (const code of Object.keys(PROBLEMS) as (keyof typeof PROBLEMS)[]) {
    const problem = problemOf(code);
    expect(problemCode(problem)).toBe(code);
    expect(problem.title).toMatch(/^[A-Z].*\.$/);
    expect(problem.status).toBeGreaterThanOrEqual(400);
  }
  expect(problemCode({ type: '/problems/invented' })).toBeNull();
  expect(problemCode({})).toBeNull();
});

it('who tries what is not theirs is told of in a line of the server, without what they said', async () => {
  const test = await openTestApp();
  const lines: string[] = [];
  const log = pino({ level: 'info' }, { write: (line) => void lines.push(line) });
  const watched = await openApp(testConfig(test.url), log);
  try {
    const custodian = await test.as('custodian');
    const pack = await addPack(custodian, (await addType(custodian)).id, 'A-1');
    const agent = request.agent(watched.express);
    await agent.post('/api/session').send({ login: 'pilot', password: 'a wrong one' }).expect(401);
    await agent.post('/api/session').send({ login: 'pilot', password: PASSWORD }).expect(201);
    await agent.get('/api/people').expect(403);
    await agent.get(`/api/packs/${pack.id}`).expect(200);
    await agent.get('/api/packs/nowhere').expect(404);
    await agent.post('/api/records').set('origin', 'https://elsewhere.example').send({}).expect(403);
    const told = lines.map((line) => JSON.parse(line) as Record<string, unknown>);
    expect(told.filter(({ msg }) => msg === 'Refused')).toMatchObject([
      { refused: 'wrong-sign-in', method: 'POST', route: '/api/session' },
      { refused: 'not-allowed', method: 'GET', route: '/api/people', personId: test.people.pilot },
      { refused: 'foreign-origin', method: 'POST' },
    ]);
    expect(lines.join('')).not.toContain('a wrong one');
  } finally {
    await watched.close();
    await test.close();
  }
});
