import { copyFile, cp, mkdir, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PageAnswer, PipelineSummary, StoredReport } from '../server/contract/contract';
import type { Serving } from '../server/house/serve';
import { asOwner } from '../server/testing/owner';
import { demoFolder, temporaryFolder } from '../server/testing/folders';
import { violations } from './accessible';
import { openBrowser, type Browser } from './browser';
import { Bench, Dataset, Intake, Runs } from './pages/pipeline';
import { PipelinesScreen } from './pages/pipelines';
import { serving } from './serving';

let server: Serving;
let browser: Browser;
let folder: string;
const weeks = [
  'week-22.pdf',
  'week-24.pdf',
  'week-26.pdf',
  'week-30.pdf',
  'week-32.pdf',
  'week-33.pdf',
  'week-34.pdf',
  'week-34-r2.pdf',
  'notes.txt',
];

beforeAll(async () => {
  const root = await temporaryFolder();
  folder = join(root, 'sheets');
  await mkdir(folder);
  for (const name of weeks) await cp(join(demoFolder, name), join(folder, name));
  server = await serving(root);
  browser = await openBrowser(server);
});
afterAll(async () => {
  await browser?.close();
  await server?.stop();
});

const get = async <T>(path: string) => (await (await asOwner(server)(path)).json()) as T;
const pipelineId = async () =>
  (await get<PipelineSummary[]>('/api/pipelines')).find((each) => each.name.startsWith('Landings'))!.id;
const reportId = async (name: string) =>
  (await get<readonly StoredReport[]>(`/api/pipelines/${await pipelineId()}/reports`)).find(
    (report) => report.path === name,
  )!.id;

