import { mkdir, readFile, rename } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PipelineFull, StoredReport } from '../server/contract/contract';
import type { Serving } from '../server/house/serve';
import { asOwner } from '../server/testing/owner';
import { demoPipeline, someReports } from '../server/testing/folders';
import { openBrowser, type Browser } from './browser';
import { Bench, Dataset, Intake } from './pages/pipeline';
import { PipelinesScreen } from './pages/pipelines';
import { serving } from './serving';

let server: Serving;
let browser: Browser;
let folder: string;
let id: number;
let demo: Record<string, unknown>;

const api = async <T>(path: string, init: RequestInit = {}) =>
  (await (
    await asOwner(server)(path, { ...init, headers: { 'Content-Type': 'application/json', ...init.headers } })
  ).json()) as T;
const current = () => api<PipelineFull>(`/api/pipelines/${id}`);
/** What another tab, or another person, saves. */
async function savedElsewhere(change: (document: Record<string, unknown>) => Record<string, unknown>) {
  const { document, version } = await current();
  return api<PipelineFull>(`/api/pipelines/${id}`, {
    method: 'PUT',
    body: JSON.stringify({ document: change(document as Record<string, unknown>) }),
    headers: { 'If-Match': `"${version}"` },
  });
}
const off = (step: string) => (document: Record<string, unknown>) => ({
  ...document,
  eachReport: (document['eachReport'] as { id: string }[]).map((each) =>
    each.id === step ? { ...each, off: true } : each,
  ),
});

beforeAll(async () => {
  folder = await someReports(['week-22.pdf', 'week-24.pdf']);
  server = await serving(dirname(folder));
  browser = await openBrowser(server);
  demo = JSON.parse(await readFile(demoPipeline, 'utf8')) as Record<string, unknown>;
  ({ id } = await api<PipelineFull>('/api/pipelines', {
    method: 'POST',
    body: JSON.stringify({ document: demo, folder }),
  }));
});
afterAll(async () => {
  await browser?.close();
  await server?.stop();
});

describe('a pipeline that is changed in two places', () => {
  it('tells the second of them what the other changed, and saves its change on top when it is asked to', async () => {
    await browser.driver.get(`${server.url}pipelines/${id}/bench`);
    const bench = new Bench(browser.driver);
    await bench.headingIs(/^After /);
    await savedElsewhere(off('totals'));
    await bench.add('all reports', 'trim rows');
    await bench.untilText(
      '[role="alert"].ended',
      /it is at version 2\. There: “Hold totals” switched off\. Here: “Trim rows” added to all reports\. Neither is lost\./,
    );
    await bench.press('Save mine on top', 'sieve-pipeline-page');
    await bench.untilText('sieve-top-bar header > button', /^Saved, version 3$/);
    await expect
      .poll(async () => (await current()).document)
      .toMatchObject({ allReports: [{ id: 'types' }, { id: 'worked' }, { kind: 'trim rows' }] });
  });

  it('goes on with that of the other when that is wanted, and undo brings its own back', async () => {
    const bench = new Bench(browser.driver);
    await savedElsewhere(off('quay'));
    await bench.add('each report', 'sort');
    await bench.press('Go on with that one', 'sieve-pipeline-page');
    await bench.untilText('sieve-top-bar header > button', /^Saved, version 4$/);
    await bench.until(
      'the layer of the other',
      async () => !(await bench.layers()).some((layer) => layer.startsWith('Sort')),
    );
    await bench.press('Undo', 'sieve-top-bar');
    await bench.untilText('sieve-top-bar header > button', /^Saved, version 5$/);
    await bench.layerIs(/^Sort/);
  });

  it('lists its versions with what each changed, and goes back to one by a new version', async () => {
    const bench = new Bench(browser.driver);
    await bench.press(/^Saved, version/, 'sieve-top-bar');
    await bench.until('the versions', async () => (await bench.texts('sieve-versions-dialog li')).length === 5);
    const versions = await bench.texts('.p-dialog li');
    expect(versions[3]).toMatch(/^2 “Hold totals” switched off .* Go back to 2$/);
    expect(versions[4]).toMatch(/^1 The pipeline was made .* Go back to 1$/);
    await bench.press('Go back to 1', '.p-dialog');
    await bench.untilText('sieve-top-bar header > button', /^Saved, version 6$/);
    await expect
      .poll(async () => (await current()).document)
      .toMatchObject({ eachReport: demo['eachReport'], allReports: demo['allReports'] });
  });

  it('shows the trace of a published cell as it was published, after the steps have changed', async () => {
    const dataset = new Dataset(browser.driver);
    await dataset.goTo('Dataset');
    expect(await dataset.refresh()).toMatch(/^Refresh: published/);
    await dataset.headingIs(/with version 6/);
    await savedElsewhere((document) => ({
      ...document,
      eachReport: [{ id: 'cut', kind: 'trim rows', settings: { top: 1 } }, ...(document['eachReport'] as object[])],
    }));
    await dataset.clickCell(0, 4);
    await dataset.untilText('sieve-dataset-page .said', /^week-22\.pdf, page 2: “Reef brill”/);
    // So are the rows that its steps held, though the step is another now.
    await dataset.press('Held', 'sieve-dataset-page');
    await dataset.press('Hold totals: 5 rows', '.side');
    await dataset.until('the held rows', async () =>
      (await dataset.texts('sieve-published-held tbody tr:not(.space)')).some((row) =>
        /Total Saltby.*adding up to it/.test(row),
      ),
    );
  });
});

