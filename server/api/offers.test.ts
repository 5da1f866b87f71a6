// Steps that are proposed and offered, over real HTTP.
import { cp, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ApiError, Offer, PipelineFull, ProposedSteps, StoredReport } from '../contract/contract';
import { serve, type Serving } from '../house/serve';
import { demoFolder, demoPipeline, temporaryFolder } from '../testing/folders';
import { asOwner } from '../testing/owner';

let server: Serving;
let id: number;
let reports: readonly StoredReport[];
const owner = (path: string, init: RequestInit = {}) => asOwner(server)(path, init);
const json = (method: string, body: unknown, headers: Record<string, string> = {}): RequestInit => ({
  method,
  headers: { 'Content-Type': 'application/json', ...headers },
  body: JSON.stringify(body),
});
const proposals = async () => (await (await owner(`/api/pipelines/${id}/reports/proposals`)).json()) as ProposedSteps;
const guide = () => reports.find(({ path }) => path === 'week-24.pdf')!.id;
const offered = (body: unknown, report = guide()) =>
  owner(`/api/pipelines/${id}/reports/${report}/offers`, json('POST', body));
const offersOf = async (of: unknown, step = 'taken') =>
  ((await (await offered({ step, of })).json()) as { offers: readonly Offer[] }).offers;

/** Saves the document with a change. */
async function saved(change: (document: Record<string, unknown>) => Record<string, unknown>) {
  const { document, version } = (await (await owner(`/api/pipelines/${id}`)).json()) as PipelineFull;
  const response = await owner(
    `/api/pipelines/${id}`,
    json('PUT', { document: change(document as Record<string, unknown>) }, { 'If-Match': `"${version}"` }),
  );
  expect(response.status).toBe(200);
}

beforeAll(async () => {
  const root = await temporaryFolder();
  const folder = join(root, 'sheets');
  for (const week of ['24', '25', '30', '32', '33'])
    await cp(join(demoFolder, `week-${week}.pdf`), join(folder, `week-${week}.pdf`));
  server = await serve({
    data: await temporaryFolder(),
    host: '127.0.0.1',
    port: 0,
    roots: [root],
    uploadLimit: 1,
    logLevel: 'silent',
  });
  const document = {
    ...(JSON.parse(await readFile(demoPipeline, 'utf8')) as object),
    eachTable: [],
    eachReport: [],
    allReports: [],
  };
  ({ id } = (await (await owner('/api/pipelines', json('POST', { document, folder }))).json()) as PipelineFull);
  reports = (await (await owner(`/api/pipelines/${id}/reports`, json('POST', {}))).json()) as StoredReport[];
});
afterAll(() => server?.stop());

describe('proposed steps', () => {
  it('come from all reports that count, with those that cannot be read named', async () => {
    const { proposals: found, reports: count, unreadable } = await proposals();
    expect(found.map(({ step }) => step.kind)).toEqual(
      expect.arrayContaining(['drop noise', 'promote header rows', 'lift sections', 'hold totals', 'set types']),
    );
    expect([count, unreadable.length]).toEqual([4, 1]);
    expect(found.find(({ step }) => step.kind === 'hold totals')!.effect).toMatchObject({ failing: [], reports: 3 });
    expect(new Set(found.map(({ step }) => step.id)).size).toBe(found.length);
  });

  it('are fewer by those dismissed, and none once all are in the document', async () => {
    const first = (await proposals()).proposals;
    await saved((document) => ({ ...document, dismissed: [first[0].id] }));
    expect((await proposals()).proposals.map((each) => each.id)).not.toContain(first[0].id);
    await saved(({ dismissed: _, ...document }) =>
      first.reduce<Record<string, unknown>>(
        (all, { zone, step }) => ({ ...all, [zone]: [...(all[zone] as unknown[]), step] }),
        document,
      ),
    );
    expect((await proposals()).proposals).toEqual([]);
    await saved((document) => ({ ...document, eachTable: [], eachReport: [], allReports: [] }));
  });

  it('of a pipeline that is not there are refused in a sentence', async () => {
    const response = await owner('/api/pipelines/999/reports/proposals');
    expect([response.status, ((await response.json()) as ApiError).error.message]).toEqual([
      404,
      expect.stringContaining('There is no pipeline 999'),
    ]);
  });
});

