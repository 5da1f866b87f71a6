// The published datasets as other programs read them, over real HTTP.
import { cp, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { parse } from 'csv-parse/sync';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ApiError, DownloadAnswer, PipelineFull } from '../contract/contract';
import { serve, type Serving } from '../house/serve';
import { demoFolder, demoPipeline, temporaryFolder } from '../testing/folders';
import { asOwner } from '../testing/owner';
import type { DatasetListed } from './datasets';

let server: Serving;
let token: string;
const name = 'landings_by_species';
const owner = (path: string, init: RequestInit = {}) => asOwner(server)(path, init);
const plain = (path: string, headers: Record<string, string> = {}) => fetch(new URL(path, server.url), { headers });
const reader = (path: string, headers: Record<string, string> = {}) =>
  plain(path, { Authorization: `Bearer ${token}`, ...headers });
const errorOf = async (response: Response) => ({
  status: response.status,
  ...((await response.json()) as ApiError).error,
});
type Rows = Record<string, string | number | null>[];
const rows = async (query: string): Promise<Rows> =>
  (await reader(`/datasets/${name}.json?${query}`)).json() as Promise<Rows>;

async function refreshed(id: number) {
  const { run } = (await (
    await owner(`/api/pipelines/${id}/runs`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: '{}',
    })
  ).json()) as { run: number };
  await (await owner(`/api/runs/${run}/events`)).text();
}

let id: number;
let folder: string;
beforeAll(async () => {
  const roots = await temporaryFolder();
  folder = join(roots, 'sheets');
  for (const week of [24, 25]) await cp(join(demoFolder, `week-${week}.pdf`), join(folder, `week-${week}.pdf`));
  server = await serve({
    data: await temporaryFolder(),
    host: '127.0.0.1',
    port: 0,
    roots: [roots],
    uploadLimit: 1,
    logLevel: 'silent',
  });
  const made = await owner('/api/pipelines', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ document: JSON.parse(await readFile(demoPipeline, 'utf8')), folder }),
  });
  ({ id } = (await made.json()) as PipelineFull);
  expect(await errorOf(await owner(`/datasets/${name}.csv`))).toMatchObject({
    status: 404,
    message: expect.stringContaining('no published dataset yet'),
  });
  await refreshed(id);
  ({ token } = (await (await owner('/api/readers/Fish%20office', { method: 'PUT' })).json()) as { token: string });
});
afterAll(() => server?.stop());

describe('a file on its way to the screen', () => {
  const file = (extension: string, ticket: string) =>
    owner(`/api/pipelines/${id}/dataset.${extension}?ticket=${ticket}`);
  const told = async (ticket: string) => (await (await owner(`/api/downloads/${ticket}`)).json()) as DownloadAnswer;

  it('tells under its ticket how many rows it has, in every format, and that the whole of it was sent', async () => {
    for (const extension of ['csv', 'tsv', 'xlsx', 'json', 'jsonl', 'parquet', 'sql', 'zip']) {
      const plainly = Buffer.from(await (await owner(`/api/pipelines/${id}/dataset.${extension}`)).arrayBuffer());
      const ticketed = Buffer.from(await (await file(extension, `t-${extension}`)).arrayBuffer());
      // The ticket is no part of what is asked for.
      if (extension !== 'xlsx') expect(ticketed.equals(plainly), extension).toBe(true);
      expect(await told(`t-${extension}`)).toEqual({ rows: 136, taken: 136, state: 'done' });
    }
  });

  it('can be cancelled, and is unknown under a ticket that nothing was asked with', async () => {
    await (await file('csv', 'over')).text();
    expect((await owner('/api/downloads/over', { method: 'DELETE' })).status).toBe(204);
    expect((await told('over')).state).toBe('done');
    expect(await errorOf(await owner('/api/downloads/none'))).toMatchObject({
      status: 404,
      message: 'No file is on its way under this ticket.',
    });
    expect((await owner('/api/downloads/none', { method: 'DELETE' })).status).toBe(404);
    expect((await reader('/api/downloads/over')).status).toBe(401);
  });
});

