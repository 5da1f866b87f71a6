import { cp, mkdir, readFile, symlink } from 'node:fs/promises';
import { request } from 'node:http';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { changeSentence } from '../../core/pipeline/changes';
import { findCell, soughtFrom } from '../../core/sheet/find-cell';
import { columnMeasure, measured, stretchesByColumn } from '../../core/sheet/measure';
import Xlsx from 'exceljs';
import { conditionsOf, summaryTable, type SummaryGroup } from '../../core/dataset/summary';
import { cellText } from '../../core/values/cell';
import { exactSum } from '../../core/values/exact';
import { serve, type Serving } from '../house/serve';
import { asOwner } from '../testing/owner';
import { demoExpected, demoFolder, demoPipeline, temporaryFolder } from '../testing/folders';
import type {
  ApiError,
  CellFound,
  CellRange,
  ColumnCard,
  DatasetAnswer,
  DatasetTrace,
  FolderAnswer,
  LayersAnswer,
  Measured,
  PipelineFull,
  PipelineSummary,
  PublishedAnswer,
  RunEvent,
  RunFull,
  SelectedAnswer,
  SheetWindow,
  StoredReport,
  TotalTraced,
  Traced,
  ValueCounts,
  VersionAnswer,
  WordFate,
} from '../contract/contract';

let server: Serving;
let roots: string;
let demo: Record<string, unknown>;
let pipeline: PipelineFull;
let reports: readonly StoredReport[];

const call = (path: string, init: RequestInit = {}) => asOwner(server)(path, init);
const get = async <T>(path: string): Promise<T> => (await call(path)).json() as Promise<T>;
const send = (method: string, path: string, body: unknown, headers: Record<string, string> = {}) =>
  call(path, { method, headers: { 'Content-Type': 'application/json', ...headers }, body: JSON.stringify(body) });
const save = (id: number | string, document: unknown, version: number) =>
  send('PUT', `/api/pipelines/${id}`, { document }, { 'If-Match': `"${version}"` });
/** The reports after a look at the folder. */
const looked = async (id: number) =>
  (await (await send('POST', `/api/pipelines/${id}/reports`, {})).json()) as readonly StoredReport[];
const errorOf = async (response: Response) => ((await response.json()) as ApiError).error;

/** A request with headers that fetch would not let us forge. */
const raw = (headers: Record<string, string>, method = 'GET', path = '/api/pipelines') =>
  new Promise<number>((resolve, reject) =>
    request(
      new URL(path, server.url),
      { method, headers: { authorization: `Bearer ${server.key}`, ...headers } },
      (response) => resolve((response.resume(), response.statusCode!)),
    )
      .on('error', reject)
      .end(),
  );

async function events(path: string): Promise<RunEvent[]> {
  const text = await (await call(path)).text();
  return [...text.matchAll(/^data: (.*)$/gm)].map((match) => JSON.parse(match[1]));
}

beforeAll(async () => {
  roots = await temporaryFolder();
  await cp(demoFolder, join(roots, 'landing-sheets'), { recursive: true });
  const outside = await temporaryFolder();
  await mkdir(join(outside, 'secret'));
  await symlink(join(outside, 'secret'), join(roots, 'way-out'));
  server = await serve({
    data: await temporaryFolder(),
    host: '127.0.0.1',
    port: 0,
    roots: [roots],
    uploadLimit: 1,
    logLevel: 'silent',
  });
  demo = JSON.parse(await readFile(demoPipeline, 'utf8')) as Record<string, unknown>;
  const made = await send('POST', '/api/pipelines', { document: demo, folder: join(roots, 'landing-sheets') });
  expect(made.status).toBe(201);
  pipeline = (await made.json()) as PipelineFull;
  reports = await looked(pipeline.id);
});
afterAll(() => server?.stop());
const reportPath = (name: string) =>
  `/api/pipelines/${pipeline.id}/reports/${reports.find((report) => report.path === name)!.id}`;

