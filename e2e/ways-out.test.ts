// The dataset is looked through, and taken to where it is used.
import Xlsx from 'exceljs';
import { copyFile, readdir, readFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { strFromU8, unzipSync } from 'fflate';
import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { evidenceIn } from '../core/evidence/evidence';
import { verified } from '../server/commands/verify';
import type { PipelineFull } from '../server/contract/contract';
import type { Serving } from '../server/house/serve';
import { demoFolder, demoPipeline, someReports, temporaryFolder } from '../server/testing/folders';
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
  folder = await someReports(['week-22.pdf', 'week-23.pdf', 'week-24.pdf']);
  server = await serving(dirname(folder));
  browser = await openBrowser(server);
  const made = await asOwner(server)('/api/pipelines', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ document: JSON.parse(await readFile(demoPipeline, 'utf8')), folder }),
  });
  await browser.driver.get(`${server.url}pipelines/${((await made.json()) as PipelineFull).id}/dataset`);
  dataset = new Dataset(browser.driver);
  await dataset.refresh();
});
afterAll(async () => {
  await browser?.close();
  await server?.stop();
});

const shown = () => dataset.texts('sieve-selection-bar .small');
const columnMenu = async (heading: string, item: string) => {
  await dataset.until(`“${item}” of ${heading}`, async () => {
    await browser.driver.executeScript(
      "[...document.querySelectorAll('sieve-grid button.menu')].find((each) => each.getAttribute('aria-label') === arguments[0])?.click()",
      `What to do with ${heading}`,
    );
    return (await dataset.texts('.p-menu-item-link')).includes(item);
  });
  await dataset.press(item, '.p-menu');
};

describe('a summary of the dataset', () => {
  it('is chosen, drawn and kept under an address; a figure opens its rows, and from there the paper', async () => {
    await dataset.press('Summary', '.pane-head');
    await dataset.until('figures', async () => (await dataset.all('sieve-summary-page tbody td')).length > 3);
    await dataset.pick('sieve-summary-page label:nth-of-type(3) p-select', 'Value');
    await dataset.tickList('Columns that stand across', ['Week'], 'sieve-summary-page h2');
    await dataset.until(
      'weeks across',
      async () => (await dataset.texts('sieve-summary-page thead th')).join() === 'Quay,22,23,24,all',
    );
    await dataset.until(
      'the chart',
      async () => (await dataset.all('sieve-summary-page sieve-chart svg path')).length > 8,
    );
    expect(await violations(browser.driver)).toEqual([]);
    // By levels: quays with their species, folded to the quays, one of them unfolded.
    await dataset.tickList('Columns that stand down', ['Code'], 'sieve-summary-page h2');
    await dataset.until('levels', async () => (await dataset.all('sieve-summary-page tr.part')).length > 2);
    const parts = (await dataset.all('sieve-summary-page tr.part')).length;
    const lines = async () => (await dataset.all('sieve-summary-page tbody tr')).length;
    expect(await lines()).toBeGreaterThan(3 * parts);
    await dataset.pick(
      'sieve-summary-page [aria-label="What is summed up"] label:nth-of-type(6) p-select',
      'down to Quay',
    );
    await dataset.until('only the quays', async () => (await lines()) === parts);
    await dataset.clickOn('sieve-summary-page .turn');
    await dataset.until('the species of one', async () => (await lines()) > parts);
    expect(await violations(browser.driver)).toEqual([]);
    await dataset.tickList('Columns that stand down', ['Code'], 'sieve-summary-page h2');
    await dataset.until('quays alone', async () => (await dataset.all('sieve-summary-page tr.part')).length === 0);
    await dataset.fill('sieve-summary-page input[aria-label="Name of the summary"]', 'Value by week');
    await dataset.press('Keep it', 'sieve-summary-page');
    await dataset.until('its address', async () =>
      (await browser.driver.getCurrentUrl()).endsWith('view=Value%20by%20week'),
    );
    const figures = () => dataset.texts('sieve-summary-page tbody td');
    const kept = await figures();
    await dataset.until('it to be saved', async () => (await dataset.texts('sieve-top-bar')).join().includes('Saved'));
    await browser.driver.navigate().refresh();
    await dataset.until('the same figures', async () => JSON.stringify(await figures()) === JSON.stringify(kept));
    const [figure] = kept;
    await dataset.clickOn('sieve-summary-page tbody td button');
    await dataset.until('its rows', async () => /^\d+ rows? of 228$/.test((await shown()).join()));
    const value = (await dataset.texts('sieve-grid thead .name')).indexOf('Value');
    // The sum of the column is the figure.
    await dataset.clickOn(async () => (await dataset.all('sieve-grid thead th'))[value + 1]);
    await dataset.until('the sum', async () => (await dataset.texts('sieve-grid-foot')).join().includes(figure));
    await dataset.clickCell(0, value);
    await dataset.untilText('.said', /^week-22\.pdf, page \d+: “/);
    await dataset.press('Show all', 'sieve-selection-bar');
    await dataset.until('all rows', async () => (await dataset.all('sieve-selection-bar .bar')).length === 0);
  });
});

