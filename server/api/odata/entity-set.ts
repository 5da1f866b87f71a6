import type { RequestHandler } from 'express';
import type { Deps } from '../deps';
import { Fault } from '../fault';
import { nextPage } from '../query-address';
import { entitiesAt } from './entities';
import { numberIn, ofCount, ofSet, onlyKnown, placesIn, selectedIn, type Query } from './options';
import { keyName, rootOf, setNamed, type PublishedSet } from './sets';

/** So many rows come at once. */
const pageRows = 5_000;

/** How many rows a filter takes. */
export function countOf({ store, selections }: Deps): RequestHandler<{ set: string }> {
  return async (request, response) => {
    const query = request.query as Query;
    onlyKnown(query, ofCount);
    const { publication } = await setNamed(store, request.params.set);
    const places = await placesIn(selections, publication, query);
    response.type('text/plain').send(String(places.length));
  };
}

/** Rows of a dataset page by page, or one of them by its number. */
export function entitySet(deps: Deps): RequestHandler<{ set: string }> {
  const { store, runs } = deps;
  return async (request, response) => {
    const [, name, row] = /^(\w+)\((\d{1,9})\)$/.exec(request.params.set) ?? [];
    const set = await setNamed(store, name ?? request.params.set);
    const query = request.query as Query;
    onlyKnown(query, ofSet);
    const root = rootOf(request);
    response.json(
      await runs.reading(set.publication.id, () =>
        row === undefined ? pageOf(deps, set, query, root) : entityOf(deps, set, query, root, Number(row)),
      ),
    );
  };
}

function contextOf({ pipeline, publication }: PublishedSet, query: Query, root: string) {
  const selected = selectedIn(publication, query);
  const columns = selected ?? publication.columns;
  const names = selected ? `(${[keyName, ...columns.map(({ identifier }) => identifier)].join(',')})` : '';
  return { columns, context: `${root}/$metadata#${pipeline.viewName}${names}` };
}

/** @param number of the row, from 1 */
async function entityOf(
  { store }: Deps,
  set: PublishedSet,
  query: Query,
  root: string,
  number: number,
): Promise<object> {
  const { publication } = set;
  const { columns, context } = contextOf(set, query, root);
  if (number < 1 || number > publication.rows)
    throw new Fault('not found', `The dataset has rows 1 to ${publication.rows}; there is no row ${number}.`);
  const [row] = await entitiesAt(store, publication, columns, Uint32Array.of(number - 1));
  return { '@odata.context': `${context}/$entity`, ...row };
}

async function pageOf({ store, selections }: Deps, set: PublishedSet, query: Query, root: string): Promise<object> {
  const { publication, pipeline } = set;
  const { columns, context } = contextOf(set, query, root);
  const token = query['$skiptoken'];
  if (token !== undefined && token.slice(0, token.lastIndexOf('.')) !== publication.token)
    throw new Fault(
      'changed meanwhile',
      'The dataset was published anew since the first page was asked for: begin again.',
    );
  const all = await placesIn(selections, publication, query);
  const skip = numberIn(query, '$skip') ?? 0;
  const top = numberIn(query, '$top') ?? Infinity;
  const wanted = all.subarray(skip, Math.min(all.length, skip + top));
  const from = token === undefined ? 0 : Number(token.split('.').at(-1));
  const value = await entitiesAt(store, publication, columns, wanted.subarray(from, from + pageRows));
  const next = nextPage(query, '$skiptoken', `${publication.token}.${from + pageRows}`);
  return {
    '@odata.context': context,
    ...(query['$count'] === 'true' ? { '@odata.count': all.length } : {}),
    value,
    ...(from + pageRows < wanted.length ? { '@odata.nextLink': `${root}/${pipeline.viewName}?${next}` } : {}),
  };
}
