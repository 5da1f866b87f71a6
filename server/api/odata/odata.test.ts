// The published datasets as OData 4, asked by a client of the registry over real HTTP.
import { cp, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { JSDOM } from 'jsdom';
import buildQuery from 'odata-query';
import { o } from 'odata';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { DatasetAnswer, PipelineFull } from '../../contract/contract';
import { serve, type Serving } from '../../house/serve';
import { demoFolder, demoPipeline, temporaryFolder } from '../../testing/folders';
import { asOwner } from '../../testing/owner';

let server: Serving;
let token: string;
let rows: Record<string, string | number | null>[];
const set = 'landings_by_species';
const headers = () => ({ Authorization: `Basic ${Buffer.from(`reader:${token}`).toString('base64')}` });
const ask = (path: string) => fetch(new URL(`/odata/${path}`, server.url), { headers: headers() });
type Entities = {
  '@odata.count'?: number;
  '@odata.nextLink'?: string;
  value: Record<string, string | number | null>[];
};
const entities = async (query: string) => (await ask(`${set}${query}`)).json() as Promise<Entities>;

beforeAll(async () => {
  const roots = await temporaryFolder();
  for (const week of [24, 25])
    await cp(join(demoFolder, `week-${week}.pdf`), join(roots, 'sheets', `week-${week}.pdf`));
  server = await serve({
    data: await temporaryFolder(),
    host: '127.0.0.1',
    port: 0,
    roots: [roots],
    uploadLimit: 1,
    logLevel: 'silent',
  });
  const owner = asOwner(server);
  const { id } = (await (
    await owner('/api/pipelines', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({
        document: JSON.parse(await readFile(demoPipeline, 'utf8')),
        folder: join(roots, 'sheets'),
      }),
    })
  ).json()) as PipelineFull;
  const { run } = (await (
    await owner(`/api/pipelines/${id}/runs`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: '{}',
    })
  ).json()) as { run: number };
  await (await owner(`/api/runs/${run}/events`)).text();
  ({ token } = (await (await owner('/api/readers/Reports', { method: 'PUT' })).json()) as { token: string });
  const { columns, window } = (await (
    await owner(`/api/pipelines/${id}/dataset?start=0&count=1000`)
  ).json()) as DatasetAnswer;
  rows = window.map(({ row, cells }) => ({
    RowNumber: row + 1,
    ...Object.fromEntries(columns.map(({ identifier }, i) => [identifier, cells[i] as string | number | null])),
  }));
});
afterAll(() => server?.stop());

