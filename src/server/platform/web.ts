import { randomBytes } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import express from 'express';
import staticPacked from 'express-static-gzip';
import type { RequestHandler } from 'express';

/** What the built page carries where a request's nonce belongs. */
const NONCE_MARK = '%NONCE%';

/** A fresh nonce for every answer, before the policy that names it is written. */
export function withNonce(): RequestHandler {
  return (_req, res, next) => {
    res.locals.nonce = randomBytes(16).toString('base64');
    next();
  };
}

/** Serves the built application: files by their hashed names for ever, as they were packed with the build, and the page itself for every other address. */
export function webApplication(root: string): RequestHandler {
  const page = readFileSync(join(root, 'index.html'), 'utf8');
  const router = express.Router();
  router.use(
    '/assets',
    staticPacked(join(root, 'assets'), {
      enableBrotli: true,
      index: false,
      serveStatic: { immutable: true, maxAge: '1y' },
    }),
    // The page itself is no answer to whoever wants a file.
    (_req, res) => res.status(404).end(),
  );
  router.use(express.static(root, { index: false }));
  router.get('/{*path}', (_req, res) => {
    res
      .type('html')
      .set('cache-control', 'no-store')
      .send(page.replaceAll(NONCE_MARK, res.locals.nonce as string));
  });
  return router;
}
