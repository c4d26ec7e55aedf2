import type { FieldProblem } from '../../contract';

/** What is wrong at a field of an entry, whichever entry of the request it stands in. */
export function problemAt(problems: readonly FieldProblem[], field: string): string | undefined {
  return problems.find((problem) => problem.field.split('.').includes(field))?.message;
}