describe('a dataset as OData', () => {
  it('is found by its service document, and described with types, headings and a key', async () => {
    const service = (await (await ask('')).json()) as {
      '@odata.context': string;
      value: { name: string; url: string }[];
    };
    expect([
      service['@odata.context'].endsWith('/odata/$metadata'),
      service.value.map(({ name, url }) => [name, url]),
    ]).toEqual([true, [[set, set]]]);
    const response = await ask('$metadata');
    expect([response.headers.get('odata-version'), response.headers.get('content-type')]).toEqual([
      '4.0',
      'application/xml; charset=utf-8',
    ]);
    const xml = new JSDOM(await response.text(), { contentType: 'application/xml' }).window.document;
    const properties = [...xml.querySelectorAll('EntityType > Property')].map((each) => [
      each.getAttribute('Name'),
      each.getAttribute('Type'),
      each.querySelector('Annotation')?.getAttribute('String') ?? '',
    ]);
    expect(properties.slice(0, 4)).toEqual([
      ['RowNumber', 'Edm.Int64', ''],
      ['week', 'Edm.Int64', 'Week'],
      ['week_ending', 'Edm.Date', 'Week ending'],
      ['quay', 'Edm.String', 'Quay'],
    ]);
    expect(xml.querySelector('Key PropertyRef')!.getAttribute('Name')).toBe('RowNumber');
    expect(xml.querySelector(`EntitySet[Name="${set}"]`)!.getAttribute('EntityType')).toBe(`Datasets.${set}`);
  });

  it('gives its rows to a generic client: all, some, in an order, counted', async () => {
    const client = o(new URL('/odata/', server.url).href, { headers: headers() });
    expect(await client.get(set).query()).toEqual(rows);
    const some = rows
      .filter((row) => row['quay'] === 'Saltby' && Number(row['boxes']) >= 20)
      .sort((a, b) => Number(b['boxes']) - Number(a['boxes']) || Number(a['RowNumber']) - Number(b['RowNumber']));
    const found = await client.get(set).query({
      $filter: "quay eq 'Saltby' and boxes ge 20",
      $orderby: 'boxes desc',
      $top: 5,
      $skip: 2,
      $select: 'species,boxes',
    });
    expect(found).toEqual(some.slice(2, 7).map(({ RowNumber, species, boxes }) => ({ RowNumber, species, boxes })));
    const counted = await entities(buildQuery({ filter: { quay: 'Saltby' }, top: 1, count: true }));
    expect([counted['@odata.count'], counted.value.length]).toEqual([
      rows.filter((row) => row['quay'] === 'Saltby').length,
      1,
    ]);
    expect(await (await ask(`${set}/$count?$filter=boxes lt 10`)).text()).toBe(
      String(rows.filter((row) => row['boxes'] !== null && Number(row['boxes']) < 10).length),
    );
    const backwards = await entities('?$orderby=RowNumber desc&$top=3');
    expect(backwards.value).toEqual(rows.slice(-3).reverse());
    expect((await entities('?$orderby=RowNumber,boxes desc&$top=3')).value).toEqual(rows.slice(0, 3));
    const { '@odata.context': _, ...one } = (await (await ask(`${set}(7)`)).json()) as Record<string, unknown>;
    expect(one).toEqual(rows[6]);
  });

  it.each<[string, (row: Record<string, string | number | null>) => boolean]>([
    ["contains(tolower(species),'cod')", (row) => String(row['species']).toLowerCase().includes('cod')],
    ["startswith(code,'HK') or endswith(code,'1')", (row) => /^HK|1$/.test(String(row['code']))],
    ['weight_kg_gutted eq null', (row) => row['weight_kg_gutted'] === null],
    ['not (weight_kg_gutted gt 1000)', (row) => !(Number(row['weight_kg_gutted'] ?? 0) > 1000)],
    ['weight_kg_gutted ne 5', () => true],
    [
      "quay in ('Saltby','Tern Point') and week eq 25",
      (row) => ['Saltby', 'Tern Point'].includes(String(row['quay'])) && row['week'] === 25,
    ],
    ['week_ending ge 2025-06-07T00:00:00Z', (row) => String(row['week_ending']) >= '2025-06-07'],
    ['week_ending eq 2025-06-07T00:00:00Z', (row) => row['week_ending'] === '2025-06-07'],
    ['week_ending eq 2025-06-07T02:00:00.000+02:00', (row) => row['week_ending'] === '2025-06-07'],
    ['week_ending lt 2025-06-07T00:00:01Z', (row) => String(row['week_ending']) <= '2025-06-07'],
    ['week_ending in (2025-06-07T00:00:00Z)', (row) => row['week_ending'] === '2025-06-07'],
    ['week_ending ge 2025-06-20', (row) => String(row['week_ending']) >= '2025-06-20'],
    ['year(week_ending) eq 2025 and day(week_ending) lt 20', (row) => Number(String(row['week_ending']).slice(8)) < 20],
    ['length(species) gt 12', (row) => String(row['species']).length > 12],
  ])('filters by %s', async (filter, meets) => {
    expect((await entities(`?$filter=${encodeURIComponent(filter)}`)).value).toEqual(rows.filter(meets));
  });

  it('says what it does not do, as OData says it, and changes nothing', async () => {
    const refused = async (path: string, init: RequestInit = {}) => {
      const response = await fetch(new URL(`/odata/${path}`, server.url), { ...init, headers: headers() });
      return [response.status, ((await response.json()) as { error: { message: string } }).error.message];
    };
    expect(await refused(`${set}?$apply=groupby((quay))`)).toEqual([
      400,
      expect.stringContaining('$apply is not answered here'),
    ]);
    expect(await refused(`${set}?$filter=nothing eq 1`)).toEqual([400, 'There is no property “nothing”.']);
    expect(await refused(`${set}?$filter=boxes eq 'many'`)).toEqual([
      400,
      'A number and a text cannot be compared by eq.',
    ]);
    expect(await refused(`${set}?$filter=boxes eq`)).toEqual([400, 'Expected a property or a value at the end.']);
    expect(await refused(`${set}?$orderby=nothing`)).toEqual([400, 'There is no property “nothing”.']);
    expect(await refused(`${set}?$orderby=boxes,RowNumber desc`)).toEqual([
      400,
      'RowNumber desc is answered alone, not behind another property.',
    ]);
    expect(await refused(`${set}/$count?$apply=aggregate(boxes with sum as s)`)).toEqual([
      400,
      expect.stringContaining('$apply is not answered here'),
    ]);
    expect(await refused(`${set}?$filter=week_ending ge 2025-13-01T00:00:00Z`)).toEqual([
      400,
      expect.stringContaining('a moment that there is'),
    ]);
    expect(await refused(`${set}?$top=-1`)).toEqual([400, '$top is a whole number.']);
    expect(await refused('nothing')).toEqual([404, 'There is no published dataset “nothing”.']);
    expect(await refused(`${set}(9999)`)).toEqual([404, expect.stringContaining('there is no row 9999')]);
    expect(await refused(set, { method: 'POST', body: '{}' })).toEqual([
      405,
      'The datasets are read here and never changed.',
    ]);
    expect((await fetch(new URL(`/odata/${set}`, server.url))).status).toBe(401);
  });
});