describe('pipelines over HTTP', () => {
  it('are listed with what needs the analyst, saved and deleted', async () => {
    const { id } = (await (
      await send('POST', '/api/pipelines', { document: { ...demo, name: 'Short lived' } })
    ).json()) as PipelineFull;
    expect((await get<PipelineSummary[]>('/api/pipelines')).find((each) => each.id === id)).toMatchObject({
      name: 'Short lived',
      managed: true,
      rows: null,
      needs: [{ kind: 'not refreshed' }],
    });
    const renamed = await save(id, { ...demo, name: 'Renamed' }, 1);
    expect(((await renamed.json()) as PipelineFull).name).toBe('Renamed');
    expect((await save(id, demo, 2)).status).toBe(409);
    expect((await call(`/api/pipelines/${id}`, { method: 'DELETE' })).status).toBe(204);
    expect((await call(`/api/pipelines/${id}`)).status).toBe(404);
  });

  it('are saved as versions: the second of two tabs is told, and loses nothing', async () => {
    const { id, version } = (await (
      await send('POST', '/api/pipelines', { document: { ...demo, name: 'Versions' } })
    ).json()) as PipelineFull;
    expect(version).toBe(1);
    expect(await errorOf(await send('PUT', `/api/pipelines/${id}`, { document: demo }))).toMatchObject({
      kind: 'version needed',
    });
    const off = (step: string) => ({
      ...demo,
      name: 'Versions',
      eachReport: (demo['eachReport'] as { id: string }[]).map((each) =>
        each.id === step ? { ...each, off: true } : each,
      ),
    });
    const first = await save(id, off('totals'), 1);
    expect([first.status, ((await first.json()) as PipelineFull).version]).toEqual([200, 2]);
    // The other tab still has version 1.
    const second = await save(id, off('quay'), 1);
    expect([second.status, await errorOf(second)]).toEqual([
      412,
      { kind: 'changed meanwhile', message: expect.stringContaining('it is at version 2 now. Nothing was saved') },
    ]);
    expect((await get<PipelineFull>(`/api/pipelines/${id}`)).version).toBe(2);
    expect((await save(id, off('quay'), 2)).status).toBe(200);
    // What says the same is no version of its own; going back to an older one is.
    expect(((await (await save(id, off('quay'), 3)).json()) as PipelineFull).version).toBe(3);
    const older = await get<{ document: unknown }>(`/api/pipelines/${id}/versions/2`);
    expect(((await (await save(id, older.document, 3)).json()) as PipelineFull).version).toBe(4);
    const versions = await get<VersionAnswer[]>(`/api/pipelines/${id}/versions`);
    expect(versions.map((each) => [each.version, each.changes.map(changeSentence), each.same])).toEqual([
      [4, ['“Lift sections into Quay” switched on', '“Hold totals” switched off'], 2],
      [3, ['“Lift sections into Quay” switched off', '“Hold totals” switched on'], null],
      [2, ['“Hold totals” switched off'], null],
      [1, [], null],
    ]);
    expect((await call(`/api/pipelines/${id}/versions/9`)).status).toBe(404);
    await call(`/api/pipelines/${id}`, { method: 'DELETE' });
  });

  it('take dropped PDF files into a folder of their own, and nothing else', async () => {
    const { id } = (await (
      await send('POST', '/api/pipelines', { document: { ...demo, name: 'Dropped' } })
    ).json()) as PipelineFull;
    const drop = (name: string, body: string | Buffer) =>
      call(`/api/pipelines/${id}/files?name=${encodeURIComponent(name)}`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/pdf' },
        body: body as never,
      });
    expect((await drop('week-22.pdf', await readFile(join(demoFolder, 'week-22.pdf')))).status).toBe(201);
    expect((await looked(id)).map((report) => report.path)).toEqual(['week-22.pdf']);
    expect(await errorOf(await drop('x.pdf', 'hello'))).toMatchObject({
      kind: 'bad input',
      message: 'x.pdf is not a PDF. Only PDF files can be dropped here.',
    });
    expect((await drop('../x.pdf', '%PDF-')).status).toBe(400);
    expect(await errorOf(await drop('large.pdf', Buffer.alloc(2_000_000)))).toMatchObject({ kind: 'too large' });
    expect(
      (await call(`/api/pipelines/${pipeline.id}/files?name=a.pdf`, { method: 'POST', body: '%PDF-' })).status,
    ).toBe(409);
  });

  it('say what is wrong with a document, where', async () => {
    const response = await send('POST', '/api/pipelines', {
      document: { ...demo, name: 'Wrong', eachTable: [{ id: 'a', kind: 'trim rows', settings: { top: -1 } }] },
      folder: roots,
    });
    expect(response.status).toBe(400);
    expect((await errorOf(response)).message).toMatch(/^eachTable\.0\.settings\.top: /);
    expect(
      (
        await errorOf(
          await call('/api/pipelines', { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: '{' }),
        )
      ).message,
    ).toBe('The body is not valid JSON.');
  });
});

describe('folders and who may ask', () => {
  it('shows folders below the roots with their PDF files', async () => {
    const answer = await get<FolderAnswer>('/api/folders');
    expect(answer).toMatchObject({ parent: null, folders: [{ name: 'landing-sheets', pdfs: 16 }] });
    expect(
      (await get<FolderAnswer>(`/api/folders?path=${encodeURIComponent(answer.folders[0].path)}`)).pdfs,
    ).toHaveLength(16);
  });

  it.each(['/etc', '/etc/../etc', 'way-out', 'landing-sheets/../../..', 'no-such-folder'])(
    'never leads out of the roots: %s',
    async (path) => {
      const asked = path.startsWith('/') ? path : join(roots, path);
      expect((await call(`/api/folders?path=${encodeURIComponent(asked)}`)).status).toBe(403);
      expect(
        (await send('POST', '/api/pipelines', { document: { ...demo, name: `Out ${path}` }, folder: asked })).status,
      ).toBe(403);
    },
  );

  it('answers only to its own host and pages', async () => {
    const { host } = new URL(server.url);
    expect(await raw({ host })).toBe(200);
    expect(await raw({ host: 'harbour.example' })).toBe(403);
    expect(await raw({ host, origin: 'http://harbour.example' }, 'POST')).toBe(403);
    expect(await raw({ host, origin: 'http://127.0.0.1:1' }, 'POST')).toBe(403);
    expect(await raw({ host, 'sec-fetch-site': 'cross-site' })).toBe(403);
  });

  it('sets a strict content policy and answers every error in one shape', async () => {
    const response = await call('/api/nothing');
    expect(response.headers.get('content-security-policy')).toContain("script-src 'self' 'wasm-unsafe-eval'");
    expect(await errorOf(response)).toEqual({ kind: 'not found', message: 'There is nothing at /api/nothing.' });
    expect(response.headers.get('x-powered-by')).toBeNull();
  });
});