describe('who reads the datasets', () => {
  it('has a token, sent in any of three ways, that opens nothing else', async () => {
    const basic = `Basic ${Buffer.from(`anyone:${token}`).toString('base64')}`;
    for (const response of [
      await reader('/datasets'),
      await plain('/datasets', { Authorization: basic }),
      await plain(`/datasets?key=${token}`),
      await owner('/datasets'),
    ])
      expect(response.status).toBe(200);
    for (const path of ['/api/pipelines', '/api/readers', `/api/pipelines/${id}/dataset.csv`])
      expect((await reader(path)).status).toBe(401);
    const refused = await plain('/datasets');
    expect([refused.status, refused.headers.get('www-authenticate')]).toEqual([
      401,
      'Basic realm="Able Sieve datasets", charset="UTF-8"',
    ]);
    expect((await plain('/datasets', { Authorization: 'Bearer wrong' })).status).toBe(401);
  });

  it('is listed, has another token when it is given one again, and none when it is taken out', async () => {
    const given = async () =>
      ((await (await owner('/api/readers/Second', { method: 'PUT' })).json()) as { token: string }).token;
    const [first, second] = [await given(), await given()];
    expect(((await (await owner('/api/readers')).json()) as { name: string }[]).map((each) => each.name)).toEqual([
      'Fish office',
      'Second',
    ]);
    expect([(await plain(`/datasets?key=${first}`)).status, (await plain(`/datasets?key=${second}`)).status]).toEqual([
      401, 200,
    ]);
    expect((await owner('/api/readers/Second', { method: 'DELETE' })).status).toBe(204);
    expect((await plain(`/datasets?key=${second}`)).status).toBe(401);
    expect(await errorOf(await owner('/api/readers/Second', { method: 'DELETE' }))).toMatchObject({
      status: 404,
      message: 'There is no reader “Second”.',
    });
  });
});

