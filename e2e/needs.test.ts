import { readFile } from 'node:fs/promises';
import { dirname } from 'node:path';
import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Pipeline } from '../core/pipeline/document';
import type { PipelineFull } from '../server/contract/contract';
import type { Serving } from '../server/house/serve';
import { demoPipeline, someReports } from '../server/testing/folders';
import { asOwner } from '../server/testing/owner';
import { violations } from './accessible';
import { openBrowser, type Browser } from './browser';
import { Dataset } from './pages/pipeline';
import { serving } from './serving';

let server: Serving;
let browser: Browser;
let screen: Dataset;
let id: number;

const ask = (path: string, init?: RequestInit) => asOwner(server)(path, init);
const headings = async () =>
  (await (await ask(`/api/pipelines/${id}/dataset.csv`)).text()).split(/\r?\n/)[0].replace('\ufeff', '').split(',');
const items = () => screen.texts('sieve-needs-page li.p-listbox-option');

beforeAll(async () => {
  // From week 28 on there is a column more, in week 30 one is called otherwise, and in week 29 a total is misprinted.
  const folder = await someReports(['week-26.pdf', 'week-27.pdf', 'week-28.pdf', 'week-29.pdf', 'week-30.pdf']);
  server = await serving(dirname(folder));
  browser = await openBrowser(server);
  const demo = JSON.parse(await readFile(demoPipeline, 'utf8')) as Pipeline;
  const document = { ...demo, answers: [], eachTable: demo.eachTable.filter(({ kind }) => kind !== 'rename') };
  const made = await ask('/api/pipelines', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ document, folder }),
  });
  ({ id } = (await made.json()) as PipelineFull);
  await browser.driver.get(`${server.url}pipelines/${id}/needs`);
  screen = new Dataset(browser.driver);
});
afterAll(async () => {
  await browser?.close();
  await server?.stop();
});

describe('what needs the analyst', () => {
  it('is told at the end of a refresh, one sentence a difference, and held back reports are named on the ruler', async () => {
    expect(await screen.refresh()).toMatch(
      /^Refresh: published\. 2 reports added: .* From 2025-W28 on \(3 reports\), a column “Quota left \(t\)” stands after “Value”\. From 2025-W30 on \(1 report\), “No\. of boxes” stands where “Boxes” stood\./,
    );
    await screen.until('both differences', async () => (await items()).length === 2);
    await expect
      .poll(() => items())
      .toEqual([
        'From 2025-W28 on (3 reports), a column “Quota left (t)” stands after “Value”. 3 reports are held back until it is answered',
        'From 2025-W30 on (1 report), “No. of boxes” stands where “Boxes” stood. 1 report is held back until it is answered',
      ]);
    await screen.until(
      'the ruler',
      async () => (await screen.texts('sieve-time-ruler button b')).filter((word) => word === 'differs').length === 3,
    );
    await expect
      .poll(async () =>
        (await screen.texts('sieve-time-ruler button b'))
          .slice(0, 2)
          .every((word) => /^\d+ tied out$/.test(word.replace(/\s+/g, ' '))),
      )
      .toBe(true);
    expect(await headings()).not.toContain('Quota left (t)');
  });

  it('shows the heading on paper, and is answered by one press', async () => {
    await screen.until(
      'its words on paper',
      async () => (await screen.all('sieve-needs-page .frame.word')).length >= 2,
    );
    expect(await violations(browser.driver)).toEqual([]);
    await screen.press('A new column, blank before', 'sieve-needs-page');
    await screen.until('the next one', async () => (await items()).length === 1);
    await expect
      .poll(() => screen.texts('sieve-needs-page .answers button'))
      .toEqual([
        'It is “Boxes”, as its values say',
        'A new column, blank before',
        'Leave “No. of boxes” out',
        'Keep these reports out',
      ]);
  });

  it('is answered by keyboard as well, and counts at once: all reports come, and the misprinted total is what is left', async () => {
    const first = await screen.find('sieve-needs-page .answers button');
    await browser.driver.executeScript('arguments[0].focus()', first);
    await first.sendKeys(Key.ENTER);
    await screen.untilText('.ended', /3 reports added: .* Nothing differs in 5 reports\..*1 is off\./);
    await screen.until('the total', async () =>
      (await items())
        .join()
        .includes('“Total Tern Point” of Value is off by 40.00: printed 217,409.42, its 16 rows give 217,369.42.'),
    );
    const columns = await headings();
    expect(['Boxes', 'No. of boxes', 'Quota left (t)'].map((name) => columns.includes(name))).toEqual([
      true,
      false,
      true,
    ]);
    await screen.clickOn('sieve-needs-page .given summary');
    await expect.poll(() => screen.texts('sieve-needs-page .given summary')).toEqual(['2 answers given']);
    await expect
      .poll(() => screen.texts('sieve-needs-page .given li span:first-child'))
      .toEqual(['“Quota left (t)” is a new column, from 2025-W28 on.', '“No. of boxes” is “Boxes”, from 2025-W30 on.']);
  });

  it('is asked again when its answer is undone, and the rows that came by it stay meanwhile', async () => {
    await screen.press('Undo');
    await screen.press('Refresh now', 'sieve-needs-page');
    await screen.until(
      'the question',
      async () =>
        (await items())[0]?.startsWith('From 2025-W30 on (1 report), “No. of boxes” stands where “Boxes” stood.') ??
        false,
    );
    await expect.poll(async () => (await headings()).includes('No. of boxes')).toBe(false);
    await screen.press('Redo');
    await screen.press('Refresh now', 'sieve-needs-page');
    await screen.until(
      'the total alone',
      async () => (await items()).length === 1 && (await items())[0].includes('Tern Point'),
    );
    await screen.press('To the total and the rows it covers', 'sieve-needs-page');
    await screen.until(
      'the totals',
      async () => (await screen.texts('sieve-published-totals li'))[0]?.startsWith('Total Tern Point · Value') ?? false,
    );
  });

  it('is nothing, with what ties out, when all is answered', async () => {
    const pipeline = (await (await ask(`/api/pipelines/${id}`)).json()) as PipelineFull & { document: Pipeline };
    const accepted = [
      { report: 'week-29.pdf', table: 'p2t1', row: 0, column: 'Value', printed: 217409.42, why: 'confirmed' },
    ];
    // The place of the total as the dataset has it.
    const { totals } = (await (await ask(`/api/pipelines/${id}/dataset/made-of`)).json()) as {
      totals: { row: { table: string; ordinal: number }; ties: { outcome: string }[] }[];
    };
    const off = totals.find(({ ties }) => ties.some(({ outcome }) => outcome === 'off'))!;
    Object.assign(accepted[0], { table: off.row.table, row: off.row.ordinal });
    await ask(`/api/pipelines/${id}`, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json', 'If-Match': `"${pipeline.version}"` },
      body: JSON.stringify({ document: { ...pipeline.document, accepted } }),
    });
    await browser.driver.get(`${server.url}pipelines/${id}/needs`);
    await screen.refresh();
    await screen.untilText(
      'sieve-needs-page sieve-notice',
      /^Nothing needs you\. 5 reports, \d+ rows\. \d+ of \d+ printed totals tie out, 1 is accepted as misprinted\.$/,
    );
    await expect.poll(() => screen.texts('.needs-link')).toEqual(['Nothing needs you']);
    expect(await violations(browser.driver)).toEqual([]);
  });
});