describe('offers', () => {
  it('for a cell say what each would hold, by places and by print', async () => {
    const [first] = await offersOf({ selected: { rows: [2, 2], columns: [0, 0] } });
    expect(first.says).toMatch(/^put “Saltby” and \d like it beside the rows below$/);
    expect(first.held).toContain(2);
    expect(first.printed[0]).toMatchObject({ page: 2, words: [expect.any(Number)] });
  });

  it('for a certain step tell what it would do there', async () => {
    const below = (...steps: object[]) =>
      offersOf({ steps: steps.map((step, n) => ({ zone: 'eachTable', step: { id: `s${n}`, ...step } })) });
    const promoted = { kind: 'promote header rows', settings: { rows: 2, spread: true } };
    expect((await below(promoted))[0]).toMatchObject({ held: [0, 1], holds: 2, rowsIn: 96, rowsOut: 94 });
    // On what those above it make: the columns have other names there, and the rows stand elsewhere.
    const [typed] = await below(promoted, {
      kind: 'set types',
      settings: { types: [{ columns: { by: 'names', names: ['Boxes', 'Value'] }, type: 'decimal' }] },
    });
    expect(typed.changed.slice(0, 2)).toEqual([
      [3, 2, 238],
      [4, 2, 139],
    ]);
    expect([typed.rowsIn, typed.held]).toEqual([94, []]);
    // One that cannot be done there is none.
    expect(
      await below({ kind: 'carry values', settings: { columns: { by: 'names', names: ['No such column'] } } }),
    ).toEqual([]);
  });

  it('for a part of a text and for the edge of a column', async () => {
    const [cut] = await offersOf({ part: { row: 4, column: 1, from: 10, to: 16 } });
    expect(cut.says).toBe('cut 23 texts at the last “, ”');
    expect((await offersOf({ edge: 1 }))[0].says).toBe('join “Column 2” and “Column 3” into one column');
    expect(await offersOf({ part: { row: 9000, column: 1, from: 0, to: 1 } })).toEqual([]);
    expect(await offersOf({ edge: 60 })).toEqual([]);
  });

  it('for a place outside the sheet, or a word that is not there, are none', async () => {
    expect(await offersOf({ selected: { rows: [9000, 9000], columns: [0, 0] } })).toEqual([]);
    expect(await offersOf({ word: { page: 99, word: 0 } })).toEqual([]);
    expect(await offersOf({ word: { page: 2, word: 99_999 } })).toEqual([]);
  });

  it('for what cannot be asked are refused', async () => {
    for (const of of [
      {},
      { selected: { rows: [3, 1], columns: [0, 0] } },
      { word: { page: 0, word: 1 } },
      { steps: [] },
      { steps: [{ zone: 'eachTable', step: { id: 'a', kind: 'no such kind', settings: {} } }] },
      { part: { row: 0, column: 0, from: 2, to: 2 } },
    ])
      expect((await offered({ of })).status, JSON.stringify(of)).toBe(400);
    expect((await offered({ step: 'no-such-step', of: { word: { page: 1, word: 1 } } })).status).toBe(404);
  });
});

describe('the demo', () => {
  it('is a pipeline with files of its own, made by one request', async () => {
    const response = await owner('/api/pipelines/demo', { method: 'POST' });
    // Its name is that of the pipeline here.
    expect([response.status, ((await response.json()) as ApiError).error.message]).toEqual([
      409,
      expect.stringContaining('Landings by species'),
    ]);
    expect((await owner(`/api/pipelines/${id}`, { method: 'DELETE' })).status).toBe(204);
    const made = (await (await owner('/api/pipelines/demo', { method: 'POST' })).json()) as PipelineFull;
    expect(made).toMatchObject({ name: 'Landings by species', managed: true });
    expect((await owner(`/api/pipelines/${made.id}`, { method: 'DELETE' })).status).toBe(204);
  });
});
