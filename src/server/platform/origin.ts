import type { RequestHandler } from 'express';
import { Refused } from './problems';

/** The browser says that page and server are one, and yet the server is asked by another name. */
const HOST_REWRITTEN =
  'A proxy in front of the server asks it by another name than you did. Whoever runs the server has the proxy pass on Host, or say X-Forwarded-Host.';

const SAFE = new Set(['GET', 'HEAD', 'OPTIONS']);

/**
 * Refuses changes asked for by another site. Browsers say where a request comes from; a page of another origin cannot
 * forge that, and cannot send JSON without asking first. Together with the SameSite cookie this is the defence against
 * cross-site request forgery.
 */
export function sameOrigin(): RequestHandler {
  return (req, _res, next) => {
    if (SAFE.has(req.method)) return next();
    const site = req.get('sec-fetch-site');
    if (site !== undefined && site !== 'same-origin' && site !== 'none') throw new Refused('foreign-origin');
    const origin = req.get('origin');
    // Behind a proxy the host is the one it was asked for, where it tells.
    if (origin !== undefined && hostOf(origin) !== req.host)
      throw new Refused('foreign-origin', site === 'same-origin' ? { detail: HOST_REWRITTEN } : {});
    // `false` is another type; a request without a body has none. A file is put, which a form of another site cannot.
    const isFile = req.method === 'PUT' && Boolean(req.is(['image/*', 'application/gzip']));
    if (!isFile && req.is('application/json') === false)
      throw new Refused('not-json', { detail: 'Send application/json.' });
    next();
  };
}

function hostOf(origin: string): string | null {
  return URL.canParse(origin) ? new URL(origin).host : null;
}