describe('reports over HTTP', () => {
  it('gives states, tables, page content and the file itself', async () => {
    expect(reports.map((report) => report.standing).filter((standing) => standing === 'counts')).toHaveLength(15);
    expect(reports.find((report) => report.path === 'week-34.pdf')).toMatchObject({
      standing: 'replaced',
      standingOf: 'week-34-r2.pdf',
      period: '2025-W34',
    });
    const tables = await get<{ pageCount: number; tables: { id: string; title: string; pieces: unknown[] }[] }>(
      `${reportPath('week-24.pdf')}/tables`,
    );
    expect(tables.tables.map((table) => [table.title, table.pieces.length])).toEqual([
      ['Landings by species', 3],
      ['Vessel calls', 1],
    ]);
    const answer = await get<{ page: { words: { text: string }[] }; pieces: { id: string }[] }>(
      `${reportPath('week-24.pdf')}/pages/2`,
    );
    expect(answer.page.words.map((word) => word.text)).toContain('Saltby');
    expect(answer.pieces.map((piece) => piece.id)).toEqual(['p2t1']);
    expect((await call(`${reportPath('week-24.pdf')}/pages/99`)).status).toBe(404);
    const part = await call(`${reportPath('week-24.pdf')}/file`, { headers: { Range: 'bytes=0-4' } });
    expect([part.status, await part.text()]).toEqual([206, '%PDF-']);
    expect(await errorOf(await call(`${reportPath('week-33.pdf')}/tables`))).toMatchObject({ kind: 'unreadable' });
  });

  it('gives the sheet after any step by windows, and what the step held', async () => {
    const sheet = await get<SheetWindow>(`${reportPath('week-24.pdf')}/sheet?step=header&start=1&count=2`);
    expect(sheet.columns.map((column) => column.name)).toEqual([
      'Code',
      'Species',
      'Boxes',
      'Weight (kg) Gutted',
      'Weight (kg) Whole',
      'Price per kg',
      'Value',
    ]);
    expect([sheet.rows, sheet.start, sheet.window.length]).toEqual([81 + 4 + 5, 1, 2]);
    const far = await get<SheetWindow>(`${reportPath('week-24.pdf')}/sheet?step=header&start=0&count=0&beside=p2t1:60`);
    expect([far.window, far.beside?.id]).toEqual([
      [],
      { report: sheet.window[0].id.report, table: 'p2t1', ordinal: 60 },
    ]);
    expect(
      (await get<SheetWindow>(`${reportPath('week-24.pdf')}/sheet?step=header&beside=p9t9:1`)).beside,
    ).toBeUndefined();
    expect((await call(`${reportPath('week-24.pdf')}/sheet?beside=somewhere`)).status).toBe(400);
    const held = await get<SheetWindow>(`${reportPath('week-24.pdf')}/sheet?step=totals&of=held`);
    expect(held.window.map((row) => row.reason)).toEqual(
      [18, 19, 23, 21, 81].map(
        (rows, i) =>
          `total by wording “Total *”, covers ${rows} rows of page ${['2', '2', '3', '3 to 4', '2 to 4'][i]}, adding up to it`,
      ),
    );
    expect((await call(`${reportPath('week-24.pdf')}/sheet?count=5000`)).status).toBe(400);
  });

  it('traces a cell to its words, and a word to its cell or to the step that held it', async () => {
    const path = reportPath('week-24.pdf');
    const sheet = await get<SheetWindow>(`${path}/sheet?step=types`);
    const row = sheet.window.findIndex((each) => each.cells.includes('Grey sole'));
    const { table, ordinal } = sheet.window[row].id;
    const { places } = await get<Traced>(
      `${path}/trace?table=${table}&ordinal=${ordinal}&row=${row}&column=Species&step=types`,
    );
    // Where it stood when it was shown is only a hint: the row is known by its name.
    expect(
      (await get<Traced>(`${path}/trace?table=${table}&ordinal=${ordinal}&row=${row + 5}&column=Species&step=types`))
        .places,
    ).toEqual(places);
    expect(
      (await get<Traced>(`${path}/trace?table=none&ordinal=${ordinal}&row=${row}&column=Species&step=types`)).places,
    ).toEqual([]);
    expect(await errorOf(await call(`${path}/trace?row=${row}&column=Species`))).toMatchObject({
      kind: 'bad input',
      message: expect.stringContaining('A row is named by table, ordinal and row together.'),
    });
    expect(places.map((place) => place.words.map((word) => word.text))).toEqual([['Grey', 'sole']]);
    // Without a row it is the name of the column that is traced: the words of the heading.
    const name = await get<Traced>(`${path}/trace?column=Price%20per%20kg&step=types`);
    expect(new Set(name.places.map(({ words }) => words.map(({ text }) => text).join(' ')))).toEqual(
      new Set(['Price', 'per kg']),
    );
    expect(
      await errorOf(await call(`${path}/trace?table=${table}&ordinal=0&row=0&column=Species&step=nothing`)),
    ).toMatchObject({ kind: 'not found', message: expect.stringContaining('There is no step “nothing”') });
    const { page } = await get<{ page: { words: { text: string; box: number[] }[] } }>(
      `${path}/pages/${places[0].page}`,
    );
    const index = page.words.findIndex((word) => word.text === 'Grey' && word.box[1] === places[0].words[0].box[1]);
    expect((await get<WordFate>(`${path}/word?page=${places[0].page}&word=${index}`)).cells).toContainEqual({
      row,
      column: 'Species',
    });
    const total = page.words.findIndex((word) => word.text === 'Total');
    expect((await get<WordFate>(`${path}/word?page=${places[0].page}&word=${total}`)).held[0]).toMatchObject({
      step: 'totals',
      title: 'Hold totals',
    });
    const head = page.words.findIndex((word) => word.text === 'Northreach');
    expect(await get<WordFate>(`${path}/word?page=${places[0].page}&word=${head}`)).toEqual({
      cells: [],
      names: [],
      held: [],
      taken: false,
    });
  });
});

