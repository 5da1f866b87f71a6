import { readdir, readFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { evidenceIn } from '../core/evidence/evidence';
import { verified } from '../server/commands/verify';
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
let folder: string;

beforeAll(async () => {
  // In week 29 the paper itself is wrong: a subtotal does not add up.
  folder = await someReports(['week-28.pdf', 'week-29.pdf']);
  server = await serving(dirname(folder));
  browser = await openBrowser(server);
  const made = await asOwner(server)('/api/pipelines', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ document: JSON.parse(await readFile(demoPipeline, 'utf8')), folder }),
  });
  const { id } = (await made.json()) as PipelineFull;
  await browser.driver.get(`${server.url}pipelines/${id}/dataset`);
  dataset = new Dataset(browser.driver);
});
afterAll(async () => {
  await browser?.close();
  await server?.stop();
});

describe('printed totals beside the dataset', () => {
  it('are told at the end of a refresh, and the one that is off stands first', async () => {
    expect(await dataset.refresh()).toMatch(/published.* printed totals tie out, 1 is off\./);
    await dataset.until('the problem', async () =>
      /column “Value”: expected 217409\.42, as printed for “Total Tern Point”, got 217369\.42 from its 16 rows/.test(
        (await dataset.problems()).join(' '),
      ),
    );
    await dataset.press('1 total off', 'sieve-dataset-page');
    await dataset.until('the totals', async () =>
      /^Total Tern Point · Value off by 40\.00 week-29\.pdf, page 2 217,409\.42/.test(
        (await dataset.texts('sieve-published-totals li'))[0] ?? '',
      ),
    );
    await expect.poll(async () => (await dataset.texts('sieve-published-totals li'))[1]).toMatch(/ties out/);
    expect(await violations(browser.driver)).toEqual([]);
  });

  it('lead by keyboard to the rows that one covers, and to the paper', async () => {
    const list = await dataset.find('sieve-published-totals ul[role="listbox"]');
    await browser.driver.executeScript('arguments[0].focus()', list);
    await list.sendKeys(Key.HOME, Key.ENTER);
    await dataset.until('its rows', async () => (await dataset.texts('sieve-published-totals .rows li')).length === 16);
    await expect
      .poll(async () => (await dataset.texts('sieve-published-totals dd')).slice(0, 2))
      .toEqual(['217,409.42', '217,369.42']);
    await dataset.until(
      'the total and its rows on paper',
      async () =>
        (await dataset.all('sieve-published-totals .frame.word')).length === 1 &&
        (await dataset.all('sieve-published-totals .frame.band')).length > 1,
    );
    expect(await violations(browser.driver)).toEqual([]);
  });

  it('give an evidence slip, with the print as a picture, that holds against the files', async () => {
    const downloads = await temporaryFolder();
    await browser.tell('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: downloads });
    await dataset.press('Evidence slip', 'sieve-published-totals');
    await dataset.until('the file', async () => (await readdir(downloads)).some((name) => name.endsWith('.html')));
    await expect.poll(() => readdir(downloads)).toEqual(['Evidence Total Tern Point Value.html']);
    const html = await readFile(join(downloads, 'Evidence Total Tern Point Value.html'), 'utf8');
    expect(html).toMatch(/<img alt="Page 2 as printed" src="data:image\/png;base64,[A-Za-z0-9+/]{2000}/);
    const evidence = evidenceIn(html);
    expect(evidence.figure).toMatchObject({
      kind: 'total',
      tie: { printed: 217409.42, computed: 217369.42 },
      covers: expect.objectContaining({ length: 16 }),
    });
    expect((await verified(evidence, folder)).filter(({ wrong }) => wrong)).toEqual([]);
  });

  it('are accepted with a reason when the paper is wrong, and stay visible', async () => {
    await dataset.fill('#why', 'the fish office has confirmed the rows');
    await dataset.press('It is misprinted', 'sieve-published-totals');
    // It counts at once.
    await dataset.untilText('.ended', /printed totals tie out, 1 is accepted as misprinted\./);
    await dataset.untilText(
      'sieve-published-totals .answer',
      /^Misprinted on paper: the fish office has confirmed the rows Not accepted any more/,
    );
    await dataset.until('no total off', async () =>
      (await dataset.texts('sieve-dataset-page p-selectbutton')).join().includes('Totals'),
    );
    await dataset.press('All totals', 'sieve-published-totals');
    await dataset.until('it to be first still', async () =>
      /^Total Tern Point · Value off by 40\.00, accepted/.test(
        (await dataset.texts('sieve-published-totals li'))[0] ?? '',
      ),
    );
    // Before, it was one of the problems.
    await expect
      .poll(() => dataset.texts('sieve-dataset-page p-selectbutton'))
      .toEqual(['No problems Totals Checks Held Paper']);
  });
});
