import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { northOffice } from '../demo/layout';
import { pdfkitPen } from '../demo/pdfkit-pen';
import type { PipelineFull, PipelineSummary } from '../server/contract/contract';
import type { Serving } from '../server/house/serve';
import { asOwner } from '../server/testing/owner';
import { temporaryFolder } from '../server/testing/folders';
import type { TypeRule } from '../core/steps/set-types';
import { openBrowser, type Browser } from './browser';
import { Bench, Dataset, Intake } from './pages/pipeline';
import { PipelinesScreen } from './pages/pipelines';
import { serving } from './serving';

let server: Serving;
let browser: Browser;

/** Dues of a month: codes with zeros, days that do not tell the order, amounts, and one value that is none. */
async function dues(file: string, odd: string) {
  const { pen, end } = pdfkitPen(northOffice, 'Dues', new Date('2025-01-06T09:00:00Z'));
  pen.newPage();
  const rows = [
    ['Reg. no.', 'Paid on', 'Dues'],
    ...Array.from({ length: 14 }, (_, n) => [
      `00${412 + n}`,
      `0${1 + (n % 9)}/0${1 + (n % 8)}/2025`,
      n === 5 ? odd : `1,2${10 + n}.50`,
    ]),
  ];
  rows.forEach((row, i) =>
    row.forEach((text, column) => pen.text(text, 60 + column * 110, 120 + i * 16, 9, i === 0 ? 'bold' : undefined)),
  );
  await writeFile(file, await end());
}

beforeAll(async () => {
  const root = await temporaryFolder();
  await mkdir(join(root, 'dues'));
  await dues(join(root, 'dues', 'dues-1.pdf'), 'n/k');
  await dues(join(root, 'dues', 'dues-2.pdf'), '1,999.00');
  server = await serving(root);
  browser = await openBrowser(server);
  const home = new PipelinesScreen(browser.driver);
  await home.open(server.url);
  await home.make('Dues', 'dues', '', '');
  const intake = new Intake(browser.driver);
  // The first report that is read becomes the guide: it is to be the one with the odd value.
  await intake.reportIs(/^dues-1\.pdf .*1 table found/);
  await intake.reportIs(/^dues-2\.pdf .*1 table found/);
  await intake.press(/^take: /, 'sieve-paper');
  await intake.card('Reg. no., Paid on, Dues');
  await intake.goTo('Bench');
  const bench = new Bench(browser.driver);
  await bench.add('each table', 'promote header');
  await bench.until('the heading', async () => (await bench.columns()).some((text) => text.startsWith('Dues')));
  await bench.add('all reports', 'set types');
  await bench.until(
    'a line per column',
    async () => (await bench.texts('sieve-types-form .name')).join() === 'Reg. no.,Paid on,Dues',
  );
});
afterAll(async () => {
  await browser?.close();
  await server?.stop();
});

async function typesSaved(bench: Bench, holds: (types: TypeRule[]) => boolean): Promise<TypeRule[]> {
  const [{ id }] = (await (await asOwner(server)('/api/pipelines')).json()) as PipelineSummary[];
  const types = async () =>
    (
      ((await (await asOwner(server)(`/api/pipelines/${id}`)).json()) as PipelineFull).document as {
        allReports: { settings: { types: TypeRule[] } }[];
      }
    ).allReports[0].settings.types;
  await bench.until('the types to be saved', async () => holds(await types()));
  return types();
}

describe('set types in the browser', () => {
  it('works every column out over all reports, with reason, doubt and misfits', async () => {
    const bench = new Bench(browser.driver);
    await bench.press('over all', 'sieve-types-form');
    await bench.untilText(
      'sieve-types-form [role=status]',
      /^Looked at 28 rows of 2 reports\. 1 column could mean something else\.$/,
    );
    const types = await typesSaved(bench, (all) => all.length === 3);
    expect(types.map(({ type }) => type)).toEqual(['text', 'date', 'decimal']);
    expect(types[0].reason).toContain('begins with a zero that a number would lose');
    const lines = await bench.texts('sieve-types-form li');
    expect(lines[1]).toMatch(/could have the day or the month first throughout/);
    expect(lines[2]).toMatch(/1 misfit: “n\/k”/);
    await bench.headingIs(/1 error/);
  });

  it('walks the errors one by one, each with its step and its place on paper', async () => {
    const bench = new Bench(browser.driver);
    await bench.press('Next error', '[aria-label="Sheet"]');
    await bench.untilText(
      '[aria-label="Sheet"] .told',
      /“n\/k”: expected a number like 1,234\.5\. It starts at “Set types”\./,
    );
    await bench.readPaper();
    await bench.until('the word framed on the paper', async () => (await bench.all('sieve-paper .word')).length === 1);
  });

  it('names the step of an error from a later layer, with the way there', async () => {
    const bench = new Bench(browser.driver);
    await bench.add('all reports', 'trim rows');
    await bench.headingIs(/^After “Trim rows”.*1 error/);
    await bench.press('Next error', '[aria-label="Sheet"]');
    await bench.press('Show that step', '[aria-label="Sheet"]');
    await bench.headingIs(/^After “Set types”/);
  });

  it('changes order and type by keyboard', async () => {
    const bench = new Bench(browser.driver);
    await bench.press('Paid on', 'sieve-types-form');
    await bench.pickByKeys('#order-1', Key.ARROW_DOWN, Key.ARROW_DOWN);
    await typesSaved(bench, (types) => types[1].order === 'month day year');
    await bench.until('the dates to follow', async () =>
      (await bench.texts('[aria-label="Sheet"] > sieve-grid tbody tr')).some((row) => row.includes('2025-09-01')),
    );
    await bench.pickByKeys('#type-2', Key.HOME);
    await typesSaved(bench, (types) => types[2].type === 'text');
    await bench.until('no error to be left', async () => !/error/.test(await bench.heading()));
    await bench.press('Undo', 'sieve-top-bar');
    await typesSaved(bench, (types) => types[2].type === 'decimal');
  });

  it('names the step of an error in the dataset, with the way there', async () => {
    const bench = new Bench(browser.driver);
    await bench.refresh();
    await bench.goTo('Dataset');
    const dataset = new Dataset(browser.driver);
    await dataset.until('the published rows', async () => (await dataset.all('sieve-grid td.misfit')).length === 1);
    // The rows are fetched anew when the run has ended.
    await dataset.clickOn('sieve-grid td.misfit');
    await dataset.untilText('sieve-dataset-page .said', /It starts at “Set types”/);
    await dataset.press('to that step', 'sieve-dataset-page .said');
    await bench.headingIs(/^After “Set types”/);
  });

  it('corrects a cell by hand, and lists it old and new', async () => {
    const bench = new Bench(browser.driver);
    await bench.press('Next error', '[aria-label="Sheet"]');
    await bench.fill('#correct-to', '1,215.50');
    await bench.fill('#correct-why', 'asked the office');
    await bench.press('Correct', '[aria-label="Sheet"]');
    await bench.until('no error to be left', async () => !/error/.test(await bench.heading()));
    await bench.choose('Correct cells');
    await bench.press('Show them, old and new', '[aria-label="Sheet"]');
    await bench.until('the cell, old and new', async () =>
      (await bench.texts('.held tbody tr')).some((row) =>
        /Dues n\/k 1,215\.50 corrected by hand; asked the office/.test(row),
      ),
    );
    await bench.fill('sieve-stack .own .p-inputtext', 'By the office');
    await (await bench.find('sieve-stack .own .p-inputtext')).sendKeys(Key.TAB);
    await bench.headingIs(/^After “By the office”/);
  });
});
