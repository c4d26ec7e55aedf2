import { mkdtempSync, readFileSync, statSync } from 'node:fs';
import { createServer, request } from 'node:https';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { certificateFiles, makeCertificate } from './tls';

const folder = mkdtempSync(join(tmpdir(), 'malle-tls-'));
const files = certificateFiles(folder);
const read = (file: string) => readFileSync(file, 'utf8');

/** Asks a server with this certificate under a name, trusting only this authority; the reason where it is not trusted. */
async function asked(name: string, authority: string): Promise<string> {
  const server = createServer({ cert: read(files.cert), key: read(files.key) }, (_req, res) =>
    res.end('here'),
  );
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  try {
    return await new Promise<string>((resolve) => {
      const options = { host: '127.0.0.1', port, servername: name, ca: authority, agent: false } as const;
      request(options, (answer) => {
        answer.resume();
        answer.on('end', () => resolve('trusted'));
      })
        .on('error', (error: NodeJS.ErrnoException) => resolve(error.code ?? error.message))
        .end();
    });
  } finally {
    server.close();
  }
}

it('a phone that trusts the authority trusts the server under its names, and under no other', async () => {
  await makeCertificate(folder, ['malle.local', '127.0.0.1']);
  expect(await asked('malle.local', read(files.authority))).toBe('trusted');
  expect(await asked('elsewhere.local', read(files.authority))).toBe('ERR_TLS_CERT_ALTNAME_INVALID');
  expect(statSync(files.key).mode & 0o077).toBe(0);
  expect(statSync(files.authorityKey).mode & 0o077).toBe(0);
});

it('a new name gets a new certificate from the same authority', async () => {
  const trusted = read(files.authority);
  await makeCertificate(folder, ['bench.local']);
  expect(read(files.authority)).toBe(trusted);
  expect(await asked('bench.local', trusted)).toBe('trusted');
  expect(await asked('malle.local', trusted)).toBe('ERR_TLS_CERT_ALTNAME_INVALID');
});

it('nobody else’s authority is trusted', async () => {
  const other = mkdtempSync(join(tmpdir(), 'malle-tls-'));
  await makeCertificate(other, ['malle.local']);
  expect(await asked('bench.local', read(certificateFiles(other).authority))).not.toBe('trusted');
});
