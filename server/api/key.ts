import { createHash, timingSafeEqual } from 'node:crypto';
import type { Request, RequestHandler } from 'express';
import { isReaderToken } from '../store/readers';
import type { Store } from '../store/store';
import { Fault } from './fault';

/** How long a browser keeps the key, in milliseconds: it is the same for as long as the data folder lives. */
const kept = 400 * 24 * 3600 * 1000;

const digest = (text: string) => createHash('sha256').update(text).digest();

/** Cookies of one host are shared by all of its ports; each server has its own. */
const cookieName = (request: Request) => `able-sieve-${request.socket.localPort}`;

function cookieOf(request: Request): string | undefined {
  const name = cookieName(request);
  for (const each of (request.headers.cookie ?? '').split(';')) {
    const at = each.indexOf('=');
    if (at > 0 && each.slice(0, at).trim() === name) return each.slice(at + 1).trim();
  }
  return undefined;
}

/** What a request shows to be let in: its cookie, its header or its address. */
function shown(request: Request): {
  cookie: string | undefined;
  bearer: string | undefined;
  inAddress: string | undefined;
} {
  const { key } = request.query;
  return {
    cookie: cookieOf(request),
    bearer: /^Bearer (.+)$/i.exec(request.headers.authorization ?? '')?.[1],
    inAddress: typeof key === 'string' ? key : undefined,
  };
}

const isKey = (key: string) => {
  const own = digest(key);
  return (given: string | undefined) => given !== undefined && timingSafeEqual(digest(given), own);
};

/**
 * Answers only to who has the key: a browser that was opened with it once (`/?key=...`, kept as a cookie of this site alone),
 * or a program that sends it (`Authorization: Bearer ...`, or `?key=...` to an address of the interface).
 */
export function onlyWithKey(key: string): RequestHandler {
  const fits = isKey(key);
  return (request, response, next) => {
    const { key: _, ...rest } = request.query;
    const { cookie, bearer, inAddress } = shown(request);
    if (fits(inAddress) && !request.path.startsWith('/api/') && request.method === 'GET') {
      response.cookie(cookieName(request), key, { httpOnly: true, sameSite: 'strict', path: '/', maxAge: kept });
      const query = new URLSearchParams(rest as Record<string, string>).toString();
      // Not left in the address, where it would go into bookmarks and over shoulders. No host: two slashes would name one.
      return response.redirect(303, `${request.path.replace(/^\/+/, '/')}${query === '' ? '' : `?${query}`}`);
    }
    if (!fits(cookie) && !fits(bearer) && !fits(inAddress))
      throw new Fault(
        'key needed',
        'This Able Sieve answers to its owner only. Open it by the address that it printed when it was started, or send the key from the file “key” of its data folder.',
      );
    next();
  };
}

/** Lets in the owner, and whoever has the token of a reader: as a bearer, as `?key=...`, or as the password of a name (RFC 7617). */
export function readersToo(key: string, store: Store): RequestHandler {
  const fits = isKey(key);
  return async (request, response, next) => {
    const { cookie, bearer, inAddress } = shown(request);
    const basic = /^Basic (.+)$/i.exec(request.headers.authorization ?? '')?.[1];
    const password =
      basic === undefined
        ? undefined
        : Buffer.from(basic, 'base64')
            .toString()
            .replace(/^[^:]*:/, '');
    if ([cookie, bearer, inAddress, password].some(fits)) return next();
    for (const token of [bearer, inAddress, password])
      if (token !== undefined && (await isReaderToken(store, token))) return next();
    response.setHeader('WWW-Authenticate', 'Basic realm="Able Sieve datasets", charset="UTF-8"');
    throw new Fault(
      'key needed',
      'The datasets are read with a token. Ask the owner of this Able Sieve for one, and send it as “Authorization: Bearer TOKEN”, as the password of any name, or as ?key=TOKEN.',
    );
  };
}
