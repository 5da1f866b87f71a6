import type { Request, Response, Router } from 'express';
import type * as v from 'valibot';
import type { Pool, TaskOf, TaskName } from '../work/pool';
import { errorsQuery, layersQuery, sheetQuery, traceQuery, valuesBody, wordQuery } from '../contract/contract';
import { checked, readable } from './fault';
import type { Look } from '../work/session';

/** Aborts when the asker has gone. */
export function whileOpen(response: Response): AbortSignal {
  const abort = new AbortController();
  response.on('close', () => abort.abort());
  return abort.signal;
}

/**
 * The looks at a report, each at its address below the report's.
 * @param lookOf which report and document a request means, and where it stands
 */
export function addLooks(router: Router, pool: Pool, lookOf: (request: Request) => Promise<Omit<Look, 'stale'>>): void {
  const answer =
    <Name extends TaskName>(name: Name, schema: v.GenericSchema<unknown, Omit<TaskOf<Name>, keyof Look>>, what: string) =>
    async (request: Request, response: Response) => {
      const asked = checked(schema, request.method === 'GET' ? request.query : request.body, what);
      response.json(readable(await pool.run(name, { ...(await lookOf(request)), ...asked } as unknown as TaskOf<Name>, { signal: whileOpen(response) })));
    };
  router.get('/:report/sheet', answer('sheet', sheetQuery, 'The window'));
  /** How the report falls through all layers, for the stack. */
  router.get('/:report/layers', answer('layers', layersQuery, 'The pages'));
  router.get('/:report/errors', answer('errors', errorsQuery, 'The step'));
  /** The different values of some columns above a step, for the lists of its form. */
  router.post('/:report/values', answer('values', valuesBody, 'The columns'));
  router.get('/:report/trace', answer('trace', traceQuery, 'The cell'));
  router.get('/:report/word', answer('word', wordQuery, 'The word'));
}