describe('the whole way in the browser', () => {
  it('makes a pipeline from a folder', async () => {
    const home = new PipelinesScreen(browser.driver);
    await home.open(server.url);
    await home.untilText('sieve-notice', /^No pipeline yet/);
    await home.press('New pipeline');
    await home.find('sieve-new-pipeline #name');
    expect(await violations(browser.driver)).toEqual([]);
    await browser.driver.navigate().refresh();
    await home.make('Landings', 'sheets', 'week-{week}[-r{revision}].pdf', '2025');
    await home.find('sieve-intake-page');
  });

  it('shows every report with its state, the pages, and takes a found table in all of them', async () => {
    const intake = new Intake(browser.driver);
    await intake.reportIs(/^week-24\.pdf .*4 pages, 2 tables found/);
    await intake.reportIs(/^week-32\.pdf scanned/);
    await intake.reportIs(/^week-33\.pdf damaged/);
    await intake.reportIs(/^week-34\.pdf replaced/);
    await intake.reportIs(/^notes\.txt not a PDF/);
    const slots = await intake.slots();
    expect(slots.find((slot) => slot.startsWith('wk 23'))).toBe('wk 23 missing');
    expect(slots.find((slot) => slot.startsWith('wk 34'))).toMatch(/· r2$/);

    await intake.chooseSlot('wk 24');
    await intake.untilText('sieve-paper .take', /^take: Landings by species$/);
    await expect.poll(() => intake.pages()).toHaveLength(4);
    await intake.take('Landings by species');
    await intake.untilText('sieve-paper .take', /^taken: Landings by species$/);
    await intake.until(
      'the match strip to be full',
      async () => (await intake.strip()).filter((cell) => /^p\. /.test(cell)).length === 5,
    );
    await expect
      .poll(() => intake.strip())
      .toEqual([
        'Landings by species',
        'p. 2–4 sure 1',
        'p. 2–4 sure 1',
        'p. 2–3 sure 1',
        expect.stringMatching(/^p\. 2–3 sure 0\.8/),
        'scanned',
        'damaged',
        expect.stringMatching(/^p\. 2–3 sure 0\.9/),
      ]);
    expect(await violations(browser.driver)).toEqual([]);

    // What the rule looks for can be written anew.
    const pages = '[id="pages-Landings by species"]';
    await (await intake.find(pages)).sendKeys('3', Key.TAB);
    await intake.until(
      'page 3 alone',
      async () => (await intake.strip()).filter((cell) => /^p\. 3 /.test(cell)).length > 2,
    );
    await (await intake.find(pages)).sendKeys(Key.chord(Key.CONTROL, 'a'), Key.BACK_SPACE, Key.TAB);
    await intake.until(
      'all pages again',
      async () => (await intake.strip()).filter((cell) => /^p\. 2–/.test(cell)).length === 5,
    );
  });

  it('builds the clean-up step by step, the sheet following at once', async () => {
    const bench = new Bench(browser.driver);
    await bench.goTo('Bench');
    await bench.headingIs(/^After “Taken” 96 rows, 7 columns/);
    await bench.add('each table', 'headings printed again');
    await bench.headingIs(/^After “Drop noise” 96 rows/);
    await bench.clickOn(() => bench.field('Headings again'));
    await bench.headingIs(/^After “Drop noise” 92 rows/);
    await bench.until('the held rows', async () => (await bench.held()).length === 4);
    await expect.poll(async () => (await bench.held())[0]).toMatch(/^3·\d+ Code Species Boxes Weight \(kg\)/);

    await bench.add('each table', 'promote header');
    await bench.headingIs(/^After “Promote header rows” 90 rows, 7 columns/);
    await expect
      .poll(() => bench.columns())
      .toEqual(expect.arrayContaining(['Weight (kg) Gutted text', 'Weight (kg) Whole text', 'Price per kg text']));
    await bench.set('Rows', '1');
    await bench.headingIs(/ 91 rows, 7 columns/);
    await bench.set('Rows', '2');
    await bench.headingIs(/ 90 rows, 7 columns/);

    await bench.add('each report', 'section');
    await bench.set('Into column', 'Quay');
    await bench.headingIs(/^After “Lift sections” 86 rows, 8 columns/);
    await bench.until('the new column', async () => (await bench.columns()).includes('Quay text'));
    await bench.add('each report', 'hold totals');
    await bench.headingIs(/^After “Hold totals” 81 rows/);
    expect(await violations(browser.driver)).toEqual([]);
  });

  it('says when a setting does not do, and keeps what was there', async () => {
    const bench = new Bench(browser.driver);
    await bench.choose('Lift sections');
    await bench.set('Into column', Key.BACK_SPACE);
    await bench.untilText('sieve-layer-settings .error', /^levels\.0\.into: Name the column/);
    expect(await violations(browser.driver)).toEqual([]);
    await bench.set('Into column', 'Quay');
    await bench.until('the fault to go', async () => (await bench.all('sieve-layer-settings .error')).length === 0);
  });

  it('switches off, moves, undoes and redoes', async () => {
    const bench = new Bench(browser.driver);
    await bench.choose('Hold totals');
    await bench.press('Switch off', 'sieve-layer-settings');
    await bench.headingIs(/86 rows/);
    await bench.press('Undo', 'sieve-top-bar');
    await bench.headingIs(/81 rows/);
    await bench.press('Redo', 'sieve-top-bar');
    await bench.headingIs(/86 rows/);
    await bench.press('Undo', 'sieve-top-bar');
    await bench.headingIs(/81 rows/);
    // The counts of the layers come a moment after the sheet.
    await bench.layerIs(/^Hold totals\b.*\b81\b/);
    const before = await bench.layers();
    await bench.press('Move Hold totals up', 'sieve-layer-settings');
    await bench.until(
      'the layers to change places',
      async () =>
        (await bench.layers()).findIndex((l) => l.startsWith('Hold totals')) <
        (await bench.layers()).findIndex((l) => l.startsWith('Lift sections')),
    );
    await bench.press('Undo', 'sieve-top-bar');
    await bench.until(
      'the layers to be as before',
      async () => JSON.stringify(await bench.layers()) === JSON.stringify(before),
    );
  });

  it('frames the words of a cell on the paper, within two pixels', async () => {
    const bench = new Bench(browser.driver);
    await bench.choose('Hold totals');
    const cell = await bench.cell(1, 2);
    expect(await cell.getText()).toBe('Fell cod, medium');
    await bench.clickCell(1, 2);
    await bench.readPaper();
    await bench.until('three words framed', async () => (await bench.frames()).length === 3);
    const { page } = await get<PageAnswer>(
      `/api/pipelines/${await pipelineId()}/reports/${await reportId('week-24.pdf')}/pages/2`,
    );
    const first = page!.words.findIndex((word) => word.text === 'Fell');
    const wanted = page!.words.slice(first, first + 3);
    expect(wanted.map((word) => word.text)).toEqual(['Fell', 'cod,', 'medium']);
    const scale = await bench.scale();
    for (const [i, frame] of (await bench.frames()).entries()) {
      const [left, top, right, bottom] = wanted[i].box.map((points) => points * scale);
      for (const [is, should] of [
        [frame.left, left],
        [frame.top, top],
        [frame.right, right],
        [frame.bottom, bottom],
      ])
        expect(Math.abs(is - should)).toBeLessThanOrEqual(2);
    }
  });

  it('tells of a word on the paper its cell, the step that held it, or that it is in no taken table', async () => {
    const bench = new Bench(browser.driver);
    const { page } = await get<PageAnswer>(
      `/api/pipelines/${await pipelineId()}/reports/${await reportId('week-24.pdf')}/pages/2`,
    );
    const boxOf = (text: string) => page!.words.find((word) => word.text === text)!.box;
    await bench.clickPaper(boxOf('Tide'));
    await bench.untilText('.fate', /^“Tide”: row 4, Species/);
    await expect.poll(() => bench.chosenCell()).toBe('Tide crab');
    await bench.clickPaper(boxOf('Total'));
    await bench.untilText(
      '.fate',
      /^“Total”: held by “Hold totals”: total by wording|^“Total”: held by “Hold totals”: marked as subtotal/,
    );
    await bench.clickPaper(boxOf('Northreach'));
    await bench.untilText('.fate', /^“Northreach”: in no taken table/);
    await bench.press('Find it in all reports', '.fate');
    const intake = new Intake(browser.driver);
    await intake.untilText('sieve-find-box [role="status"]', /^\d+ places in \d+ reports/);
    expect(await (await intake.find('#find-text')).getAttribute('value')).toBe('Northreach');
    await browser.driver.navigate().back();
    await bench.find('sieve-paper .desk');
    await expect
      .poll(async () => {
        await bench.clickPaper(boxOf('Northreach'));
        return bench.texts('.fate');
      })
      .toEqual([expect.stringMatching(/^“Northreach”: in no taken table/)]);
  });

  it('goes from word to word on the paper by keyboard, and finds a kind of step by words', async () => {
    const bench = new Bench(browser.driver);
    const desk = await bench.find('sieve-paper .desk');
    await browser.driver.executeScript('arguments[0].focus()', desk);
    await desk.sendKeys(Key.ARROW_RIGHT);
    await bench.untilText('.fate', /^“(?!Northreach)/);
    await bench.press('+ step', '[aria-label="Stack of steps"] .pane-head');
    await bench.fill('#find-step', 'trim');
    await bench.until('fewer kinds', async () => (await bench.texts('sieve-add-step li')).length < 4);
    expect(await violations(browser.driver)).toEqual([]);
    await (await bench.find('#find-step')).sendKeys(Key.ESCAPE);
    await bench.until('the dialog to close', async () => (await bench.all('#find-step')).length === 0);
  });

  it('keeps its place in the address: pipeline, place, report, page and step', async () => {
    const bench = new Bench(browser.driver);
    await bench.choose('Promote header rows');
    await bench.chooseSlot('wk 26');
    await bench.headingIs(/^After “Promote header rows” 73 rows/);
    const address = await browser.driver.getCurrentUrl();
    await browser.driver.get('about:blank');
    await browser.driver.get(address);
    await bench.headingIs(/^After “Promote header rows” 73 rows/);
    await bench.untilText('[aria-label="Paper"] h2', /^week-26\.pdf$/);
  });

  it('publishes by a refresh, shows the rows with their trace, and names what went wrong', async () => {
    const dataset = new Dataset(browser.driver);
    await dataset.goTo('Dataset');
    await dataset.untilText('sieve-notice', /Run a refresh first/);
    // In week 30 a column is called otherwise, and the revised week 34 has one more: both wait for an answer.
    expect(await dataset.refresh()).toMatch(/^Refresh: published/);
    await dataset.press('Answer');
    await dataset.press(/^It is “Boxes”/, 'sieve-needs-page');
    await dataset.press('A new column, blank before', 'sieve-needs-page');
    // The last answer counts at once.
    await dataset.untilText('.ended', /2 reports added: 135 rows/);
    await dataset.goTo('Dataset');
    // 83 of week 22, 81 of 24, 64 of 26, 67 of 30 and 68 of the revised 34.
    await dataset.headingIs(/^Dataset 363 rows, 9 columns/);
    await dataset.until('the first row', async () =>
      /^week-22 · 2 Saltby BR1 Reef brill 81/.test((await dataset.rows())[0] ?? ''),
    );
    await dataset.until('the damaged report to be named', async () =>
      (await dataset.problems()).join(' ').includes('xpected a whole PDF, got a damaged one'),
    );
    await dataset.clickCell(0, 2);
    await dataset.untilText('sieve-dataset-page .said', /^week-22\.pdf, page 2: “Reef brill”/);
    await dataset.until('the line as it is printed', async () => (await dataset.all('sieve-slip canvas')).length === 2);
    await dataset.press('Paper', 'sieve-dataset-page');
    await dataset.find('sieve-paper .frame.word');
    expect(await violations(browser.driver)).toEqual([]);
    const csv = await (await asOwner(server)(`/api/pipelines/${await pipelineId()}/dataset.csv`)).text();
    expect(csv.trim().split('\n')).toHaveLength(364);
  });

  it('takes in a file that is copied into the folder, and the new rows of one that is replaced', async () => {
    const dataset = new Dataset(browser.driver);
    await copyFile(join(demoFolder, 'week-23.pdf'), join(folder, 'week-23.pdf'));
    await dataset.press('Close this message');
    expect(await dataset.refresh()).toMatch(/published/);
    await dataset.headingIs(/^Dataset 427 rows/);
    // As week 25, but a file of its own: none of the walks has read it before.
    await writeFile(
      join(folder, 'week-22.pdf'),
      Buffer.concat([await readFile(join(demoFolder, 'week-25.pdf')), Buffer.from('\n%% replaced\n')]),
    );
    await dataset.press('Close this message');
    expect(await dataset.refresh()).toMatch(/published/);
    await dataset.headingIs(/^Dataset 399 rows/);
    await expect.poll(async () => (await dataset.slots()).some((slot) => /^wk 23 64/.test(slot))).toBe(true);
  });

  it('lists every run with what came of each report', async () => {
    const runs = new Runs(browser.driver);
    await runs.goTo('Runs');
    await runs.until('four runs', async () => (await runs.runs()).length === 4);
    await runs.until('the reports of the run', async () =>
      (await runs.reports()).some((row) => /^week-22\.pdf 2025-W22 changed, parsed 55 /.test(row)),
    );
    expect((await runs.reports()).find((row) => row.startsWith('week-24.pdf'))).toMatch(
      /unchanged 81 15 0 Landings by species, p\. 2–4, sure 1/,
    );
    expect(await violations(browser.driver)).toEqual([]);
  });

  it('makes a pipeline of files chosen on this computer, in a folder of its own', async () => {
    const home = new PipelinesScreen(browser.driver);
    await home.open(server.url);
    await home.press('New pipeline');
    await home.fill('#name', 'Dropped');
    await (
      await home.find('#pick')
    ).sendKeys([join(demoFolder, 'week-25.pdf'), join(demoFolder, 'week-27.pdf')].join('\n'));
    await home.untilText('sieve-new-pipeline p', /^2 dropped PDF files: week-25\.pdf, week-27\.pdf/);
    await home.press('Make the pipeline', 'sieve-new-pipeline');
    const intake = new Intake(browser.driver);
    await intake.reportIs(/^week-27\.pdf .*2 tables found/);
    // More come later; one of a name that is there is asked about.
    const other = await temporaryFolder();
    await copyFile(join(demoFolder, 'week-28.pdf'), join(other, 'week-25.pdf'));
    await copyFile(join(demoFolder, 'week-29.pdf'), join(other, 'week-29.pdf'));
    await (
      await intake.find('sieve-reports-pane input[type="file"]')
    ).sendKeys([join(other, 'week-25.pdf'), join(other, 'week-29.pdf')].join('\n'));
    await intake.untilText('.p-dialog', /“week-25\.pdf” is in the folder already, with other content/);
    await intake.press('Keep both', '.p-dialog');
    await intake.reportIs(/^week-25 \(2\)\.pdf .*2 tables found/);
    await intake.reportIs(/^week-29\.pdf .*2 tables found/);
    const dropped = (await get<PipelineSummary[]>('/api/pipelines')).find((each) => each.name === 'Dropped')!;
    // Of the two for week 25 the one that came later counts, as its name says.
    expect([dropped.managed, dropped.reports]).toEqual([true, 3]);
    await asOwner(server)(`/api/pipelines/${dropped.id}`, { method: 'DELETE' });
  });

  it('lists the pipeline with what needs the analyst, renames and deletes it', async () => {
    const home = new PipelinesScreen(browser.driver);
    await home.open(server.url);
    await home.until('the pipeline', async () =>
      /^Landings .* 399 rows are published; 8 reports count\. .* 2 reports could not be read/.test(
        (await home.cards())[0] ?? '',
      ),
    );
    expect(await violations(browser.driver)).toEqual([]);
    await home.press('Rename', 'sieve-pipeline-card');
    await home.fill('#new-name', 'Landings of all quays');
    await home.press('Rename', 'p-dialog');
    await home.until('the new name', async () => (await home.cards())[0]?.startsWith('Landings of all quays'));
    await home.press('Delete', 'sieve-pipeline-card');
    await home.press('Delete it', '.p-confirmdialog');
    await home.untilText('sieve-notice', /^No pipeline yet/);
    await expect.poll(async () => (await readdir(folder)).length).toBe(weeks.length + 1);
    await rm(folder, { recursive: true });
  });
});
