import { readFileSync, readdirSync, statSync } from 'node:fs';
import { join, relative } from 'node:path';

/** Every `@example expression // => value` in core's doc comments runs, so that it stays true. */

const CORE = join(__dirname, '..');
const EXAMPLE = /@example (.+?) \/\/ => (.+)$/gm;

function sources(folder: string): string[] {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) return sources(path);
    return path.endsWith('.ts') && !path.endsWith('.test.ts') ? [path] : [];
  });
}

const examples = sources(CORE).flatMap((path) =>
  [...readFileSync(path, 'utf8').matchAll(EXAMPLE)].map(([, expression, value]) => ({
    file: relative(CORE, path),
    path,
    expression: expression!,
    value: value!.replace(/\s*\*\/\s*$/, ''),
  })),
);

it('finds the examples', () => {
  expect(examples.length).toBeGreaterThan(25);
});

it.each(examples)('$file: $expression', async ({ path, expression, value }) => {
  const offered = (await import(path)) as Record<string, unknown>;
  const evaluate = (code: string): unknown =>
    // eslint-disable-next-line @typescript-eslint/no-implied-eval, @typescript-eslint/no-unsafe-call -- the code is our own comment
    new Function(...Object.keys(offered), `return (${code})`)(...Object.values(offered));
  expect(evaluate(expression)).toEqual(evaluate(value));
});
