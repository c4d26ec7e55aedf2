import { hash, verify } from '@node-rs/argon2';

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
