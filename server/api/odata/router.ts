import { Router, type ErrorRequestHandler } from 'express';
import { NoFilter } from '../../../core/dataset/odata-filter';
import { NoSelection } from '../../../core/dataset/selection';
import type { Deps } from '../deps';
import { Fault } from '../fault';
import { readersToo } from '../key';
import { countOf, entitySet } from './entity-set';
import { metadata } from './metadata';
import { publishedSets, rootOf } from './sets';

/** The published datasets as OData 4, read-only: what clients for reports and spreadsheets ask for by themselves. */
export function odataRouter(deps: Deps): Router {
  const { store, key } = deps;
  const router = Router();
  router.use((request, response, next) => {
    response.setHeader('OData-Version', '4.0');
    if (request.method !== 'GET' && request.method !== 'HEAD')
      throw new Fault('forbidden', 'The datasets are read here and never changed.');
    next();
  });
  router.use(readersToo(key, store));
  router.get('/', async (request, response) => {
    const value = (await publishedSets(store)).map(({ pipeline: { viewName, document } }) => ({
      name: viewName,
      title: document.name,
      kind: 'EntitySet',
      url: viewName,
    }));
    response.json({ '@odata.context': `${rootOf(request)}/$metadata`, value });
  });
  router.get('/$metadata', async (_request, response) => {
    response.type('application/xml').send(metadata(await publishedSets(store)));
  });
  router.get('/:set/$count', countOf(deps));
  router.get('/:set', entitySet(deps));
  router.use(faulty);
  return router;
}

const statuses: Readonly<Record<string, number>> = {
  'bad input': 400,
  'key needed': 401,
  forbidden: 405,
  'not found': 404,
  'changed meanwhile': 410,
};

const faulty: ErrorRequestHandler = (error: Error, _request, response, next) => {
  const known =
    error instanceof NoFilter || error instanceof NoSelection ? new Fault('bad input', error.message) : error;
  if (!(known instanceof Fault) || response.headersSent) return void next(error);
  const status = statuses[known.kind] ?? 500;
  response.status(status).json({ error: { code: known.kind, message: known.message } });
};