describe('the dataset', () => {
  it('is put in an order and cut down to some rows by the menu of a heading; a cell of it still leads to the paper', async () => {
    await columnMenu('Value', 'Most first');
    await dataset.until('all rows in order', async () => /of 228$|of \d+$/.test((await shown()).join()));
    await columnMenu('Quay', 'Only some rows ...');
    await dataset.until(
      'its values',
      async () => (await dataset.all('sieve-condition-form p-multiselect')).length === 1,
    );
    await dataset.tickList('Values', ['Saltby', 'Tern Point'], 'sieve-condition-form b');
    await dataset.press('Show these', 'sieve-selection-bar');
    await dataset.until(
      'the chips',
      async () =>
        (await dataset.texts('sieve-selection-bar button')).slice(0, 2).join(' / ') ===
        'Quay is Saltby or Tern Point / Value',
    );
    await dataset.until('fewer rows', async () => /^\d+ rows of \d+$/.test((await shown()).join()));
    const csv = (await (
      await asOwner(server)(
        '/datasets/landings_by_species.json?where=Quay%20%3D%20Saltby%7CTern%20Point&order=Value%20desc',
      )
    ).json()) as { Species: string; Value: number }[];
    await expect.poll(async () => (await shown()).join()).toMatch(new RegExp(`^${csv.length} rows of`));
    await dataset.until('the largest first', async () => ((await dataset.rows())[0] ?? '').includes(csv[0].Species));
    await dataset.clickCell(0, 4);
    await dataset.untilText('.said', new RegExp(`^week-2\\d\\.pdf, page \\d+: “${csv[0].Species}”`));
    expect(await violations(browser.driver)).toEqual([]);
  });

  it('goes on showing these rows when another report has come', async () => {
    await copyFile(join(demoFolder, 'week-25.pdf'), join(folder, 'week-25.pdf'));
    const before = (await shown()).join();
    expect(await dataset.refresh()).toMatch(/^Refresh: published\./);
    await dataset.press('Close this message');
    await dataset.until(
      'more rows of more',
      async () => /^\d+ rows of 283$/.test((await shown()).join()) && (await shown()).join() !== before,
    );
    await expect
      .poll(async () => (await dataset.texts('sieve-selection-bar button')).slice(0, 2))
      .toEqual(['Quay is Saltby or Tern Point', 'Value']);
  });

  it('says what a column holds, and shows the rows of a value by a press', async () => {
    await columnMenu('Code', 'What it holds');
    await dataset.until('the card', async () => (await dataset.texts('sieve-column-card dt')).includes('different'));
    const [value] = await dataset.texts('sieve-column-card td button');
    await dataset.press(value, 'sieve-column-card');
    await dataset.until('the condition', async () =>
      (await dataset.texts('sieve-selection-bar button')).includes(`Code is ${value}`),
    );
    await columnMenu('Boxes', 'What it holds');
    await dataset.until('how the numbers spread', async () => (await dataset.all('sieve-chart svg path')).length > 5);
    expect(await violations(browser.driver)).toEqual([]);
    await dataset.press(`Code is ${value}`, 'sieve-selection-bar');
  });

  it('is cut down to a stretch of days, written or picked from a calendar', async () => {
    const heading = 'Week ending';
    await columnMenu(heading, 'Only some rows ...');
    await dataset.pick('sieve-condition-form p-select', 'from ... to');
    await dataset.fill('sieve-condition-form p-datepicker input[aria-label="From"]', '2025-06-09');
    await dataset.clickOn('sieve-condition-form p-datepicker input[aria-label="To"]');
    await dataset.until('the calendar', async () => (await dataset.all('.p-datepicker-panel')).length === 1);
    await dataset.until('it to stand still', async () =>
      browser.driver.executeScript<boolean>('return document.getAnimations().length === 0'),
    );
    expect(await violations(browser.driver)).toEqual([]);
    await browser.driver.actions().sendKeys(Key.ESCAPE).perform();
    await dataset.fill('sieve-condition-form p-datepicker input[aria-label="To"]', '2025-06-15');
    await dataset.press('Show these', 'sieve-selection-bar');
    await dataset.until('both ends', async () =>
      (await dataset.texts('sieve-selection-bar button')).includes(`${heading} at most 2025-06-15`),
    );
    await dataset.until('fewer rows', async () => Number.parseInt((await shown()).join(), 10) < 283);
    await dataset.press(`${heading} at least 2025-06-09`, 'sieve-selection-bar');
    await dataset.press(`${heading} at most 2025-06-15`, 'sieve-selection-bar');
  });

  it('keeps a column in sight while others are scrolled, and the width that it was dragged to, when it is opened anew', async () => {
    await columnMenu('Code', 'Keep in sight up to here');
    const edge = await dataset.find('sieve-grid thead th:nth-of-type(6) sieve-column-edge');
    const width = () =>
      browser.driver.executeScript<number>(
        "return Math.round(document.querySelector('sieve-grid thead th:nth-of-type(6)').getBoundingClientRect().width)",
      );
    const before = await width();
    await browser.driver
      .actions()
      .move({ origin: edge })
      .press()
      .move({ origin: edge, x: 420, y: 0 })
      .release()
      .perform();
    await dataset.until('it to be wider', async () => Math.abs((await width()) - before - 420) <= 1);
    const dragged = await width();
    await browser.driver.navigate().refresh();
    await dataset.until(
      'the same width',
      async () => (await dataset.all('sieve-grid thead th')).length > 3 && (await width()) === dragged,
    );
    const left = () =>
      browser.driver.executeScript<number>(
        "const at = [...document.querySelectorAll('sieve-grid thead th')].find((th) => th.title === 'Code'); return Math.round(at.getBoundingClientRect().left)",
      );
    const stays = await left();
    await browser.driver.executeScript("document.querySelector('sieve-grid .frame').scrollLeft = 60");
    expect(await browser.driver.executeScript("return document.querySelector('sieve-grid .frame').scrollLeft")).toBe(
      60,
    );
    expect(await left()).toBe(stays);
    await columnMenu('Code', 'Scroll all columns');
    await dataset.until('it to be scrolled', async () => (await left()) < stays);
    await columnMenu('Species', 'Fit');
    await dataset.until('its first width', async () => Math.abs((await width()) - before) <= 1);
  });

  it('gives the evidence of all cells selected as one bundle that holds against the files', async () => {
    const downloads = await temporaryFolder();
    await browser.tell('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: downloads });
    await dataset.clickCell(0, 5);
    await dataset.until('its trace', async () => /^week-2/.test((await dataset.texts('.said')).join()));
    await browser.driver
      .actions()
      .keyDown(Key.SHIFT)
      .click(await dataset.cell(1, 6))
      .keyUp(Key.SHIFT)
      .perform();
    await dataset.press('Evidence slips of 4 cells', '.said');
    await dataset.until('the bundle', async () => (await readdir(downloads)).some((name) => name.endsWith('.zip')));
    const [name] = await readdir(downloads);
    const files = unzipSync(await readFile(join(downloads, name)));
    expect(Object.keys(files)).toHaveLength(5);
    for (const [file, bytes] of Object.entries(files))
      if (file !== 'index.html')
        expect([file, (await verified(evidenceIn(strFromU8(bytes)), folder)).filter(({ wrong }) => wrong)]).toEqual([
          file,
          [],
        ]);
  });

  it('is copied whole, as it is shown, with its headings', async () => {
    await dataset.until('how many rows', async () => /^\d+ rows of \d+$/.test((await shown()).join()));
    const rows = Number.parseInt((await shown()).join(), 10);
    // What is put on the clipboard is kept here instead.
    await browser.driver.executeScript(
      'navigator.clipboard.writeText = (text) => ((window.copied = text), Promise.resolve())',
    );
    await dataset.press('Copy as text');
    await dataset.until('the copy', async () =>
      browser.driver.executeScript<boolean>('return window.copied !== undefined'),
    );
    const lines = (await browser.driver.executeScript<string>('return window.copied')).trimEnd().split(/\r?\n/);
    expect(lines).toHaveLength(rows + 1);
    const at = lines[0].split('\t').indexOf('Value');
    const values = lines.slice(1).map((line) => Number(line.split('\t')[at]));
    expect(values).toEqual([...values].sort((a, b) => b - a));
  });

  it('is had as a workbook of the rows shown, typed and in their order', async () => {
    const downloads = await temporaryFolder();
    await browser.tell('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: downloads });
    await dataset.until('how many rows', async () => /^\d+ rows of \d+$/.test((await shown()).join()));
    const rows = Number.parseInt((await shown()).join(), 10);
    await dataset.press('Ways out');
    await dataset.until('the dialog', async () => (await dataset.texts('.p-dialog-title')).includes('Ways out'));
    expect(await violations(browser.driver)).toEqual([]);
    await dataset.press('Download', '.p-dialog');
    await dataset.until('the file', async () => (await readdir(downloads)).some((name) => name.endsWith('.xlsx')));
    const book = new Xlsx.Workbook();
    await book.xlsx.readFile(join(downloads, 'landings_by_species.xlsx'));
    const [sheet] = book.worksheets;
    const heading = (sheet.getRow(1).values as string[]).indexOf('Value');
    const values = Array.from({ length: sheet.rowCount - 1 }, (_, row) =>
      Number(sheet.getCell(row + 2, heading).value),
    );
    await dataset.untilText(
      'sieve-download-line [role=status]',
      new RegExp(`^${rows} rows: the whole file has been sent`),
    );
    expect([values.length, values]).toEqual([rows, [...values].sort((a, b) => b - a)]);
  });

  it('is kept as a file that is written at once, and again with every publication', async () => {
    const path = join(await temporaryFolder(), 'kept.jsonl');
    await dataset.fill('#kept', 'kept.doc');
    await dataset.untilText('sieve-kept-files [role="alert"]', /^Write the full path/);
    await dataset.fill('#kept', path);
    await dataset.press('Keep this file', '.p-dialog');
    await dataset.untilText('.ended', new RegExp(`kept\\.jsonl was written\\.`));
    expect((await readFile(path, 'utf8')).trimEnd().split('\n')).toHaveLength(283);
    await expect.poll(() => dataset.texts('sieve-kept-files li > span')).toEqual([`${path} all rows`]);
  });

  it('has an address that opens with the token of a reader, until that is taken back', async () => {
    await dataset.fill('#reader', 'Fish office');
    await dataset.press('Give a token', '.p-dialog');
    await dataset.until('the token', async () => (await dataset.texts('.p-dialog .address code')).length === 2);
    const [address, token] = await dataset.texts('.p-dialog .address code');
    const open = () => fetch(address, { headers: { Authorization: `Bearer ${token}` } });
    expect([(await fetch(address)).status, (await open()).status]).toEqual([401, 200]);
    await dataset.press('Take the token back', '.p-dialog');
    await dataset.until('nobody to have one', async () => (await dataset.all('.p-dialog .readers li')).length === 0);
    expect((await open()).status).toBe(401);
  });
});
