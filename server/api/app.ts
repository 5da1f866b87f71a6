import express, { type Express } from 'express';
import helmet from 'helmet';
import type { Deps } from './deps';
import { datasetRouter } from './dataset/router';
import { datasetsRouter } from './datasets';
import { Downloads } from './downloads';
import { odataRouter } from './odata/router';
import { readersRouter } from './readers';
import { faults, notFound } from './fault';
import { foldersRouter } from './folders';
import { guard } from './guard';
import { listsRouter } from './lists';
import { onlyWithKey } from './key';
import { pipelinesRouter } from './pipelines/router';
import { reportsRouter } from './reports/router';
import type { SqlAddress } from '../contract/answers';
import { screens } from './screens';
import { pipelineRunsRouter, runsRouter } from './runs';

export function app(deps: Deps): Express {
  const server = express();
  server.disable('x-powered-by');
  server.set('query parser', 'simple');
  server.use(guard);
  server.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          workerSrc: ["'self'", 'blob:'],
          imgSrc: ["'self'", 'data:', 'blob:'],
          fontSrc: ["'self'", 'data:'],
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  server.use((request, response, next) => {
    const began = performance.now();
    response.on('finish', () =>
      deps.log.info({
        method: request.method,
        path: request.path,
        status: response.statusCode,
        ms: Math.round(performance.now() - began),
      }),
    );
    next();
  });
  const downloads = new Downloads();
  server.use('/datasets', datasetsRouter(deps));
  server.use('/odata', odataRouter(deps));
  server.use(onlyWithKey(deps.key));
  server.use('/api', express.json({ limit: '5mb', type: 'application/json' }));
  server.use('/api/folders', foldersRouter(deps));
  server.use('/api/lists', listsRouter(deps));
  server.use('/api/pipelines', pipelinesRouter(deps));
  server.use('/api/pipelines/:id/reports', reportsRouter(deps));
  server.use('/api/pipelines/:id/runs', pipelineRunsRouter(deps));
  server.use('/api/pipelines/:id', datasetRouter(deps, downloads));
  server.use('/api/readers', readersRouter(deps));
  server.get('/api/sql', (_request, response) => void response.json(sqlAddress(deps)));
  server.use('/api/downloads', downloads.router());
  server.use('/api/runs', runsRouter(deps));
  server.use('/api', notFound);
  server.use(screens());
  server.use(notFound);
  server.use(faults(deps.log, () => deps.runs.isClosed));
  return server;
}

/** Where the published datasets can be queried with SQL; null: nowhere, as the server was started. */
function sqlAddress({ config, sql }: Deps): SqlAddress | null {
  const port = sql?.()?.port;
  return port === undefined || !config.sql
    ? null
    : { host: config.sql.host, port, secured: config.sql.tls !== undefined };
}
