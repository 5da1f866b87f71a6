import { Router, type ErrorRequestHandler, type Request } from 'express';
import { NoFilter, parseFilter } from '../../core/dataset/odata-filter';
import { NoSelection } from '../../core/dataset/selection';
import type { ValueType } from '../../core/sheet/column';
import { isErrorCell, type OutRow } from '../export/out-row';
import { rowsOf } from '../export/out-rows';
import { headingWithUnit, type DatasetColumn } from '../store/data-table';
import { publicationOf, type Publication } from '../store/dataset';
import { filterSql } from '../store/odata-sql';
import { allPipelines, type StoredPipeline } from '../store/pipelines';
import type { Deps } from './deps';
import { Fault } from './fault';
import { readersToo } from './key';

/** Types of OData (CSDL 4.01, 4.4). Moments have no zone on paper: they are told as if in UTC. */
const edmTypes: Readonly<Record<ValueType, string>> = {
  text: 'Edm.String',
  period: 'Edm.String',
  integer: 'Edm.Int64',
  decimal: 'Edm.Decimal',
  percent: 'Edm.Decimal',
  date: 'Edm.Date',
  time: 'Edm.TimeOfDay',
  datetime: 'Edm.DateTimeOffset',
  boolean: 'Edm.Boolean',
};

/** The number of a row in the dataset, from 1: the key of an entity. */
const keyName = 'RowNumber';
const pageRows = 5_000;
const escaped = (text: string) =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');

/** Something of OData that is not had here. */
const notHad = (what: string) =>
  new Fault(
    'bad input',
    `${what} is not answered here. There are $select, $filter, $orderby, $top, $skip, $count and $format=json.`,
  );

interface Published {
  readonly pipeline: StoredPipeline;
  readonly publication: Publication;
}

/** The published datasets as OData 4, read-only: what clients for reports and spreadsheets ask for by themselves. */
export function odataRouter(deps: Deps): Router {
  const { store, runs, selections, key } = deps;
  const router = Router();
  router.use((request, response, next) => {
    response.setHeader('OData-Version', '4.0');
    if (request.method !== 'GET' && request.method !== 'HEAD')
      throw new Fault('forbidden', 'The datasets are read here and never changed.');
    next();
  });
  router.use(readersToo(key, store));

  const published = async (): Promise<Published[]> => {
    const all: Published[] = [];
    for (const pipeline of await allPipelines(store)) {
      const publication = await publicationOf(store, pipeline.id);
      if (publication) all.push({ pipeline, publication });
    }
    return all;
  };
  const named = async (name: string): Promise<Published> => {
    const found = (await published()).find(({ pipeline }) => pipeline.viewName === name);
    if (!found) throw new Fault('not found', `There is no published dataset “${name}”.`);
    return found;
  };
  const root = (request: Request) => `${request.protocol}://${request.headers.host}${request.baseUrl}`;

  router.get('/', async (request, response) => {
    const value = (await published()).map(({ pipeline: { viewName, document } }) => ({
      name: viewName,
      title: document.name,
      kind: 'EntitySet',
      url: viewName,
    }));
    response.json({ '@odata.context': `${root(request)}/$metadata`, value });
  });

  router.get('/$metadata', async (_request, response) => {
    response.type('application/xml').send(metadata(await published()));
  });

  router.get('/:set/$count', async (request, response) => {
    const { publication } = await named(request.params.set);
    const places = await placesOf(publication, request.query);
    response.type('text/plain').send(String(places.length));
  });

  router.get('/:set', async (request, response) => {
    const { set } = request.params;
    const entity = /^(\w+)\((\d{1,9})\)$/.exec(set);
    const { publication, pipeline } = await named(entity?.[1] ?? set);
    const query = request.query as Record<string, string | undefined>;
    for (const name of Object.keys(query))
      if (
        name.startsWith('$') &&
        !['$select', '$filter', '$orderby', '$top', '$skip', '$count', '$format', '$skiptoken'].includes(name)
      )
        throw notHad(name);
    if (query['$format'] !== undefined && !/json/.test(query['$format'])) throw notHad(`$format=${query['$format']}`);
    const select = query['$select']
      ?.split(',')
      .map((each) => each.trim())
      .filter((each) => each !== '' && each !== '*');
    const columns =
      select && select.length > 0
        ? select.filter((each) => each !== keyName).map((each) => columnIn(publication, each))
        : publication.columns;
    const context = `${root(request)}/$metadata#${pipeline.viewName}${select ? `(${[keyName, ...columns.map(({ identifier }) => identifier)].join(',')})` : ''}`;
    await runs.reading(publication.id, async () => {
      if (entity) {
        const at = Number(entity[2]) - 1;
        if (at < 0 || at >= publication.rows)
          throw new Fault('not found', `The dataset has rows 1 to ${publication.rows}; there is no row ${at + 1}.`);
        const [row] = await entities(publication, columns, Uint32Array.of(at));
        return void response.json({ '@odata.context': `${context}/$entity`, ...row });
      }
      const token = query['$skiptoken'];
      if (token !== undefined && token.slice(0, token.lastIndexOf('.')) !== publication.token)
        throw new Fault(
          'changed meanwhile',
          'The dataset was published anew since the first page was asked for: begin again.',
        );
      const all = await placesOf(publication, query);
      const skip = numberIn(query, '$skip') ?? 0;
      const top = numberIn(query, '$top') ?? Infinity;
      const wanted = all.subarray(skip, Math.min(all.length, skip + top));
      const from = token === undefined ? 0 : Number(token.split('.').at(-1));
      const value = await entities(publication, columns, wanted.subarray(from, from + pageRows));
      const more = from + pageRows < wanted.length;
      const address = new URLSearchParams(
        Object.entries(query).flatMap(([name, each]) =>
          each === undefined || name === '$skiptoken' || name === 'key' ? [] : [[name, each] as [string, string]],
        ),
      );
      address.set('$skiptoken', `${publication.token}.${from + pageRows}`);
      response.json({
        '@odata.context': context,
        ...(query['$count'] === 'true' ? { '@odata.count': all.length } : {}),
        value,
        ...(more ? { '@odata.nextLink': `${root(request)}/${pipeline.viewName}?${address}` } : {}),
      });
    });
  });

  async function placesOf(publication: Publication, query: Record<string, unknown>): Promise<Uint32Array> {
    const { $filter: filter, $orderby: order } = query as Record<string, string | undefined>;
    if (!filter && !order) return Uint32Array.from({ length: publication.rows }, (_, row) => row);
    const parsed = filter ? parseFilter(filter) : undefined;
    const byName = (name: string) => publication.columns.find(({ identifier }) => identifier === name);
    const orders = (order ?? '').split(',').flatMap((each) => {
      const [, name, way] = /^\s*(\w+)(?:\s+(asc|desc))?\s*$/.exec(each) ?? [];
      if (each.trim() === '' || name === keyName) return [];
      if (name === undefined)
        throw new Fault(
          'bad input',
          `“${each.trim()}” is no order: name a property, “desc” behind it for the largest first.`,
        );
      return [{ column: columnIn(publication, name).heading, down: way === 'desc' }];
    });
    return selections.placesOf(
      publication,
      { where: [], order: orders },
      filter,
      parsed ? (params) => filterSql(parsed, byName, params) : undefined,
    );
  }

  async function entities(
    publication: Publication,
    columns: readonly DatasetColumn[],
    places: Uint32Array,
  ): Promise<object[]> {
    const all: object[] = [];
    let at = 0;
    for await (const rows of rowsOf(store, publication, { columns, places }))
      for (const row of rows) all.push({ [keyName]: places[at++] + 1, ...entity(row, columns) });
    return all;
  }

  const faulty: ErrorRequestHandler = (error: Error, _request, response, next) => {
    const known =
      error instanceof NoFilter || error instanceof NoSelection ? new Fault('bad input', error.message) : error;
    if (!(known instanceof Fault) || response.headersSent) return void next(error);
    const status =
      { 'bad input': 400, 'key needed': 401, forbidden: 405, 'not found': 404, 'changed meanwhile': 410 }[
        known.kind as string
      ] ?? 500;
    response.status(status).json({ error: { code: known.kind, message: known.message } });
  };
  router.use(faulty);
  return router;
}

