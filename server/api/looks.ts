import type { Request, Response, Router } from 'express';
import type * as v from 'valibot';
import { layerOrder, type StepLists } from '../../core/pipeline/layers';
import type { LookName, LookOf, Pool } from '../work/pool';
import {
  errorsQuery,
  findCellBody,
  layersQuery,
  marksQuery,
  measureBody,
  offersBody,
  sheetQuery,
  totalQuery,
  traceQuery,
  valuesBody,
  wordQuery,
} from '../contract/contract';
import { checked, Fault, readable } from './fault';
import type { Look } from '../work/session';

/** Aborts when the asker has gone. */
export function whileOpen(response: Response): AbortSignal {
  const abort = new AbortController();
  response.on('close', () => abort.abort());
  return abort.signal;
}

/** The layer asked for must be one of the document's. @throws Fault */
export function knownLayer(steps: StepLists, layer: string | undefined): void {
  if (layer !== undefined && !layerOrder(steps).includes(layer))
    throw new Fault(
      'not found',
      `There is no step “${layer}” in this version of the pipeline. It may have been taken out.`,
    );
}

/** What a request means: a report and the document that it is looked at with. */
export interface Meant extends Omit<Look, 'pulse'> {
  readonly steps: StepLists;
}

/**
 * The looks at a report, each at its address below the report's.
 * @param lookOf which report and document a request means, and where it stands
 */
export function addLooks(router: Router, pool: Pool, lookOf: (request: Request) => Promise<Meant>): void {
  const answer =
    <Name extends LookName>(
      name: Name,
      schema: v.GenericSchema<unknown, Omit<LookOf<Name>, keyof Look>>,
      what: string,
    ) =>
    async (request: Request, response: Response) => {
      const asked = checked(schema, request.method === 'GET' ? request.query : request.body, what);
      const { steps, ...look } = await lookOf(request);
      knownLayer(steps, (asked as { step?: string }).step);
      response.json(
        readable(
          await pool.look(name, { ...look, ...asked } as unknown as LookOf<Name>, { signal: whileOpen(response) }),
        ),
      );
    };
  router.get('/:report/sheet', answer('sheet', sheetQuery, 'The window'));
  /** How the report falls through all layers, for the stack. */
  router.get('/:report/layers', answer('layers', layersQuery, 'The pages'));
  router.get('/:report/errors', answer('errors', errorsQuery, 'The step'));
  /** The different values of some columns above a step, for the lists of its form. */
  router.post('/:report/values', answer('values', valuesBody, 'The columns'));
  /** What chosen cells hold together. */
  router.post('/:report/measure', answer('measure', measureBody, 'The cells'));
  /** Steps that fit what is selected, or what a certain step would do. */
  router.post('/:report/offers', answer('offers', offersBody, 'The selection'));
  router.post('/:report/find-cell', answer('findCell', findCellBody, 'The search'));
  router.get('/:report/trace', answer('trace', traceQuery, 'The cell'));
  /** A printed total that a step kept, with the rows that it covers. */
  router.get('/:report/total', answer('total', totalQuery, 'The total'));
  router.get('/:report/word', answer('word', wordQuery, 'The word'));
  /** Where a step split tables, and of which lines it made records, on a page. */
  router.get('/:report/marks', answer('marks', marksQuery, 'The page'));
}
