/** Lines of a programme in LP format, written term by term. */
export class Programme {
  readonly #rows: string[] = [];
  readonly #bounds: string[] = [];
  readonly #whole: string[] = [];
  readonly #objective = new Map<string, number>();
  #constant = 0;

  constructor(readonly sense: 'Minimize' | 'Maximize') {}

  row(terms: Iterable<readonly [string, number]>, relation: '<=' | '>=' | '=', right: number): void {
    const written = expression(terms);
    if (written) this.#rows.push(` r${this.#rows.length}: ${written} ${relation} ${number(right)}`);
  }

  objective(name: string, factor: number): void {
    this.#objective.set(name, (this.#objective.get(name) ?? 0) + factor);
  }

  constant(value: number): void {
    this.#constant += value;
  }

  upTo(name: string, most: number): void {
    this.#bounds.push(` 0 <= ${name} <= ${number(most)}`);
  }

  whole(name: string): void {
    this.#whole.push(` ${name}`);
  }

  text(): string {
    // A constant in the objective is not read by every solver: it is a variable that is fixed at one.
    const goal = [...this.#objective, ...(this.#constant === 0 ? [] : [['one', this.#constant] as const])];
    return [
      this.sense,
      ` goal: ${expression(goal) || '0 one'}`,
      'Subject To',
      ...this.#rows,
      ' fixed: one = 1',
      'Bounds',
      ...this.#bounds,
      ...(this.#whole.length > 0 ? ['General', ...this.#whole] : []),
      'End',
    ].join('\n');
  }
}

/** Lines are broken: some readers take no more than so many characters. */
const TERMS_A_LINE = 12;

function expression(terms: Iterable<readonly [string, number]>): string {
  const sums = new Map<string, number>();
  for (const [name, factor] of terms) sums.set(name, (sums.get(name) ?? 0) + factor);
  const written = [...sums]
    .filter(([, factor]) => factor !== 0)
    .map(([name, factor]) => `${factor < 0 ? '-' : '+'} ${number(Math.abs(factor))} ${name}`);
  const lines: string[] = [];
  for (let i = 0; i < written.length; i += TERMS_A_LINE)
    lines.push(written.slice(i, i + TERMS_A_LINE).join(' '));
  return lines.join('\n   ');
}

function number(value: number): string {
  return Number(value.toPrecision(12)).toString();
}

/** Whether a programme deals whole jobs to channels and spans, or any parts of them, which is solved sooner and proves less. */
export type Jobs = 'whole' | 'parts';
