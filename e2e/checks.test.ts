import { readFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import Xlsx from 'exceljs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PipelineFull } from '../server/contract/contract';
import type { Serving } from '../server/house/serve';
import { demoPipeline, someReports, temporaryFolder } from '../server/testing/folders';
import { asOwner } from '../server/testing/owner';
import { violations } from './accessible';
import { openBrowser, type Browser } from './browser';
import { Dataset } from './pages/pipeline';
import { serving } from './serving';

let server: Serving;
let browser: Browser;
let dataset: Dataset;
let address: string;
const kept = () => dataset.texts('sieve-published-checks article p');

beforeAll(async () => {
  const folder = await someReports(['week-22.pdf', 'week-23.pdf', 'week-24.pdf']);
  server = await serving(dirname(folder));
  browser = await openBrowser(server);
  const made = await asOwner(server)('/api/pipelines', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ document: JSON.parse(await readFile(demoPipeline, 'utf8')), folder }),
  });
  address = `${server.url}pipelines/${((await made.json()) as PipelineFull).id}`;
  await browser.driver.get(`${address}/dataset?beside=checks`);
  dataset = new Dataset(browser.driver);
});
afterAll(async () => {
  await browser?.close();
  await server?.stop();
});

describe('checks beside the dataset', () => {
  it('are proposed from what holds in all reports, and kept by one press', async () => {
    await dataset.refresh();
    await dataset.press('Look for checks to keep', 'sieve-published-checks');
    await dataset.until('the proposals', async () =>
      (await dataset.texts('.proposed li span:first-child')).includes(
        '“Quay” and “Code” together are unique in each report, in 3 of 3 reports',
      ),
    );
    await dataset.clickOn('button[aria-label="Keep: “Quay” and “Code” together are unique in each report"]');
    await dataset.until(
      'it to be kept',
      async () => (await kept())[0]?.startsWith('“Quay” and “Code” together are unique in each report.') ?? false,
    );
    await dataset.until(
      'it to be proposed no more',
      async () => !(await dataset.texts('.proposed li span:first-child')).join().includes('“Quay” and “Code”'),
    );
    expect(await violations(browser.driver)).toEqual([]);
  });

  it('are written by hand, and tell the reports that fail with the way to their paper', async () => {
    await dataset.fill('sieve-own-check [aria-label="At least"]', '70');
    await dataset.press('Add the check', 'sieve-published-checks');
    await dataset.until('the second', async () => (await kept()).length === 2);
    await dataset.press('Close this message');
    expect(await dataset.refresh()).toMatch(/published/);
    await dataset.until(
      'how both stand',
      async () =>
        (await kept()).join('|') ===
        '“Quay” and “Code” together are unique in each report. holds in 3 reports|A report has at least 70 rows. fails in 1 report',
    );
    await expect.poll(() => dataset.texts('sieve-published-checks article li')).toEqual(['week-23.pdf: 64 rows']);
  });

  it('hold a report back where they are to, and are among what needs the analyst', async () => {
    await dataset.pick('sieve-published-checks article:nth-of-type(2) sieve-pick', 'hold the report back');
    await dataset.press('Close this message');
    await dataset.refresh();
    await dataset.until('the ruler', async () => (await dataset.texts('.needs-link')).includes('What needs you'));
    await browser.driver.get(`${address}/needs`);
    await dataset.until('the check', async () =>
      /week-23\.pdf: expected what is checked: A report has at least 70 rows, got 64 rows\..* the report is held back; rows of its last good version stay$/.test(
        (await dataset.texts('sieve-needs-page li.p-listbox-option'))[0] ?? '',
      ),
    );
    await dataset.press('To the check and the cells that fail it', 'sieve-needs-page');
    await dataset.until('the checks', async () => (await kept()).length === 2);
    await dataset.clickOn('button[aria-label="No longer check: A report has at least 70 rows"]');
    await dataset.until('one check', async () => (await kept()).length === 1);
  });
});

describe('the dataset beside a list of another office', () => {
  it('is compared by the columns of a workbook, whatever they are called there; each difference leads to its row and paper, at every refresh', async () => {
    // Their list: one amount is another, one row is theirs alone, one is not there.
    const csv = await (
      await asOwner(server)(`${new URL(address).pathname.replace('/pipelines', '/api/pipelines')}/dataset.csv`)
    ).text();
    const [heading, ...rows] = csv
      .trim()
      .split(/\r?\n/)
      .map((line) => line.split(','));
    const at = (name: string) => heading.indexOf(name);
    const theirs = rows
      .filter((row) => row[at('Week')] === '22' && row.length === heading.length)
      .map((row) => [row[at('Week')], row[at('Quay')], row[at('Code')], row[at('Boxes')]]);
    theirs[3][3] = '999';
    theirs.push(['22', 'Saltby', 'ZZ9', '5']);
    const folder = await temporaryFolder();
    const book = new Xlsx.Workbook();
    book
      .addWorksheet('Landed')
      .addRows([
        ['Week', 'Quay', 'Code', 'Crates'],
        ...theirs.map(([week, quay, code, boxes]) => [Number(week), quay, code, Number(boxes)]),
      ]);
    await book.xlsx.writeFile(join(folder, 'fish-office.xlsx'));
    await browser.driver.get(`${address}/dataset?beside=checks`);
    await (await dataset.find('sieve-compare-check input[type="file"]')).sendKeys(join(folder, 'fish-office.xlsx'));
    await dataset.tickList(
      'Columns that tell which row is meant',
      ['Week', 'Quay', 'Code'],
      '[aria-label="Published rows"] h2',
    );
    await dataset.tickList('Columns that are compared', ['Boxes'], '[aria-label="Published rows"] h2');
    await dataset.pick('sieve-compare-check .pair p-select', 'Crates');
    await dataset.press('Compare at every refresh', 'sieve-compare-check');
    await dataset.until('the check', async () =>
      (await kept()).some((each) =>
        each.startsWith('The dataset agrees with “fish-office.xlsx” in “Boxes”, by “Week”, “Quay” and “Code”'),
      ),
    );
    await dataset.refresh();
    await dataset.until('how it stands', async () =>
      (await kept()).some((each) =>
        /fish-office\.xlsx.* \d+ only here, 1 only there, 1 different; \d+ agree$/.test(each),
      ),
    );
    await dataset.clickOn('sieve-published-checks article:last-of-type summary');
    await dataset.until('what is unlike', async () =>
      (await dataset.texts('sieve-reconciled-list li')).some((each) => each.includes('“Boxes” is ')),
    );
    const lines = await dataset.texts('sieve-reconciled-list li');
    expect(lines.at(-1)).toBe('22, Saltby, ZZ9: only in the list');
    const different = lines.find((each) => each.includes('there ('))!;
    expect(different).toMatch(/^22, Saltby, \w+: “Boxes” is \d+ here, 999 there \(-\d+\)$/);
    await dataset.press(different, 'sieve-reconciled-list');
    await dataset.untilText('.said', /^week-22\.pdf, page 2: “\d+”/);
    expect(await violations(browser.driver)).toEqual([]);
  });
});
