import { hash, verify } from '@node-rs/argon2';
import { refusedField } from '../platform/problems';

/** Argon2id with the package's own parameters (19 MiB, two passes), stored in the self-describing PHC format. */
export function passwordHash(password: string): Promise<string> {
  return hash(password);
}

/** A hash nobody's password has; checked for unknown names, so that they take as long as known ones. */
let decoy: Promise<string> | null = null;

export async function passwordMatches(stored: string | null, password: string): Promise<boolean> {
  decoy ??= hash('nobody signs in with this');
  const matches = await verify(stored ?? (await decoy), password);
  return stored !== null && matches;
}

/** Some fifty thousand passwords that are tried first, all in small letters; fetched when a password is first chosen. */
let known: Promise<ReadonlySet<string>> | null = null;

async function knownPasswords(): Promise<ReadonlySet<string>> {
  const { dictionary } = await import('@zxcvbn-ts/language-common');
  return new Set(dictionary['passwords-common'].map(String));
}

/** A name this short says too little: a password may well contain it. */
const LEAST_NAME = 4;
const LEAST_CHARACTERS = 5;

/**
 * The hash of a password somebody chose; refuses one that guessing would find first.
 * @param whose their name and sign-in name, which everybody knows
 * @throws a refusal at the field `password`
 */
export async function chosenPassword(
  password: string,
  whose: { readonly name: string; readonly login: string },
): Promise<string> {
  const said = password.trim().toLowerCase();
  known ??= knownPasswords();
  const list = await known;
  if (list.has(said) || list.has(bare(said)))
    throw refusedField('password', 'This password is among those that are tried first. Choose another.');
  if (new Set(said).size < LEAST_CHARACTERS)
    throw refusedField('password', 'This password repeats a few characters. Choose another.');
  const names = [whose.login, ...whose.name.toLowerCase().split(/\s+/)].filter(
    (name) => name.length >= LEAST_NAME,
  );
  if (names.some((name) => bare(said.replaceAll(name, '')).length < LEAST_CHARACTERS))
    throw refusedField('password', 'This password is little more than your name. Choose another.');
  return passwordHash(password);
}

/** Without what is commonly hung on to a word: figures and marks at either end. */
function bare(word: string): string {
  return word.replace(/^[^\p{L}]+|[^\p{L}]+$/gu, '');
}
