import { readFile } from 'node:fs/promises';
import { dirname } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PipelineFull } from '../server/contract/contract';
import { serve, type Serving } from '../server/house/serve';
import { demoPipeline, someReports, temporaryFolder } from '../server/testing/folders';
import { asOwner } from '../server/testing/owner';
import { violations } from './accessible';
import { openBrowser, type Browser } from './browser';
import { Dataset } from './pages/pipeline';

let server: Serving;
let browser: Browser;
let dataset: Dataset;
let address: string;
const kept = () => dataset.texts('sieve-published-checks article p');

beforeAll(async () => {
  const folder = await someReports(['week-22.pdf', 'week-23.pdf', 'week-24.pdf']);
  server = await serve({ data: await temporaryFolder(), host: '127.0.0.1', port: 0, roots: [dirname(folder)], uploadLimit: 1, logLevel: 'silent' });
  browser = await openBrowser(server);
  const made = await asOwner(server)('/api/pipelines', { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ document: JSON.parse(await readFile(demoPipeline, 'utf8')), folder }) });
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
    await dataset.until('the proposals', async () => (await dataset.texts('.proposed li span:first-child')).includes('“Quay” and “Code” together are unique in each report, in 3 of 3 reports'));
    await (await dataset.find('button[aria-label="Keep: “Quay” and “Code” together are unique in each report"]')).click();
    await dataset.until('it to be kept', async () => (await kept())[0]?.startsWith('“Quay” and “Code” together are unique in each report.') ?? false);
    await dataset.until('it to be proposed no more', async () => !(await dataset.texts('.proposed li span:first-child')).join().includes('“Quay” and “Code”'));
    expect(await violations(browser.driver)).toEqual([]);
  });

  it('are written by hand, and tell the reports that fail with the way to their paper', async () => {
    await dataset.fill('sieve-own-check [aria-label="At least"]', '70');
    await dataset.press('Add the check', 'sieve-published-checks');
    await dataset.until('the second', async () => (await kept()).length === 2);
    await dataset.press('Close this message');
    expect(await dataset.refresh()).toMatch(/published/);
    await dataset.until('how both stand', async () => (await kept()).join('|') === '“Quay” and “Code” together are unique in each report. holds in 3 reports|A report has at least 70 rows. fails in 1 report');
    expect(await dataset.texts('sieve-published-checks article li')).toEqual(['week-23.pdf: 64 rows']);
  });

  it('hold a report back where they are to, and are among what needs the analyst', async () => {
    await dataset.pick('sieve-published-checks article:nth-of-type(2) sieve-pick', 'hold the report back');
    await dataset.press('Close this message');
    await dataset.refresh();
    await dataset.until('the ruler', async () => (await dataset.texts('.needs-link')).includes('What needs you'));
    await browser.driver.get(`${address}/needs`);
    await dataset.until('the check', async () => /week-23\.pdf: expected what is checked: A report has at least 70 rows, got 64 rows\..* the report is held back; rows of its last good version stay$/.test((await dataset.texts('sieve-needs-page li.p-listbox-option'))[0] ?? ''));
    await dataset.press('To the check and the cells that fail it', 'sieve-needs-page');
    await dataset.until('the checks', async () => (await kept()).length === 2);
    await (await dataset.find('button[aria-label="No longer check: A report has at least 70 rows"]')).click();
    await dataset.until('one check', async () => (await kept()).length === 1);
  });
});
