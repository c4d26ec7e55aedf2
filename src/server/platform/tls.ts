import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { createCA, createCert } from 'mkcert';

/** A certificate and its key as PEM text. */
export interface Certificate {
  readonly cert: string;
  readonly key: string;
}

/** Ten years: whoever trusts the authority on a phone does so once. */
const AUTHORITY_DAYS = 3_650;
/** Phones refuse certificates that last much longer than a year. */
const CERTIFICATE_DAYS = 397;

/** Only whoever runs the server reads a key. */
const SECRET = { mode: 0o600 };

/** Where the parts of an HTTPS mode of one's own lie in a folder. */
export function certificateFiles(folder: string) {
  const at = (name: string) => join(folder, name);
  return {
    authority: at('authority.crt'),
    authorityKey: at('authority.key'),
    cert: at('server.crt'),
    key: at('server.key'),
    /** What a phone scans to trust the authority, on paper. */
    sheet: at('authority.pdf'),
  };
}

/**
 * Makes a certificate for these names and addresses, signed by an authority of one's own. The authority is made once and kept, so that phones
 * which trust it go on doing so when the server's name changes or its certificate ends.
 * @param names what the server is called in its network: `malle.local`, `192.168.1.20`
 */
export async function makeCertificate(folder: string, names: readonly string[]): Promise<void> {
  const files = certificateFiles(folder);
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  if (!existsSync(files.authority)) {
    const made = await createCA({
      organization: 'Malle authority of this club',
      countryCode: 'XX',
      state: 'none',
      locality: 'none',
      validity: AUTHORITY_DAYS,
    });
    writeFileSync(files.authorityKey, made.key, SECRET);
    writeFileSync(files.authority, made.cert);
  }
  const ca = { cert: readFileSync(files.authority, 'utf8'), key: readFileSync(files.authorityKey, 'utf8') };
  const { cert, key } = await createCert({ ca, domains: [...names], validity: CERTIFICATE_DAYS });
  writeFileSync(files.key, key, SECRET);
  writeFileSync(files.cert, cert);
}
