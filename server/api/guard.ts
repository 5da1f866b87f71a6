import type { RequestHandler } from 'express';
import { Fault } from './fault';

const ours = /^(?:127\.0\.0\.1|localhost|\[::1\])(?::\d+)?$/;

/** Answers only to pages of our own: another site's name for this machine, or its scripts, get nothing. */
export const guard: RequestHandler = (request, _response, next) => {
  if (!ours.test(request.headers.host ?? ''))
    throw new Fault('forbidden', 'This server answers on its loopback address only.');
  const origin = request.headers.origin;
  if (origin !== undefined && !ours.test(origin.replace(/^https?:\/\//, '')))
    throw new Fault('forbidden', 'Requests from other sites are refused.');
  if (origin !== undefined && origin.replace(/^https?:\/\//, '') !== request.headers.host && request.method !== 'GET')
    throw new Fault('forbidden', 'Requests from other sites are refused.');
  if (request.headers['sec-fetch-site'] === 'cross-site')
    throw new Fault('forbidden', 'Requests from other sites are refused.');
  next();
};