function columnIn({ columns }: Publication, name: string): DatasetColumn {
  const found = columns.find(({ identifier }) => identifier === name);
  if (!found) throw new Fault('bad input', `There is no property “${name}”.`);
  return found;
}

function numberIn(query: Record<string, string | undefined>, name: string): number | undefined {
  const text = query[name];
  if (text === undefined) return undefined;
  if (!/^\d{1,9}$/.test(text)) throw new Fault('bad input', `${name} is a whole number.`);
  return Number(text);
}

/** A row by the identifiers of its columns; error cells are null, and told as instance annotations. */
function entity({ cells }: OutRow, columns: readonly DatasetColumn[]): Record<string, unknown> {
  return Object.fromEntries(
    columns.flatMap(({ identifier, type }, i): [string, unknown][] => {
      const cell = cells[i];
      if (cell !== null && isErrorCell(cell))
        return [
          [`${identifier}@problem.text`, cell.text],
          [identifier, null],
        ];
      return [[identifier, cell !== null && type === 'datetime' ? `${String(cell).replace(' ', 'T')}Z` : cell]];
    }),
  );
}

/** What there is, as CSDL in XML: a type and a set for each dataset, the printed headings and units as annotations. */
function metadata(all: readonly Published[]): string {
  const types = all.map(({ pipeline: { viewName }, publication }) => {
    const properties = publication.columns.map(
      ({ identifier, type, ...named }) =>
        `<Property Name="${identifier}" Type="${edmTypes[type]}"${type === 'decimal' || type === 'percent' ? ' Scale="variable"' : ''}><Annotation Term="Org.OData.Core.V1.Description" String="${escaped(headingWithUnit(named))}"/></Property>`,
    );
    return `<EntityType Name="${viewName}"><Key><PropertyRef Name="${keyName}"/></Key><Property Name="${keyName}" Type="Edm.Int64" Nullable="false"/>${properties.join('')}</EntityType>`;
  });
  const sets = all.map(
    ({ pipeline: { viewName, document } }) =>
      `<EntitySet Name="${viewName}" EntityType="Datasets.${viewName}"><Annotation Term="Org.OData.Core.V1.Description" String="${escaped(document.name)}"/></EntitySet>`,
  );
  return `<?xml version="1.0" encoding="UTF-8"?><edmx:Edmx Version="4.0" xmlns:edmx="http://docs.oasis-open.org/odata/ns/edmx"><edmx:DataServices><Schema Namespace="Datasets" xmlns="http://docs.oasis-open.org/odata/ns/edm">${types.join('')}<EntityContainer Name="All">${sets.join('')}</EntityContainer></Schema></edmx:DataServices></edmx:Edmx>`;
}