describe('the periods of reports', () => {
  it('are proposed from the names when a pipeline is made', async () => {
    const screen = new PipelinesScreen(browser.driver);
    await screen.open(server.url);
    await screen.press('New pipeline');
    await screen.chooseFolder(folder.split('/').at(-1)!, 'sieve-folder-picker');
    await screen.until(
      'the proposed template',
      async () => (await (await screen.find('#template')).getAttribute('value')) === 'week-{week}.pdf',
    );
    await screen.fill('#year', '2025');
    await screen.untilText('sieve-periods-form [role="status"]', /^2 names tell a period, 2025-W22 to 2025-W24\.$/);
    await screen.fill('#template', 'sheet-{week}.pdf');
    await screen.untilText('sieve-periods-form [role="status"]', /^No name tells a period so\.$/);
    await expect
      .poll(() => screen.texts('sieve-periods-form li'))
      .toEqual(['week-22.pdf no period', 'week-24.pdf no period']);
    await screen.press('week-{week}.pdf', 'sieve-periods-form');
    await screen.untilText('sieve-periods-form [role="status"]', /^2 names tell a period/);
    await expect
      .poll(() => screen.texts('sieve-periods-form li'))
      .toEqual(['week-22.pdf 2025-W22', 'week-24.pdf 2025-W24']);
  });

  it('can be told otherwise later, by what the paper says, and in another folder', async () => {
    const other = join(folder, 'moved');
    await mkdir(other);
    for (const week of [22, 24])
      await rename(join(folder, `week-${week}.pdf`), join(other, `sheet ${'ab'[(week - 22) / 2]}.pdf`));
    await browser.driver.get(`${server.url}pipelines/${id}/intake`);
    const intake = new Intake(browser.driver);
    await intake.press('Periods', 'sieve-intake-page');
    await intake.fill('#stamp', 'Week ending {period}');
    await intake.press('Another folder', 'sieve-periods-dialog');
    await intake.chooseFolder('moved', 'sieve-folder-picker');
    await intake.untilText('sieve-folder-picker .at b', /\/moved$/);
    await intake.press('Use this', 'sieve-periods-dialog');
    await intake.reportIs(/^sheet a\.pdf/);
    await intake.until('the periods that the paper says', async () => {
      const reports = await api<StoredReport[]>(`/api/pipelines/${id}/reports`);
      return (
        JSON.stringify(
          reports.filter(({ standing }) => standing === 'counts').map(({ path, period }) => [path, period]),
        ) ===
        JSON.stringify([
          ['sheet a.pdf', '2025-05-31'],
          ['sheet b.pdf', '2025-06-14'],
        ])
      );
    });
    await expect.poll(async () => (await current()).folder).toBe(other);
  });
});
