// Looking values up over real HTTP: uploaded files and published datasets, in the versions with which rows were made.
import { cp, readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { sentence } from '../../core/sheet/problem';
import type {
  ApiError,
  DatasetAnswer,
  DatasetTrace,
  LayersAnswer,
  ListAnswer,
  PipelineFull,
  RunFull,
  SheetWindow,
  StoredReport,
} from '../contract/contract';
import { serve, type Serving } from '../house/serve';
import { cacheIn } from '../setup/config';
import { demoFolder, demoPipeline, temporaryFolder } from '../testing/folders';
import { asOwner } from '../testing/owner';

let server: Serving;
let data: string;
let folder: string;
let demo: Record<string, unknown> & { allReports: object[] };

const call = (path: string, init: RequestInit = {}) => asOwner(server)(path, init);
const get = async <T>(path: string): Promise<T> => (await call(path)).json() as Promise<T>;
const send = async <T>(method: string, path: string, body: unknown, headers: Record<string, string> = {}): Promise<T> =>
  (
    await call(path, {
      method,
      headers: { 'Content-Type': 'application/json', ...headers },
      body: JSON.stringify(body),
    })
  ).json() as Promise<T>;
const upload = (name: string, text: string) =>
  call(`/api/lists/${encodeURIComponent(name)}`, {
    method: 'PUT',
    headers: { 'Content-Type': 'text/csv' },
    body: text,
  });
const errorOf = async (response: Response) => ({
  status: response.status,
  ...((await response.json()) as ApiError).error,
});

/** A step that looks up by Code. */
const lookUp = (settings: Record<string, unknown>) => ({
  id: 'kinds',
  kind: 'look up',
  settings: { keys: [{ column: 'Code', of: 'Code' }], ...settings },
});
const withStep = (name: string, step: object) => ({ ...demo, name, allReports: [...demo.allReports, step] });
const add = (name: string, step: object) =>
  send<PipelineFull>('POST', '/api/pipelines', { document: withStep(name, step), folder });

async function refreshed(id: number): Promise<RunFull> {
  const { run } = await send<{ run: number }>('POST', `/api/pipelines/${id}/runs`, {});
  await (await call(`/api/runs/${run}/events`)).text();
  return get<RunFull>(`/api/runs/${run}`);
}
const dataset = (id: number) => get<DatasetAnswer>(`/api/pipelines/${id}/dataset?start=0&count=200`);
const columnOf = async (id: number, heading: string) => {
  const { columns, window } = await dataset(id);
  const at = columns.findIndex((column) => column.heading === heading);
  return window.map(({ cells }) => cells[at]);
};

beforeAll(async () => {
  const roots = await temporaryFolder();
  folder = join(roots, 'sheets');
  for (const week of [24, 25]) await cp(join(demoFolder, `week-${week}.pdf`), join(folder, `week-${week}.pdf`));
  data = await temporaryFolder();
  server = await serve({ data, host: '127.0.0.1', port: 0, roots: [roots], uploadLimit: 1, logLevel: 'silent' });
  demo = JSON.parse(await readFile(demoPipeline, 'utf8')) as typeof demo;
});
afterAll(() => server?.stop());

describe('uploaded lists', () => {
  it('are kept under their names, told with their columns, and replaced by the next upload', async () => {
    expect((await upload('kinds.csv', 'Code,Kind\nHK1,round\n')).status).toBe(201);
    const again = await upload('kinds.csv', 'Code;Kind;Days\nHK1;round;3\nSL2;flat;4\n');
    expect(await again.json()).toMatchObject({
      is: 'file',
      name: 'kinds.csv',
      columns: ['Code', 'Kind', 'Days'],
      rows: 2,
    });
    expect((await get<ListAnswer[]>('/api/lists')).filter(({ is }) => is === 'file')).toHaveLength(1);
  });

  it('say in a sentence what is wrong with a file, and keep the one before', async () => {
    expect(await errorOf(await upload('kinds.csv', 'Code,Kind\nHK1\n'))).toEqual({
      status: 400,
      kind: 'bad input',
      message: 'Line 2 of kinds.csv has another number of values than its first line. Mend it and upload it again.',
    });
    expect((await errorOf(await upload('../kinds.csv', 'A\n1\n'))).message).toMatch(/A file name has no slash/);
    expect((await errorOf(await upload('large.csv', `A\n${'x\n'.repeat(900_000)}`))).status).toBe(413);
    expect((await errorOf(await call('/api/lists/none.csv', { method: 'DELETE' }))).status).toBe(404);
    expect((await get<ListAnswer[]>('/api/lists'))[0]).toMatchObject({ name: 'kinds.csv', rows: 2 });
  });
});

describe('steps that look up', () => {
  it('bring columns in a look and in the dataset, whose cells trace to the words of the key', async () => {
    const codes = await (async () => {
      const { id } = await send<PipelineFull>('POST', '/api/pipelines', {
        document: { ...demo, name: 'Plain' },
        folder,
      });
      await refreshed(id);
      return [...new Set(await columnOf(id, 'Code'))] as string[];
    })();
    await upload('all.csv', `Code,Kind\n${codes.map((code, i) => `${code},kind ${i % 3}`).join('\n')}\n`);
    const { id } = await add('Kinds', lookUp({ from: { is: 'file', name: 'all.csv' }, columns: [{ name: 'Kind' }] }));
    const [report] = await send<StoredReport[]>('POST', `/api/pipelines/${id}/reports`, {});
    const sheet = await get<SheetWindow>(
      `/api/pipelines/${id}/reports/${report.id}/sheet?step=kinds&of=sheet&start=0&count=5`,
    );
    const [at, key] = ['Kind', 'Code'].map((name) => sheet.columns.findIndex((column) => column.name === name));
    expect(at).toBe(key + 1);
    for (const { cells } of sheet.window) expect(cells[at]).toBe(`kind ${codes.indexOf(String(cells[key])) % 3}`);

    const { run } = await refreshed(id);
    expect(run.state).toBe('published');
    expect((await columnOf(id, 'Kind')).every((kind, row) => /^kind [012]$/.test(String(kind)) && row >= 0)).toBe(true);
    const trace = (column: string) => get<DatasetTrace>(`/api/pipelines/${id}/dataset/trace?row=7&column=${column}`);
    expect((await trace('Kind')).places).toEqual((await trace('Code')).places);
  });

  it('make rows anew only when their list has changed, and explain those published with the version before', async () => {
    const { id } = await add(
      'Versions of a list',
      lookUp({ from: { is: 'file', name: 'all.csv' }, columns: [{ name: 'Kind' }] }),
    );
    await refreshed(id);
    expect((await refreshed(id)).run.state).toBe('nothing new');
    const [before] = await columnOf(id, 'Kind');
    const text = await (await call('/api/lists')).text();
    expect(text).toContain('all.csv');
    // Another list, under the same name.
    const codes = [...new Set(await columnOf(id, 'Code'))] as string[];
    await upload('all.csv', `Code,Kind\n${codes.map((code) => `${code},new`).join('\n')}\n`);
    const report = (await send<StoredReport[]>('POST', `/api/pipelines/${id}/reports`, {}))[0].id;
    const kindIn = async (path: string) => {
      const sheet = await get<SheetWindow>(
        `/api/pipelines/${id}/${path}/${report}/sheet?step=kinds&of=sheet&start=0&count=1`,
      );
      return sheet.window[0].cells[sheet.columns.findIndex(({ name }) => name === 'Kind')];
    };
    // The bench looks into the new one; what is published was made with the old one, also when nothing is cached any more.
    expect(await kindIn('reports')).toBe('new');
    expect(await kindIn('dataset/reports')).toBe(before);
    await rm(join(cacheIn(data), 'lists'), { recursive: true });
    expect(await kindIn('dataset/reports')).toBe(before);
    const { run, reports } = await refreshed(id);
    expect([run.state, reports.map(({ state }) => state)]).toEqual(['published', ['changed', 'changed']]);
    expect(new Set(await columnOf(id, 'Kind'))).toEqual(new Set(['new']));
  });

  it('hold a report back while their list is missing: the rows that are published stay', async () => {
    const { id, version } = await add(
      'Missing',
      lookUp({ from: { is: 'file', name: 'all.csv' }, columns: [{ name: 'Kind' }] }),
    );
    await refreshed(id);
    const rows = (await dataset(id)).rows;
    await send(
      'PUT',
      `/api/pipelines/${id}`,
      {
        document: withStep('Missing', lookUp({ from: { is: 'file', name: 'gone.csv' }, columns: [{ name: 'Kind' }] })),
      },
      { 'If-Match': `"${version}"` },
    );
    const { reports } = await refreshed(id);
    expect(reports.map(({ state }) => state)).toEqual(['stale', 'stale']);
    expect(sentence(reports[0].problems[0])).toMatch(
      /expected an uploaded list “gone\.csv”, got none of that name\. Upload it in the form of this step\.$/,
    );
    expect((await dataset(id)).rows).toBe(rows);
  });

  it('tell keys that are not found and keys found twice', async () => {
    await upload('few.csv', 'Code,Kind\nHK2,round\nHK2,rounder\n');
    const { id } = await add('Few', lookUp({ from: { is: 'file', name: 'few.csv' }, columns: [{ name: 'Kind' }] }));
    const [report] = await send<StoredReport[]>('POST', `/api/pipelines/${id}/reports`, {});
    const layers = await get<LayersAnswer>(`/api/pipelines/${id}/reports/${report.id}/layers`);
    const told = layers.problems.filter(({ step }) => step === 'kinds').map(({ expected }) => expected);
    expect(told).toEqual(expect.arrayContaining(['every key in “few.csv”', 'each key once in “few.csv”']));
    const { reports } = await refreshed(id);
    expect(reports[0].misfits).toBeGreaterThan(0);
  });

  it('look into the dataset of another pipeline as it is published, and follow it', async () => {
    const source = await send<PipelineFull>('POST', '/api/pipelines', {
      document: { ...demo, name: 'Source' },
      folder,
    });
    const { id } = await add(
      'Follows',
      lookUp({
        from: { is: 'dataset', name: 'Source' },
        columns: [{ name: 'Species', into: 'Name' }],
        twice: 'is taken where all say the same',
      }),
    );
    expect((await refreshed(id)).reports.map(({ state }) => state)).toEqual(['failed', 'failed']);
    await refreshed(source.id);
    expect(
      (await get<ListAnswer[]>('/api/lists')).find(({ is, name }) => is === 'dataset' && name === 'Source'),
    ).toMatchObject({ columns: expect.arrayContaining(['Code', 'Species']) });
    expect((await refreshed(id)).run.state).toBe('published');
    const [names, species] = [await columnOf(id, 'Name'), await columnOf(id, 'Species')];
    // One code stands for two texts in it: never one of them in silence.
    names.forEach((name, row) =>
      /^Correction/.test(String(species[row]))
        ? expect(name).toEqual({
            text: 'Correction wk 23 / Correction wk 24',
            expected: expect.stringMatching(/^one row of “Source”, not rows \d+/),
          })
        : expect(name).toBe(species[row]),
    );
    expect(names.filter((name) => typeof name === 'string').length).toBeGreaterThan(100);
    // Published again with the same texts: nothing is made anew.
    await send(
      'PUT',
      `/api/pipelines/${source.id}`,
      {
        document: {
          ...demo,
          name: 'Source',
          allReports: [
            ...demo.allReports,
            { id: 'more', kind: 'constant column', settings: { name: 'Port', value: 'x' } },
          ],
        },
      },
      { 'If-Match': '"1"' },
    );
    await refreshed(source.id);
    expect((await refreshed(id)).run.state).toBe('nothing new');
    // In its own dataset a pipeline cannot look.
    const own = await add(
      'Own',
      lookUp({ from: { is: 'dataset', name: 'Own' }, columns: [{ name: 'Species', into: 'Name' }] }),
    );
    expect(sentence((await refreshed(own.id)).reports[0].problems[0])).toMatch(
      /a published dataset “Own” of another pipeline/,
    );
  });

  it('keep a list from being deleted that they look into', async () => {
    expect(await errorOf(await call('/api/lists/all.csv', { method: 'DELETE' }))).toMatchObject({
      status: 409,
      message: expect.stringMatching(/^all\.csv is looked into by .*“Kinds”.*\. Take those steps out first\.$/),
    });
    expect((await call('/api/lists/kinds.csv', { method: 'DELETE' })).status).toBe(204);
    expect((await get<ListAnswer[]>('/api/lists')).some(({ name }) => name === 'kinds.csv')).toBe(false);
  });

  it('stop the steps that need all reports at once as well', async () => {
    const whole = { id: 'order', kind: 'sort', settings: { by: [{ column: 'Code' }] } };
    const { id } = await send<PipelineFull>('POST', '/api/pipelines', {
      document: {
        ...demo,
        name: 'Below a sort',
        allReports: [
          ...demo.allReports,
          whole,
          lookUp({ from: { is: 'file', name: 'gone.csv' }, columns: [{ name: 'Kind' }] }),
        ],
      },
      folder,
    });
    const { run } = await refreshed(id);
    expect(run.state).toBe('nothing published');
    expect(run.notes).toEqual([
      expect.objectContaining({ kind: 'not stored', problem: expect.objectContaining({ kind: 'no list' }) }),
    ]);
  });
});
