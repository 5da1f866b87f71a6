import express, { Router } from 'express';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** The built screens: beside the built server, or in `dist` when run from the sources. */
const folder = ['../web/browser', '../../dist/web/browser']
  .map((path) => fileURLToPath(new URL(path, import.meta.url)))
  .find((path) => existsSync(join(path, 'index.html')));

/** Serves the screens. Every address without a file of its own is a place inside them. */
export function screens(): Router {
  const router = Router();
  if (!folder) return router;
  // Names of built files carry a hash of their content, so they never change.
  router.use(
    express.static(folder, {
      index: false,
      setHeaders: (response, path) =>
        void response.setHeader(
          'Cache-Control',
          /-[A-Z0-9]{8}\.\w+$/.test(path) ? 'max-age=31536000, immutable' : 'no-cache',
        ),
    }),
  );
  router.get('/{*place}', (request, response, next) => {
    if (/\.\w+$/.test(request.path)) return next();
    response.setHeader('Cache-Control', 'no-cache').sendFile('index.html', { root: folder });
  });
  return router;
}
