import { createHash, timingSafeEqual } from 'node:crypto';
import type { Request, RequestHandler } from 'express';
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

/**
 * Answers only to who has the key: a browser that was opened with it once (`/?key=...`, kept as a cookie of this site alone),
 * or a program that sends it (`Authorization: Bearer ...`, or `?key=...` to an address of the interface).
 */
export function onlyWithKey(key: string): RequestHandler {
  const own = digest(key);
  const fits = (given: string | undefined) => given !== undefined && timingSafeEqual(digest(given), own);
  return (request, response, next) => {
    const { key: asked, ...rest } = request.query;
    const inAddress = typeof asked === 'string' ? asked : undefined;
    if (fits(inAddress) && !request.path.startsWith('/api/') && request.method === 'GET') {
      response.cookie(cookieName(request), key, { httpOnly: true, sameSite: 'strict', path: '/', maxAge: kept });
      const query = new URLSearchParams(rest as Record<string, string>).toString();
      // Not left in the address, where it would go into bookmarks and over shoulders. No host: two slashes would name one.
      return response.redirect(303, `${request.path.replace(/^\/+/, '/')}${query === '' ? '' : `?${query}`}`);
    }
    const bearer = /^Bearer (.+)$/i.exec(request.headers.authorization ?? '')?.[1];
    if (!fits(cookieOf(request)) && !fits(bearer) && !fits(inAddress))
      throw new Fault('key needed', 'This Able Sieve answers to its owner only. Open it by the address that it printed when it was started, or send the key from the file “key” of its data folder.');
    next();
  };
}
