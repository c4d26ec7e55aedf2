import type { RequestHandler } from 'express';
import { Refused } from './problems';

/** Asked by whoever watches the process, from beside it. */
const ASKED_FROM_BESIDE: ReadonlySet<string> = new Set(['/health']);

/**
 * For a server behind a proxy that speaks HTTPS: says so to whoever comes past the proxy, or in plain, instead of letting them type a password that others can
 * read and a sign-in that never holds. A proxy that does not tell how it was reached looks the same from here.
 */
export function throughProxy(): RequestHandler {
  return (req, _res, next) => {
    if (!ASKED_FROM_BESIDE.has(req.path)) {
      const told = req.get('x-forwarded-proto');
      if (told === undefined) throw new Refused('past-proxy', { detail: PAST });
      if (!req.secure) throw new Refused('past-proxy', { detail: PLAIN });
    }
    next();
  };
}

const PAST =
  'The server was asked without its HTTPS proxy, or the proxy does not say X-Forwarded-Proto. Use the register’s https address; if this is it, whoever runs the server looks at the proxy.';
const PLAIN =
  'The proxy was reached over plain HTTP. Use the register’s https address; whoever runs the server has the proxy lead there.';
