/** An answer that is JSON already, and what it means. */
export class JsonText<Meaning> {
  /** Never there; it carries the type. */
  readonly means?: Meaning | undefined;

  constructor(readonly text: string) {}
}

/**
 * An object as JSON, some of whose members are JSON already.
 * @param members at least one that is not
 */
export function jsonWith<Meaning>(
  members: object,
  texts: Readonly<Record<string, string>>,
): JsonText<Meaning> {
  const ready = Object.entries(texts).map(([name, text]) => `,${JSON.stringify(name)}:${text}`);
  return new JsonText(`${JSON.stringify(members).slice(0, -1)}${ready.join('')}}`);
}
