import { readFileSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { PROBLEMS, problemCode, problemOf } from '../../contract/problems';

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
