import { createHash } from 'node:crypto';
import type { Instant } from '../../core/measure';
import { isSigned } from '../platform/signing';

/** What a checkpoint says: at this moment this register held so many things, whose tree has this root. */
export interface Statement {
  /** The register's own id. */
  readonly register: string;
  /** From 1, without a gap. */
  readonly number: number;
  readonly at: Instant;
  readonly leaves: number;
  readonly root: string;
  /** The digest of what is new, another or gone since the checkpoint before. */
  readonly changed: string;
  /** The digest of the checkpoint before it; noughts for the first. */
  readonly before: string;
}

/** A checkpoint as it leaves the machine: the very text that was signed, by which key, and the signature. */
export interface Signed {
  readonly statement: string;
  readonly key: string;
  readonly signature: string;
}

export const FIRST = '0'.repeat(64);

const HEAD = 'Malle checkpoint 1';
const LINES = ['register', 'number', 'at', 'leaves', 'root', 'changed', 'before'] as const;

/** The text that is signed: a line for each figure, so that a person can read it, too. */
export function statementText(statement: Statement): string {
  const said = { ...statement, at: new Date(statement.at).toISOString() };
  return [HEAD, ...LINES.map((name) => `${name} ${said[name]}`)].join('\n');
}

/** The file or the code on paper: the statement, the key and the signature. */
export function checkpointText({ statement, key, signature }: Signed): string {
  return `${statement}\nkey ${key}\nsignature ${signature}\n`;
}

/** A checkpoint read back from its text, with or without blank lines and strokes of another system; null for any other text. */
export function readCheckpoint(text: string): (Signed & { readonly said: Statement }) | null {
  const lines = text
    .split(/\r?\n/)
    .map((line) => line.trim())
    .filter((line) => line !== '');
  const statement = lines.slice(0, -2).join('\n');
  const said = readStatement(statement);
  const key = valueOf(lines.at(-2), 'key');
  const signature = valueOf(lines.at(-1), 'signature');
  return said && key && signature ? { statement, key, signature, said } : null;
}

/** What a signed text says; null when it is none. */
export function readStatement(text: string): Statement | null {
  const [head, ...lines] = text.split('\n');
  if (head !== HEAD || lines.length !== LINES.length) return null;
  const values = LINES.map((name, i) => valueOf(lines[i], name));
  if (values.some((value) => value === null)) return null;
  const [register, number, at, leaves, root, changed, before] = values as string[];
  const said = {
    register: register!,
    number: Number(number),
    at: Date.parse(at!),
    leaves: Number(leaves),
    root: root!,
    changed: changed!,
    before: before!,
  };
  return statementText(said) === text ? said : null;
}

function valueOf(line: string | undefined, name: string): string | null {
  return line?.startsWith(`${name} `) ? line.slice(name.length + 1) : null;
}

/** What the next checkpoint is chained to. */
export function digestOf({ statement, key, signature }: Signed): string {
  return createHash('sha256').update(checkpointText({ statement, key, signature })).digest('hex');
}

/** Whether the key that a checkpoint names has signed what it says. */
export function holds({ statement, key, signature }: Signed): boolean {
  return isSigned(statement, key, signature);
}
