import {
  createCipheriv,
  createDecipheriv,
  createPrivateKey,
  createPublicKey,
  generateKeyPairSync,
  hkdfSync,
  randomBytes,
  sign,
  verify,
} from 'node:crypto';
import type { KeyObject } from 'node:crypto';
import { chmodSync, existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';

/** The register's own key: it lies outside the database, so that whoever has the database can neither sign nor read what is sealed. */
export interface Signer {
  /** What its signatures are known by: Ed25519, as base64. */
  readonly publicKey: string;
  /** The signature of a text, as base64. */
  sign(text: string): string;
  /** A secret as it may stand in the database; it is opened for the same owner alone. */
  seal(secret: string, owner: string): string;
  /** What was sealed; null where it was sealed by another key or for somebody else. */
  unseal(sealed: string, owner: string): string | null;
  /** What the register's cookies are signed with: the same in every process that has this key, and nowhere written down. */
  readonly cookieSecret: string;
}

/** AES-256 in the mode that also tells whether anything was changed: a nonce, a tag, and the sealed text, as base64. */
const CIPHER = 'aes-256-gcm';
const NONCE_BYTES = 12;
const TAG_BYTES = 16;
/** What stands in front of a sealed secret; the letters of a plain one never do. */
const SEALED = 'sealed:';

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
  const sealingKey = keyFor(privateKey, 'malle: secrets in the database');
  return {
    publicKey,
    sign: (text) => sign(null, Buffer.from(text), privateKey).toString('base64'),
    seal: (secret, owner) => sealedWith(sealingKey, secret, owner),
    unseal: (sealed, owner) => unsealedWith(sealingKey, sealed, owner),
    cookieSecret: keyFor(privateKey, 'malle: cookies').toString('base64'),
  };
}

/** A key of its own for each purpose: one that signs is used for nothing else. */
function keyFor(privateKey: KeyObject, purpose: string): Buffer {
  const bytes = privateKey.export({ type: 'pkcs8', format: 'der' });
  return Buffer.from(hkdfSync('sha256', bytes, '', purpose, 32));
}

function sealedWith(key: Buffer, secret: string, owner: string): string {
  const nonce = randomBytes(NONCE_BYTES);
  const cipher = createCipheriv(CIPHER, key, nonce).setAAD(Buffer.from(owner));
  const text = Buffer.concat([cipher.update(secret, 'utf8'), cipher.final()]);
  return SEALED + Buffer.concat([nonce, cipher.getAuthTag(), text]).toString('base64');
}

function unsealedWith(key: Buffer, sealed: string, owner: string): string | null {
  const bytes = Buffer.from(sealed.slice(SEALED.length), 'base64');
  if (!isSealed(sealed) || bytes.length < NONCE_BYTES + TAG_BYTES) return null;
  const text = bytes.subarray(NONCE_BYTES + TAG_BYTES);
  try {
    const cipher = createDecipheriv(CIPHER, key, bytes.subarray(0, NONCE_BYTES))
      .setAAD(Buffer.from(owner))
      .setAuthTag(bytes.subarray(NONCE_BYTES, NONCE_BYTES + TAG_BYTES));
    return Buffer.concat([cipher.update(text), cipher.final()]).toString();
  } catch {
    return null;
  }
}

/** Whether a text of the database is a sealed one. */
export function isSealed(text: string): boolean {
  return text.startsWith(SEALED);
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
