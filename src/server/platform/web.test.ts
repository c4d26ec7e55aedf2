import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { brotliCompressSync } from 'node:zlib';
import express from 'express';
import request from 'supertest';
import { webApplication, withNonce } from './web';

const SCRIPT = 'export const built = true;'.repeat(200);
let root: string;
let app: express.Express;

beforeAll(() => {
  root = mkdtempSync(join(tmpdir(), 'malle-web-'));
  mkdirSync(join(root, 'assets'));
  writeFileSync(join(root, 'index.html'), '<script nonce="%NONCE%"></script>');
  writeFileSync(join(root, 'assets', 'index-abc.js'), SCRIPT);
  writeFileSync(join(root, 'assets', 'index-abc.js.br'), brotliCompressSync(SCRIPT));
  app = express();
  app.use(withNonce());
  app.use(webApplication(root));
});
afterAll(() => rmSync(root, { recursive: true }));

const asked = (path: string, encodings: string) => request(app).get(path).set('accept-encoding', encodings);

it('sends a file as it was packed with the build to whoever can unpack it, and plain to everybody else', async () => {
  const packed = await asked('/assets/index-abc.js', 'gzip, br').expect(200);
  expect(packed.headers).toMatchObject({
    'content-encoding': 'br',
    'content-type': expect.stringContaining('javascript') as string,
    'cache-control': 'public, max-age=31536000, immutable',
    vary: expect.stringContaining('Accept-Encoding') as string,
  });
  const plain = await asked('/assets/index-abc.js', 'identity').expect(200);
  expect(plain.headers['content-encoding']).toBeUndefined();
  expect(plain.text).toBe(SCRIPT);
});

it.each(['/assets/index-old.js', '/assets/', '/assets/%2e%2e/index.html', '/assets/index-abc.js%00'])(
  'a file that is not there is not found, and never the page instead: %s',
  async (path) => {
    const { status, text } = await asked(path, 'identity');
    expect(status).toBe(404);
    expect(text).not.toContain('script');
  },
);

it('a range that the file does not have fells nothing', async () => {
  const { status } = await asked('/assets/index-abc.js', 'identity').set('range', 'bytes=999999-');
  expect(status).toBeLessThan(500);
});

it('every other address is the page, with a nonce of its own each time', async () => {
  const first = await asked('/packs/anything', 'identity').expect(200);
  const second = await asked('/', 'identity').expect(200);
  expect(first.text).toMatch(/nonce="[^%"]{20,}"/);
  expect(second.text).not.toBe(first.text);
  expect(first.headers['cache-control']).toBe('no-store');
});