describe('datasets under their names', () => {
  it('are listed with their columns and files, each of which can be had', async () => {
    const [listed, ...more] = (await (await reader('/datasets')).json()) as DatasetListed[];
    expect(more).toEqual([]);
    expect([listed.name, listed.title, listed.rows, listed.columns[0]]).toEqual([
      name,
      'Landings by species',
      136,
      { name: 'Week', type: 'integer' },
    ]);
    for (const file of listed.files) {
      const response = await reader(file);
      expect([file, response.status, response.headers.get('x-rows')]).toEqual([file, 200, '136']);
      expect((await response.arrayBuffer()).byteLength).toBeGreaterThan(1000);
    }
    const described = (await (await reader('/datasets/openapi.json')).json()) as { openapi: string; paths: object };
    expect([described.openapi, Object.keys(described.paths)]).toEqual([
      '3.1.0',
      expect.arrayContaining(['/datasets', ...listed.files.map((file) => file.replace(name, '{name}'))]),
    ]);
    expect(await errorOf(await reader('/datasets/nothing.csv'))).toMatchObject({
      status: 404,
      message: expect.stringContaining('There is no dataset “nothing”'),
    });
    expect(await errorOf(await reader(`/datasets/${name}.doc`))).toMatchObject({
      status: 404,
      message: expect.stringContaining('not as “doc”'),
    });
  });

  it('answer conditional requests, and are sent packed where that is wanted', async () => {
    const first = await reader(`/datasets/${name}.csv`);
    const [etag, modified] = [first.headers.get('etag')!, first.headers.get('last-modified')!];
    const text = await first.text();
    expect((await reader(`/datasets/${name}.csv`, { 'If-None-Match': etag })).status).toBe(304);
    expect((await reader(`/datasets/${name}.csv`, { 'If-Modified-Since': modified })).status).toBe(304);
    // Other rows or another format are another thing.
    expect((await reader(`/datasets/${name}.csv?where=Week%20=%2024`, { 'If-None-Match': etag })).status).toBe(200);
    expect((await reader(`/datasets/${name}.jsonl`, { 'If-None-Match': etag })).status).toBe(200);
    const packed = await reader(`/datasets/${name}.csv`, { 'Accept-Encoding': 'gzip' });
    expect([packed.headers.get('content-encoding'), await packed.text()]).toEqual(['gzip', text]);
  });

  it('give some of the columns and rows, in an order', async () => {
    const all = await rows('');
    const wanted = all.filter(
      (row) => row['Week'] === 24 && ['Saltby', 'Fairlead'].includes(String(row['Quay'])) && Number(row['Boxes']) >= 20,
    );
    const query = new URLSearchParams([
      ['where', 'Week = 24'],
      ['where', 'Quay = Saltby|Fairlead'],
      ['where', 'Boxes >= 20'],
      ['order', 'Boxes desc, Species'],
      ['columns', 'Species,Boxes'],
    ]);
    const told = await rows(query.toString());
    expect(told.length).toBeGreaterThan(5);
    expect(told).toEqual(
      [...wanted]
        .sort(
          (a, b) => Number(b['Boxes']) - Number(a['Boxes']) || (String(a['Species']) < String(b['Species']) ? -1 : 1),
        )
        .map((row) => ({ Species: row['Species'], Boxes: row['Boxes'] })),
    );
    const contains = await rows('where=Species~COD');
    expect(contains).toEqual(all.filter((row) => String(row['Species']).toLowerCase().includes('cod')));
    expect(
      (await rows('where=Weight%20(kg)%20Gutted%20is%20blank')).length +
        (await rows('where=Weight%20(kg)%20Gutted%20is%20not%20blank')).length,
    ).toBe(all.length);
    const csv = parse(
      await (
        await reader(`/datasets/${name}.csv?separator=semicolon&decimal=comma&columns=Value&where=Week%20=%2025`)
      ).text(),
      { delimiter: ';' },
    ) as string[][];
    expect(csv.slice(1).map(([value]) => Number(value.replace(',', '.')))).toEqual(
      all.filter((row) => row['Week'] === 25).map((row) => row['Value']),
    );
  });

  it('say in a sentence what is wrong with an address', async () => {
    const refusal = async (query: string) => (await errorOf(await reader(`/datasets/${name}.json?${query}`))).message;
    expect(await refusal('where=Nothing%20=%201')).toMatch(/^“Nothing = 1” is no condition: write a heading/);
    expect(await refusal('where=Boxes%20>%20many')).toBe(
      '“Boxes” holds numbers: “many” is none. Write it with a point and without marks between thousands.',
    );
    expect(await refusal('order=Nothing')).toMatch(/^“Nothing” is no order/);
    expect(await refusal('limit=0')).toMatch(/A page has from 1 to 999999 rows/);
    expect(await refusal('separator=comma&decimal=comma')).toMatch(/another separator than a comma/);
  });

  it('come by pages that follow one another, until the dataset is another', async () => {
    const all = await rows('order=Value%20desc');
    const read: Rows = [];
    let next: string | undefined = `/datasets/${name}.json?order=Value%20desc&limit=50`;
    const pages: string[] = [];
    while (next) {
      pages.push(next);
      const response = await reader(next);
      read.push(...((await response.json()) as Rows));
      next = /^<([^>]+)>; rel="next"$/.exec(response.headers.get('link') ?? '')?.[1];
    }
    expect([pages.length, read]).toEqual([3, all]);
    // By the token in the address, where it was given there.
    const [, second] = /^<([^>]+)>/.exec(
      (await plain(`/datasets/${name}.json?limit=50&key=${token}`)).headers.get('link') ?? '',
    )!;
    expect((await plain(second)).status).toBe(200);
    await cp(join(demoFolder, 'week-26.pdf'), join(folder, 'week-26.pdf'));
    await refreshed(id);
    expect(await errorOf(await reader(pages[1]))).toMatchObject({
      status: 412,
      message: expect.stringContaining('begin again'),
    });
  });
});
