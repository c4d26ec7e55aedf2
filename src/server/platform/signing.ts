import { createPrivateKey, createPublicKey, generateKeyPairSync, sign, verify } from 'node:crypto';
import { chmodSync, existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';

/** The register's own key: it lies outside the database, so that whoever has the database cannot sign. */
export interface Signer {
  /** What its signatures are known by: Ed25519, as base64. */
  readonly publicKey: string;
  /** The signature of a text, as base64. */
  sign(text: string): string;
}

const OWNER_ONLY = 0o600;

/** Opens the key in this file, or makes one there. Throws where the file cannot be read, written, or holds something else. */
export function openSigner(path: string): Signer {
  if (!existsSync(path)) {
    mkdirSync(dirname(path), { recursive: true });
    const { privateKey } = generateKeyPairSync('ed25519');
    // Whoever starts at the same moment keeps the one key: the second one's writing fails, and it reads the first one's.
    writeOnce(path, privateKey.export({ type: 'pkcs8', format: 'pem' }) as string);
  }
  const privateKey = createPrivateKey(readFileSync(path));
  if (privateKey.asymmetricKeyType !== 'ed25519') throw new Error(`${path} holds no Ed25519 key.`);
  const publicKey = createPublicKey(privateKey).export({ type: 'spki', format: 'der' }).toString('base64');
  return { publicKey, sign: (text) => sign(null, Buffer.from(text), privateKey).toString('base64') };
}

/** The key that a command's environment names; null where it names none. */
export function signerOf({ MALLE_SIGNING_KEY: file }: NodeJS.ProcessEnv): Signer | null {
  return file === undefined ? null : openSigner(file);
}

function writeOnce(path: string, pem: string): void {
  try {
    writeFileSync(path, pem, { flag: 'wx', mode: OWNER_ONLY });
    chmodSync(path, OWNER_ONLY);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
  }
}

/** Whether this key signed this text; false for what is no key and no signature, too. */
export function isSigned(text: string, publicKey: string, signature: string): boolean {
  try {
    const key = createPublicKey({ key: Buffer.from(publicKey, 'base64'), type: 'spki', format: 'der' });
    return verify(null, Buffer.from(text), key, Buffer.from(signature, 'base64'));
  } catch {
    return false;
  }
}