describe('designing steps over HTTP', () => {
  /** Another pipeline over the same folder, with steps put in at the end of "each report". */
  async function designed(name: string, steps: object[], more: object = {}) {
    const document = {
      ...demo,
      ...more,
      name,
      eachReport: [...(demo['eachReport'] as object[]), ...steps],
      allReports: [],
    };
    const { id } = (await (
      await send('POST', '/api/pipelines', { document, folder: join(roots, 'landing-sheets') })
    ).json()) as PipelineFull;
    const own = await looked(id);
    return `/api/pipelines/${id}/reports/${own.find((report) => report.path === 'week-24.pdf')!.id}`;
  }

  it('tells the values in columns above a step with how often each stands, and what is printed elsewhere', async () => {
    const path = await designed('Values', [
      {
        id: 'recode',
        kind: 'recode',
        settings: { columns: { by: 'names', names: ['Quay'] }, values: [{ from: ['Saltby'], to: 'North' }] },
      },
    ]);
    const values = async (step: string, of: object) =>
      (await (await send('POST', `${path}/values`, { step, of })).json()) as ValueCounts;
    // Above the step the quays have their own names still.
    const quays = await values('recode', { by: 'names', names: ['Quay'] });
    expect(quays).toMatchObject({ different: 4, blanks: 0, rows: 81 });
    expect(quays.values.find(({ text }) => text === 'Saltby')).toEqual({ text: 'Saltby', count: 18 });
    expect((await values('week', { by: 'print', from: 'file name' })).values).toEqual([
      { text: 'week-24.pdf', count: 1 },
    ]);
    expect((await values('ending', { by: 'print', from: 'page text' })).values.map(({ text }) => text)).toContainEqual(
      expect.stringContaining('Week ending 14 June 2025'),
    );
    expect((await send('POST', `${path}/values`, { step: 'recode', of: { by: 'magic' } })).status).toBe(400);
  });

  it('counts how the report falls through all layers, below a sheet that is worked out first', async () => {
    const path = await designed('Layers', [{ id: 'gone', kind: 'sort', settings: { by: [{ column: 'Nothing' }] } }]);
    const { layers, problems } = await get<LayersAnswer>(`${path}/layers`);
    expect(layers.map(({ id }) => id)).toEqual([
      'taken',
      'blank',
      'again',
      'header',
      'names',
      'joined',
      'quay',
      'totals',
      'ending',
      'week',
      'columns',
      'gone',
      'appended',
    ]);
    expect(layers.find(({ id }) => id === 'totals')).toMatchObject({ rowsIn: 86, rows: 81, held: 5 });
    expect(layers.find(({ id }) => id === 'gone')).toMatchObject({ problems: 1 });
    expect(problems).toMatchObject([{ kind: 'step', step: 'gone', column: 'Nothing' }]);
  });

  it('designs on a few pages, with the heading of the table', async () => {
    const path = reportPath('week-24.pdf');
    const all = await get<SheetWindow>(`${path}/sheet?step=columns`);
    const some = await get<SheetWindow>(`${path}/sheet?step=columns&pages=3-3`);
    expect(some.columns).toEqual(all.columns);
    expect(some.rows).toBeLessThan(all.rows);
    expect(new Set(some.window.map(({ page }) => page))).toEqual(new Set([3]));
    expect((await errorOf(await call(`${path}/sheet?pages=4-3`))).message).toContain(
      'The first page comes before the last.',
    );
  });

  it('lets rows pass that a step would hold, by what they say', async () => {
    const held = await get<SheetWindow>(`${reportPath('week-24.pdf')}/sheet?step=totals&of=held`);
    const says = held.window[0].says!;
    expect(says).toBe('Saltby · Total Saltby');
    const eachReport = (demo['eachReport'] as { id: string }[]).map((step) =>
      step.id === 'totals' ? { ...step, pass: [{ text: says, report: 'week-24.pdf' }] } : step,
    );
    const path = await designed('Exceptions', [], { eachReport });
    const document = { ...demo, name: 'Exceptions', eachReport };
    await save(/pipelines\/(\d+)/.exec(path)![1], document, 1);
    const sheet = await get<SheetWindow>(`${path}/sheet?step=totals`);
    expect([sheet.rows, sheet.held.rows]).toEqual([82, 4]);
    expect(sheet.window.filter((row) => row.cells.includes('Total Saltby'))).toHaveLength(1);
  });

  it('says which step left a word out, or put another text in its place', async () => {
    const path = await designed('Fates', [
      {
        id: 'blanked',
        kind: 'recode',
        settings: { columns: { by: 'names', names: ['Species'] }, values: [{ from: ['Grey sole'], to: '' }] },
      },
      { id: 'fewer', kind: 'pick columns', settings: { columns: { by: 'all but', names: ['Code'] } } },
    ]);
    const { page } = await get<{ page: { words: { text: string }[] } }>(`${path}/pages/2`);
    const fate = (text: string) =>
      get<WordFate>(`${path}/word?page=2&word=${page.words.findIndex((word) => word.text === text)}`);
    expect((await fate('sole')).gone ?? (await fate('Grey')).gone).toEqual({
      step: 'blanked',
      title: 'Recode',
      how: 'overwritten',
    });
    expect((await fate('SL2')).gone).toEqual({ step: 'fewer', title: 'Pick columns', how: 'left out' });
  });
});

describe('a look at the folder', () => {
  it('is asked for: reading what is known of the reports changes nothing', async () => {
    const { id } = (await (
      await send('POST', '/api/pipelines', {
        document: { ...demo, name: 'Not looked yet' },
        folder: join(roots, 'landing-sheets'),
      })
    ).json()) as PipelineFull;
    expect(await get(`/api/pipelines/${id}/reports`)).toEqual([]);
    expect(await looked(id)).toHaveLength(17);
    expect(await get<unknown[]>(`/api/pipelines/${id}/reports`)).toHaveLength(17);
  });
});

describe('runs and the dataset over HTTP', () => {
  it('has nothing published before the first refresh', async () => {
    expect((await errorOf(await call(`/api/pipelines/${pipeline.id}/dataset`))).message).toContain(
      'Run a refresh first',
    );
  });

  it('runs with progress as events, and publishes the expected dataset', async () => {
    const started = await send('POST', `/api/pipelines/${pipeline.id}/runs`, {});
    expect(started.status).toBe(202);
    const { run } = (await started.json()) as { run: number };
    const heard = await events(`/api/runs/${run}/events`);
    expect(heard.at(-1)).toMatchObject({ kind: 'ended', state: 'published' });
    expect(
      heard.some((event) => event.kind === 'progress' && event.now.kind === 'report' && event.now.page !== undefined),
    ).toBe(true);
    expect(await events(`/api/runs/${run}/events`)).toEqual([
      {
        kind: 'ended',
        state: 'published',
        notes: [
          { kind: 'came', added: expect.arrayContaining(['2025-W22', '2025-W37']), changed: [], rows: 885, held: 173 },
          { kind: 'waiting', reports: 2 },
          { kind: 'differences', differences: [], reports: 13 },
          { kind: 'gaps', periods: ['2025-W35'] },
          { kind: 'totals', ties: { equal: 259, rounded: 0, off: 1, accepted: 0, notComparable: 0 } },
        ],
      },
    ]);
    expect((await get<RunFull>(`/api/runs/${run}`)).reports).toHaveLength(17);
    expect((await call(`/api/runs/${run}/cancel`, { method: 'POST' })).status).toBe(409);

    const csv = await call(`/api/pipelines/${pipeline.id}/dataset.csv`);
    expect(csv.headers.get('content-type')).toBe('text/csv; charset=utf-8');
    expect(csv.headers.get('x-misfits')).toBe('0');
    expect(await csv.text()).toBe(await readFile(demoExpected, 'utf8'));
    const etag = csv.headers.get('etag')!;
    expect(
      (await call(`/api/pipelines/${pipeline.id}/dataset.csv`, { headers: { 'If-None-Match': etag } })).status,
    ).toBe(304);
    expect((await get<PipelineSummary[]>('/api/pipelines')).find((each) => each.id === pipeline.id)).toMatchObject({
      rows: 885,
      needs: [
        { kind: 'failed', count: 2 },
        { kind: 'totals off', count: 1 },
        { kind: 'no report', count: 1 },
      ],
    });
  });

  it('pages the published rows and traces them to paper', async () => {
    const answer = await get<DatasetAnswer>(`/api/pipelines/${pipeline.id}/dataset?start=82&count=2`);
    expect([answer.rows, answer.start, answer.window.length]).toEqual([885, 82, 2]);
    expect(answer.columns[1]).toEqual({ identifier: 'week_ending', heading: 'Week ending', type: 'date' });
    expect(answer.window.map((row) => row.cells[0])).toEqual([22, 23]);
    const traced = await get<DatasetTrace>(`/api/pipelines/${pipeline.id}/dataset/trace?row=83&column=Week%20ending`);
    expect(traced.file).toBe('week-23.pdf');
    expect(traced.places[0].words.map((word) => word.text)).toEqual(['7', 'June', '2025']);
    expect(traced).toMatchObject({ version: 1, rows: [{ table: 'p2t1' }] });
    expect((await call(`/api/pipelines/${pipeline.id}/dataset/trace?row=99999&column=Week`)).status).toBe(404);
    expect((await call(`/api/pipelines/${pipeline.id}/dataset/trace?row=1&column=Nope`)).status).toBe(404);
  });

  it('leads from a printed total to the rows that it covers, and from all of them to the paper', async () => {
    const { totals, reports } = await get<PublishedAnswer>(`/api/pipelines/${pipeline.id}/dataset/made-of`);
    const off = totals.filter(({ ties }) => ties.some(({ outcome }) => outcome === 'off'));
    expect(
      off.map(({ row, page, ties }) => [
        reports.find(({ report }) => String(report) === row.report)?.path,
        page,
        ties.filter(({ outcome }) => outcome === 'off'),
      ]),
    ).toEqual([
      [
        'week-29.pdf',
        2,
        [
          expect.objectContaining({
            label: 'Total Tern Point',
            column: 'Value',
            printed: 217409.42,
            computed: 217369.42,
            rows: 16,
          }),
        ],
      ],
    ]);
    const [{ step, row }] = off;
    const at = (column: string) =>
      `/api/pipelines/${pipeline.id}/dataset/reports/${row.report}/total?${new URLSearchParams({ step, table: row.table, ordinal: String(row.ordinal), column })}`;
    const { places, rows, more } = await get<TotalTraced>(at('Value'));
    expect([places.flatMap(({ words }) => words.map(({ text }) => text)), rows.length, more]).toEqual([
      ['217,409.42'],
      16,
      0,
    ]);
    expect(rows[0]).toMatchObject({
      label: 'Tern Point · BR1 · Reef brill',
      amount: '17,299.20',
      page: 2,
      places: [{ words: [{ text: '17,299.20' }] }],
    });
    expect(exactSum(rows.map(({ amount }) => Number(amount.replaceAll(',', '').replace(/^\((.*)\)$/, '-$1'))))).toBe(
      217369.42,
    );
    expect(await get(at('Nope'))).toEqual({ places: [], rows: [], more: 0, wouldTie: [] });
    expect((await call(at('Value').replace(/ordinal=\d+/, 'ordinal=x'))).status).toBe(400);
    expect((await call(at('Value').replace(/step=[^&]+/, 'step=gone'))).status).toBe(404);
  });

  it('gives the document as a file with what its reports look like, against which the first reports of another pipeline are held', async () => {
    const file = await call(`/api/pipelines/${pipeline.id}/document`);
    expect(file.headers.get('content-disposition')).toMatch(/filename="?[a-z_]+\.sieve\.json"?$/);
    const document = (await file.json()) as {
      expects: { path: string; traits: { tables: { columns: { name: string }[] }[] } }[];
    };
    expect(document.expects.map(({ path }) => path)).toHaveLength(8);
    expect(document.expects[0].traits.tables[0].columns.map(({ name }) => name)).toEqual(
      expect.arrayContaining(['Code', 'Boxes']),
    );
    // As it was written before the column came, in a folder in which only a later report lies.
    const early = {
      ...document,
      name: 'From a file',
      answers: [],
      expects: document.expects.map((each) => ({
        ...each,
        traits: {
          ...each.traits,
          tables: each.traits.tables.map((table) => ({
            ...table,
            columns: table.columns.filter(({ name }) => name !== 'Quota left (t)'),
          })),
        },
      })),
    };
    for (const [week, ends] of [
      ['week-28', 'nothing published'],
      ['week-27', 'published'],
    ] as const) {
      const folder = join(roots, `alone-${week}`);
      await cp(join(demoFolder, `${week}.pdf`), join(folder, `${week}.pdf`));
      const { id } = (await (
        await send('POST', '/api/pipelines', { document: { ...early, name: `From a file ${week}` }, folder })
      ).json()) as PipelineFull;
      const { run } = (await (await send('POST', `/api/pipelines/${id}/runs`, {})).json()) as { run: number };
      await events(`/api/runs/${run}/events`);
      const told = await get<RunFull>(`/api/runs/${run}`);
      expect([
        told.run.state,
        told.run.notes.flatMap((note) =>
          note.kind === 'differences' ? note.differences.map(({ what, column }) => `${what} ${column}`) : [],
        ),
      ]).toEqual([ends, week === 'week-28' ? ['new column Quota left (t)'] : []]);
    }
  });

  it('says what chosen published cells hold, and finds texts in them, as the sheet itself would', async () => {
    const base = `/api/pipelines/${pipeline.id}/dataset`;
    const { columns, window: rows } = await get<DatasetAnswer>(`${base}?start=0&count=885`);
    const post = async <T>(path: string, body: unknown) => (await (await send('POST', path, body)).json()) as T;
    const amount = columns.findIndex(({ type }) => type === 'decimal');
    const cellsOf = columns.map((column, at) => ({ ...column, cells: rows.map(({ cells }) => cells[at]) }));
    for (const ranges of [
      [{ rows: [0, 884], columns: [amount, amount] }],
      [
        { rows: [70, 95], columns: [amount, amount] },
        { rows: [90, 120], columns: [amount, amount] },
      ],
      [{ rows: [3, 3], columns: [0, 1] }],
    ] as CellRange[][])
      expect(await post<Measured>(`${base}/measure`, { ranges })).toEqual(
        measured([...stretchesByColumn(ranges)].map(([at, stretches]) => columnMeasure(cellsOf[at], stretches))),
      );
    // Units of published columns are not known: two amounts are counted, and not added.
    const both = await post<Measured>(`${base}/measure`, { ranges: [{ rows: [0, 9], columns: [amount - 1, amount] }] });
    expect([both.cells, both.sum]).toEqual([20, undefined]);
    for (const text of ['hake', 'TERN', '2025-06', '7', '1,', 'no such thing', "o'"])
      for (const from of [
        { row: -1, column: 0 },
        { row: 84, column: 3 },
        { row: 884, column: 9 },
      ])
        for (const back of [false, true])
          expect([text, from, back, await post<CellFound>(`${base}/find-cell`, { text, ...from, back })]).toEqual([
            text,
            from,
            back,
            findCell(cellsOf, soughtFrom(text), from, back),
          ]);
    expect((await send('POST', `${base}/measure`, { ranges: [{ rows: [5, 2], columns: [0, 0] }] })).status).toBe(400);
    expect((await send('POST', `${base}/find-cell`, { text: ' ' })).status).toBe(400);
  });

  it('says what chosen cells of a sheet hold, and finds texts in it', async () => {
    const report = (await get<StoredReport[]>(`/api/pipelines/${pipeline.id}/reports`)).find(
      ({ path }) => path === 'week-22.pdf',
    )!;
    const base = `/api/pipelines/${pipeline.id}/reports/${report.id}`;
    const { columns, rows, window } = await get<SheetWindow>(`${base}/sheet?count=1000`);
    const amount = columns.findIndex(({ type }) => type === 'decimal');
    const held = (await (
      await send('POST', `${base}/measure`, { ranges: [{ rows: [0, rows - 1], columns: [amount, amount] }] })
    ).json()) as Measured;
    expect(held.sum).toBe(
      exactSum(window.flatMap(({ cells }) => (typeof cells[amount] === 'number' ? [cells[amount]] : []))),
    );
    const text = cellText(window[5].cells[3]);
    const found = (await (await send('POST', `${base}/find-cell`, { text, row: 4, column: 2 })).json()) as CellFound;
    expect(cellText(window[found.place!.row].cells[found.place!.column]).toLowerCase()).toContain(text.toLowerCase());
    expect((await send('POST', `${base}/find-cell`, { text, step: 'gone' })).status).toBe(404);
  });

  it('gives some of the published rows in an order, each with its number, and what is asked of them', async () => {
    const path = `/api/pipelines/${pipeline.id}/dataset`;
    const all = (await get<DatasetAnswer>(`${path}?start=0&count=1000`)).window;
    const { columns } = await get<DatasetAnswer>(`${path}?start=0&count=1`);
    const at = (heading: string) => columns.findIndex((column) => column.heading === heading);
    const [quay, boxes] = [at('Quay'), at('Boxes')];
    const wanted = all
      .filter(({ cells }) => cells[quay] === 'Saltby')
      .sort((a, b) => Number(b.cells[boxes]) - Number(a.cells[boxes]) || a.row - b.row);
    const selection = { where: ['Quay = Saltby'], order: 'Boxes desc' };
    const query = `where=${encodeURIComponent(selection.where[0])}&order=${encodeURIComponent(selection.order)}`;
    const first = await get<SelectedAnswer>(`${path}/selected?${query}&start=0&count=40`);
    expect([first.rows, first.window]).toEqual([wanted.length, wanted.slice(0, 40)]);
    expect((await get<SelectedAnswer>(`${path}/selected?${query}&start=${wanted.length - 2}&count=40`)).window).toEqual(
      wanted.slice(-2),
    );
    const measure = (await (
      await send('POST', `${path}/measure`, { ...selection, ranges: [{ rows: [2, 11], columns: [boxes, boxes] }] })
    ).json()) as Measured;
    expect(measure).toMatchObject({
      cells: 10,
      numbers: 10,
      sum: exactSum(wanted.slice(2, 12).map(({ cells }) => Number(cells[boxes]))),
      most: wanted[2].cells[boxes],
      least: wanted[11].cells[boxes],
    });
    const find = async (row: number, back: boolean) =>
      (await (
        await send('POST', `${path}/find-cell`, { ...selection, text: 'squid', row, column: 0, back })
      ).json()) as CellFound;
    const hits = wanted.flatMap(({ cells }, row) =>
      cells.flatMap((cell, column) => (String(cell).toLowerCase().includes('squid') ? [{ row, column }] : [])),
    );
    expect([await find(0, false), await find(hits[1].row, true), await find(wanted.length - 1, false)]).toEqual([
      { count: hits.length, place: hits[0].row === 0 && hits[0].column === 0 ? hits[1] : hits[0] },
      { count: hits.length, place: hits[0] },
      { count: hits.length, place: hits.at(-1)!.row === wanted.length - 1 ? hits.at(-1) : hits[0] },
    ]);
    expect((await errorOf(await call(`${path}/selected?where=Nothing&start=0&count=1`))).message).toMatch(
      /is no condition/,
    );
  });

  it('says what a column holds, at a glance', async () => {
    const path = `/api/pipelines/${pipeline.id}/dataset`;
    const { columns, window } = await get<DatasetAnswer>(`${path}?start=0&count=1000`);
    for (const heading of ['Quay', 'Weight (kg) Gutted', 'Week ending']) {
      const card = await get<ColumnCard>(`${path}/column?column=${encodeURIComponent(heading)}`);
      const cells = window.map((row) => ({
        cell: row.cells[columns.findIndex((column) => column.heading === heading)],
        report: row.report,
      }));
      const filled = cells.filter(({ cell }) => cell !== null);
      expect([card.cells, card.blank, card.errors, card.distinct]).toEqual([
        cells.length,
        cells.length - filled.length,
        0,
        new Set(filled.map(({ cell }) => cell)).size,
      ]);
      const [{ value, count, reports: inReports }] = card.values;
      const same = filled.filter(({ cell }) => String(cell) === value);
      expect([count, inReports]).toEqual([same.length, new Set(same.map(({ report }) => report)).size]);
      if (heading !== 'Weight (kg) Gutted') continue;
      const numbers = filled.map(({ cell }) => Number(cell));
      expect([card.least, card.most, card.sum].map(Number)).toEqual([
        Math.min(...numbers),
        Math.max(...numbers),
        exactSum(numbers),
      ]);
      expect(card.spread.reduce((sum, bin) => sum + bin.count, 0)).toBe(numbers.length);
      expect(card.spread[3].count).toBe(
        numbers.filter((number) => number >= card.spread[3].from && number < card.spread[3].to).length,
      );
    }
    const values = async (most: string) =>
      (await get<ColumnCard>(`${path}/column?column=Species&values=${most}`)).values;
    expect([(await values('2')).length, (await values('1000')).length]).toEqual([
      2,
      (await get<ColumnCard>(`${path}/column?column=Species`)).distinct,
    ]);
    expect((await call(`${path}/column?column=Species&values=0`)).status).toBe(400);
    expect((await errorOf(await call(`${path}/column?column=Nothing`))).message).toBe(
      'The dataset has no column “Nothing”.',
    );
  });

  it('sums the dataset up by columns, dates by their months; the rows behind a figure are found by its keys', async () => {
    const path = `/api/pipelines/${pipeline.id}/dataset`;
    const { columns, window } = await get<DatasetAnswer>(`${path}?start=0&count=1000`);
    const at = (heading: string) => columns.findIndex((column) => column.heading === heading);
    const asked = {
      rows: [{ column: 'Quay' }],
      columns: [{ column: 'Week ending', by: 'month' as const }],
      value: 'Value',
      how: 'sum' as const,
      where: ['Boxes >= 10'],
    };
    const groups = (await (await send('POST', `${path}/summary`, asked)).json()) as SummaryGroup[];
    const rows = window.filter(({ cells }) => Number(cells[at('Boxes')]) >= 10);
    const { down, across, figures, all } = summaryTable(groups, 1, 'sum');
    expect([down.length, across.length]).toEqual([
      new Set(rows.map(({ cells }) => cells[at('Quay')])).size,
      new Set(rows.map(({ cells }) => String(cells[at('Week ending')]).slice(0, 7))).size,
    ]);
    expect(all).toBe(exactSum(rows.map(({ cells }) => Number(cells[at('Value')]))));
    const [quay] = down[1];
    const [month] = across[1];
    const where = [...asked.where, ...conditionsOf(asked.rows[0], quay), ...conditionsOf(asked.columns[0], month)];
    const behind = await get<SelectedAnswer>(
      `${path}/selected?${where.map((text) => `where=${encodeURIComponent(text)}`).join('&')}&start=0&count=1000`,
    );
    expect(figures[1][1]).toBe(exactSum(behind.window.map(({ cells }) => Number(cells[at('Value')]))));
    // The same as a workbook, its figures as numbers.
    const book = new Xlsx.Workbook();
    await book.xlsx.load(await (await send('POST', `${path}/summary.xlsx`, asked)).arrayBuffer());
    const [sheet, about] = book.worksheets;
    const cells = down.map((_, row) =>
      across.map((__, column) => sheet.getCell(row + 2, column + 2).value ?? undefined),
    );
    expect(cells).toEqual(figures);
    expect(sheet.getCell(down.length + 2, across.length > 1 ? across.length + 2 : 2).value).toBe(all);
    expect(about.getCell('B1').value).toBe('Landings by species');
    expect((await errorOf(await send('POST', `${path}/summary.xlsx`, { ...asked, show: 'as it comes' }))).kind).toBe(
      'bad input',
    );
    expect((await errorOf(await send('POST', `${path}/summary`, { ...asked, value: 'Species' }))).message).toBe(
      '“Species” holds no numbers: its rows can be counted only.',
    );
    expect(
      (await errorOf(await send('POST', `${path}/summary`, { ...asked, columns: [{ column: 'Quay', by: 'month' }] })))
        .message,
    ).toBe('“Quay” holds no dates: it cannot be taken by month.');
    expect((await errorOf(await send('POST', `${path}/summary`, { rows: [] }))).message).toMatch(
      /Choose at least one column to stand down/,
    );
  });

  it('explains the published rows by the version that published them, whatever the document says today', async () => {
    const before = await get<PublishedAnswer>(`/api/pipelines/${pipeline.id}/dataset/made-of`);
    const week24 = before.reports.find(({ path }) => path === 'week-24.pdf')!;
    expect(week24).toMatchObject({ version: 1, stale: false, rows: 81, held: 15 });
    expect(before.totals.filter(({ row }) => row.report === String(week24.report))).toMatchObject([
      { cells: { Species: 'Total Saltby' }, level: 1, covers: [{ table: 'p2t1' }] },
      { cells: { Species: 'Total Tern Point' }, level: 1 },
      { level: 1 },
      { level: 1 },
      { level: 2 },
    ]);
    const path = `/api/pipelines/${pipeline.id}/dataset/reports/${week24.report}`;
    const held = await get<SheetWindow>(`${path}/sheet?step=totals&of=held`);
    const cell = await get<DatasetTrace>(`/api/pipelines/${pipeline.id}/dataset/trace?row=100&column=Species`);
    const trimmed = {
      ...demo,
      eachReport: [
        { id: 'trim', kind: 'trim rows', settings: { top: 1 } },
        ...(demo['eachReport'] as { id: string }[]).filter(({ id }) => id !== 'totals'),
      ],
    };
    expect((await save(pipeline.id, trimmed, 1)).status).toBe(200);

    expect(await get(`${path}/sheet?step=totals&of=held`)).toEqual(held);
    expect(held.held.rows).toBe(5);
    expect(await get(`/api/pipelines/${pipeline.id}/dataset/trace?row=100&column=Species`)).toEqual(cell);
    expect(await get(`/api/pipelines/${pipeline.id}/dataset/made-of`)).toEqual(before);
    // Today's document is what the bench looks at.
    expect((await call(`${reportPath('week-24.pdf')}/sheet?step=totals`)).status).toBe(404);
    expect((await call(`/api/pipelines/${pipeline.id}/dataset/reports/99999/layers`)).status).toBe(404);
    expect(
      (await get<VersionAnswer[]>(`/api/pipelines/${pipeline.id}/versions`)).map(({ version, published }) => [
        version,
        published,
      ]),
    ).toEqual([
      [2, false],
      [1, true],
    ]);
  });
});
