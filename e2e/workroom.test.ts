// What the screens share: the sheet that is worked in, panes, failures that are told, and use by keyboard and enlarged.
import { cp, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PipelineFull } from '../server/contract/contract';
import type { Serving } from '../server/house/serve';
import { demoFolder, demoPipeline, temporaryFolder } from '../server/testing/folders';
import { asOwner } from '../server/testing/owner';
import { violations } from './accessible';
import { openBrowser, type Browser } from './browser';
import { Bench, Dataset, Intake, Runs } from './pages/pipeline';
import { PipelinesScreen } from './pages/pipelines';
import { serving } from './serving';

let server: Serving;
let browser: Browser;
let bench: Bench;
let id: number;
/** A folder with one report. */
let one: string;

const place = (path: string) => browser.driver.get(`${server.url}pipelines/${id}/${path}`);
const keys = (...all: string[]) =>
  browser.driver
    .actions()
    .sendKeys(...all)
    .perform();
const chord = (key: string, ...held: string[]) => {
  const actions = browser.driver.actions();
  for (const each of held) actions.keyDown(each);
  actions.sendKeys(key);
  for (const each of held) actions.keyUp(each);
  return actions.perform();
};
const focused = () =>
  browser.driver.executeScript<string>(
    'const e = document.activeElement; return (e.getAttribute("aria-label") || e.innerText || e.id || e.tagName).replace(/\\s+/g, " ").trim()',
  );
const savedSteps = async () =>
  ((await (await asOwner(server)(`/api/pipelines/${id}`)).json()) as PipelineFull).document as {
    eachReport: { kind: string; settings: Record<string, unknown> }[];
    allReports: { kind: string }[];
  };

beforeAll(async () => {
  const root = await temporaryFolder();
  await cp(demoFolder, join(root, 'landing-sheets'), { recursive: true });
  one = join(root, 'one');
  await cp(join(demoFolder, 'week-22.pdf'), join(one, 'week-22.pdf'));
  server = await serving(root);
  const made = await asOwner(server)('/api/pipelines', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({
      document: JSON.parse(await readFile(demoPipeline, 'utf8')),
      folder: join(root, 'landing-sheets'),
    }),
  });
  ({ id } = (await made.json()) as PipelineFull);
  browser = await openBrowser(server);
  bench = new Bench(browser.driver);
  await place('bench?step=totals');
  await bench.headingIs(/^After “Hold totals” 81 rows, 8 columns/);
});
afterAll(async () => {
  await browser?.close();
  await server?.stop();
});

describe('the sheet', () => {
  it('selects columns by their headings, and says in a line what the cells hold', async () => {
    await bench.choose('Set types');
    await bench.until('the heading Boxes', async () =>
      (await bench.columns()).some((text) => text.startsWith('Boxes')),
    );
    await bench.clickOn(() => bench.columnHeading('Boxes'));
    await bench.untilText(
      '[aria-label="Sheet"] > sieve-grid .holds',
      /^81 cells, 81 numbers, sum [\d,]+, mean [\d.,]+, least -?[\d,]+, most [\d,]+$/,
    );
    await bench.pressWith(await bench.columnHeading('Value'), Key.SHIFT);
    await bench.untilText(
      '[aria-label="Sheet"] > sieve-grid .holds',
      /^405 cells, 23 blank, 382 numbers, sum [\d,.]+ over 5 columns/,
    );
  });

  it('finds a text from the place on, and chooses its cell', async () => {
    await bench.choose('Hold totals');
    // The first column lies under the margin then, and is brought beside it.
    await bench.scrollSheet(60);
    await bench.clickCell(0, 0);
    await chord('f', Key.CONTROL);
    await bench.until('the field to be focused', async () => (await focused()) === 'Find in the sheet');
    await keys('reef brill', Key.ENTER);
    await bench.untilText('[aria-label="Sheet"] > sieve-grid .find [role=status]', /^in \d cells?$/);
    await bench.until('the cell', async () => /Reef brill/.test(await bench.chosenCell()));
    await bench.until(
      'its line on the slip',
      async () => !/Choose a cell|Looking/.test(await bench.text('sieve-slip')),
    );
    await keys(Key.ESCAPE);
    await bench.until(
      'the keys to be for the sheet again',
      async () => (await browser.driver.executeScript('return document.activeElement.tagName')) === 'TABLE',
    );
  });

  it('has a menu at each heading by keyboard, from which a step about the column begins', async () => {
    await bench.choose('Hold totals');
    await bench.clickCell(0, 0);
    await chord(Key.HOME, Key.CONTROL);
    await keys(Key.ARROW_UP, Key.ARROW_RIGHT, Key.ENTER);
    await bench.until('the menu', async () => (await bench.texts('.p-menu-item')).includes('Leave out'));
    expect(await violations(browser.driver)).toEqual([]);
    await keys(Key.ARROW_DOWN, Key.ENTER);
    await bench.headingIs(/^After “Pick columns” 81 rows, 7 columns/);
    await expect
      .poll(async () => (await savedSteps()).eachReport.find(({ kind }) => kind === 'pick columns')!.settings)
      .toEqual({ columns: { by: 'all but', names: ['Code'] } });
    await bench.press('Undo', 'sieve-top-bar');
    await bench.headingIs(/^After “.*(?:8|10|12) columns/);
  });

  it('has a menu at each layer by right click, with what can be done to the step', async () => {
    await bench.openLayerMenu('Rename boxes');
    await bench.pressMenu('Switch off');
    await bench.until('the layer to be off', async () =>
      (await bench.layers()).some((text) => /^Rename boxes off/.test(text)),
    );
    await bench.openLayerMenu('Rename boxes');
    await bench.pressMenu('Switch on');
    await bench.until('the layer to be on', async () =>
      (await bench.layers()).some((text) => /^Rename boxes \d+/.test(text)),
    );
    const names = async () => (await bench.layers()).map((text) => text.replace(/ \d.*/, ''));
    const before = await names();
    await bench.openLayerMenu('Rename boxes');
    await bench.pressMenu('Move up');
    await bench.until(
      'the layer one higher',
      async () => (await names()).indexOf('Rename boxes') === before.indexOf('Rename boxes') - 1,
    );
    await bench.press('Undo');
    await bench.until('the order as it was', async () => JSON.stringify(await names()) === JSON.stringify(before));
    await bench.openLayerMenu('Rename boxes');
    await bench.pressMenu('Add a step above');
    await bench.find('sieve-add-step');
    await keys(Key.ESCAPE);
  });

  it('turns selected columns into rows, and says on the layer what became of them', async () => {
    await bench.choose('Hold totals');
    await bench.clickOn(() => bench.columnHeading('Boxes'));
    await bench.pressWith(await bench.columnHeading('Weight (kg) Gutted'), Key.SHIFT);
    await chord(Key.ARROW_DOWN, Key.ALT);
    await bench.pressMenu('Turn into rows');
    await bench.headingIs(/^After “Unpivot” 149 rows, 8 columns/);
    await bench.layerIs(/^Unpivot 149 .*81 rows × 2 columns became 149 rows; 13 blank held/);
    await bench.clickCell(1, 6);
    // The heading of a turned column is traced to its words on the paper, both rows of it.
    await bench.readPaper();
    await bench.until('the words of the heading framed', async () => (await bench.frames()).length >= 3);
    await bench.press('edge', 'sieve-paper-pane');
    await bench.press('Remove', 'sieve-stack .layer.on');
    await bench.headingIs(/^After “Taken”/);
  });
});

describe('the panes', () => {
  it('are widened by mouse and by keyboard, and keep their width', async () => {
    const width = () =>
      browser.driver.executeScript<number>(
        'return document.querySelector("sieve-stack-pane").getBoundingClientRect().width',
      );
    const before = await width();
    const handle = await bench.find('[role=separator][aria-label="Width of the stack"]');
    await browser.driver
      .actions()
      .move({ origin: handle })
      .press()
      .move({ origin: handle, x: 80, y: 0 })
      .release()
      .perform();
    await bench.until('the stack to be wider', async () => (await width()) > before + 60);
    const wider = await width();
    expect(Number(await handle.getAttribute('aria-valuenow'))).toBeGreaterThan(25);
    await browser.driver.executeScript('arguments[0].focus()', handle);
    // Held as long as a finger holds it.
    await browser.driver.actions().keyDown(Key.ARROW_LEFT).pause(150).keyUp(Key.ARROW_LEFT).perform();
    await bench.until('the stack to be narrower', async () => (await width()) < wider - 5);
    const kept = await width();
    await browser.driver.navigate().refresh();
    await bench.headingIs(/^After “/);
    expect(Math.abs((await width()) - kept)).toBeLessThan(3);
  });
});

describe('what the server does not answer', () => {
  it('is told as a failure where it was asked for, and had when it is tried again', async () => {
    const block = (...urls: string[]) => browser.tell('Network.setBlockedURLs', { urls });
    await browser.tell('Network.enable');
    await place('bench?step=totals');
    await bench.headingIs(/^After “Hold totals” 81 rows/);
    await block('*/sheet?*');
    await bench.press(/^Lift sections/, 'sieve-stack');
    await bench.untilText('sieve-sheet-pane sieve-notice', /The server does not answer/);
    await expect.poll(() => bench.rows()).toEqual([]);
    expect(await violations(browser.driver)).toEqual([]);
    await block();
    await bench.press('Try again', 'sieve-sheet-pane');
    await bench.headingIs(/^After “Lift sections into Quay” 86 rows/);
    await bench.until('no failure to be left', async () => (await bench.all('sieve-sheet-pane .failure')).length === 0);

    await block('*/made-of');
    const dataset = new Dataset(browser.driver);
    await dataset.refresh();
    await dataset.goTo('Dataset');
    await dataset.untilText('sieve-dataset-page sieve-failed-line .error', /The server does not answer/);
    // Nothing says that all is well where it is not known.
    await expect
      .poll(() => dataset.texts('sieve-dataset-page p-selectbutton'))
      .toEqual(['Problems Totals Checks Held Paper']);
    await block();
    await dataset.press('Try again', 'sieve-dataset-page');
    await dataset.until('the problems', async () => (await dataset.problems()).length > 0);
  });
});

describe('a dataset that would have too many columns', () => {
  it('says so at each report, and leads to the step that puts them into rows', async () => {
    const document = JSON.parse(await readFile(demoPipeline, 'utf8')) as { name: string; allReports: unknown[] };
    const letters = 1700;
    document.name = 'Too wide';
    document.allReports = [
      { id: 'put', kind: 'constant column', settings: { name: 'Wide', value: 'x'.repeat(letters) } },
      {
        id: 'wide',
        kind: 'split column',
        settings: { column: 'Wide', where: 'at cuts', cuts: Array.from({ length: letters }, (_, at) => at + 1) },
      },
    ];
    const made = await asOwner(server)('/api/pipelines', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ document, folder: one }),
    });
    const wide = ((await made.json()) as PipelineFull).id;
    await browser.driver.get(`${server.url}pipelines/${wide}/runs`);
    const runs = new Runs(browser.driver);
    await runs.find('sieve-runs-page');
    await runs.refresh();
    await runs.until('the reason', async () =>
      (await runs.reports()).some((text) => /can have 1,590.*“Unpivot” puts them there/.test(text)),
    );
    await runs.press('Add the step “Unpivot”', 'sieve-runs-page');
    await bench.until(
      'the step to be found already',
      async () => (await (await bench.find('#find-step')).getAttribute('value')) === 'unpivot',
    );
    await (await bench.find('#find-step')).sendKeys(Key.ENTER);
    await bench.headingIs(/^After “Unpivot”/);
    // Before its columns are chosen it says what it needs, and lets the rows pass.
    await bench.untilText('[aria-label="Problems of this step"]', /expected columns to turn into rows, got none/);
  });
});

describe('every screen', () => {
  it('is without a violation with data, with its dialogs open, and in the dark', async () => {
    const found: Record<string, string[]> = {};
    const check = async (what: string) => {
      const all = await violations(browser.driver, what.endsWith('dark') ? 'colours' : 'all');
      if (all.length > 0) found[what] = all;
    };
    for (const light of ['light', 'dark']) {
      const intake = new Intake(browser.driver);
      await place('intake');
      await intake.reportIs(/^week-22\.pdf .*tables found/);
      if (
        (await browser.driver.executeScript<boolean>('return document.documentElement.classList.contains("dark")')) !==
        (light === 'dark')
      )
        await intake.press(/light|dark/i, 'sieve-light');
      await check(`intake, ${light}`);
      await intake.press('Periods', 'sieve-reports-pane');
      await intake.find('.p-dialog');
      await check(`periods, ${light}`);
      await keys(Key.ESCAPE);
      await place('bench?step=types');
      await bench.headingIs(/^After “Set types”/);
      await check(`bench with a wide form, ${light}`);
      await bench.press('all pages', 'sieve-stack-pane');
      await bench.find('.p-popover');
      await check(`pages, ${light}`);
      await keys(Key.ESCAPE);
      await bench.press(/^Saved, version/, 'sieve-top-bar');
      await bench.find('.p-dialog');
      await check(`versions, ${light}`);
      await keys(Key.ESCAPE);
      await place('dataset');
      const dataset = new Dataset(browser.driver);
      await dataset.headingIs(/885 rows/);
      await dataset.clickCell(0, 3);
      await dataset.untilText('sieve-dataset-page .said', /week-22\.pdf/);
      await check(`dataset, ${light}`);
      await place('runs');
      const runs = new Runs(browser.driver);
      await runs.until('the reports of the run', async () => (await runs.reports()).length > 10);
      await check(`runs, ${light}`);
      const home = new PipelinesScreen(browser.driver);
      await home.open(server.url);
      await home.until('the pipeline', async () => (await home.cards()).length > 0);
      await check(`home, ${light}`);
      await home.press('Delete', 'sieve-pipelines-page');
      await home.find('.p-confirmdialog');
      await check(`question, ${light}`);
      await home.press('Keep it', '.p-confirmdialog');
    }
    expect(found).toEqual({});
  });

  it('can be used at twice the size, without scrolling sideways', async () => {
    const window = browser.driver.manage().window();
    const size = await window.getRect();
    try {
      // At 200 % a screen of 1280 by 800 has room for 640 by 400.
      await browser.tell('Emulation.setDeviceMetricsOverride', {
        width: 640,
        height: 400,
        deviceScaleFactor: 2,
        mobile: false,
      });
      for (const path of ['intake', 'bench?step=totals', 'dataset', 'runs']) {
        await place(path);
        await bench.find('sieve-top-bar');
        await bench.until(`${path} to be there`, async () => (await bench.all('main .pane')).length > 0);
        const wide = await browser.driver.executeScript<number>('return document.documentElement.scrollWidth');
        expect([path, wide]).toEqual([path, 640]);
        // What is done most is in reach.
        const reach = await browser.driver.executeScript<boolean>(
          'const b = [...document.querySelectorAll("sieve-top-bar button")].find((e) => e.innerText.includes("Run refresh")).getBoundingClientRect(); return b.right <= innerWidth && b.bottom <= innerHeight',
        );
        expect([path, reach]).toEqual([path, true]);
      }
    } finally {
      await browser.tell('Emulation.clearDeviceMetricsOverride');
      await window.setRect(size);
    }
  });
});

describe('the main way by keyboard alone', () => {
  /** Goes on with the tab key until what is focused says this. */
  async function tabTo(pattern: RegExp, most = 120) {
    for (let n = 0; n < most; n++) {
      await keys(Key.TAB);
      if (pattern.test(await focused())) return;
    }
    throw new Error(`The tab key does not lead to ${pattern}; it is at “${await focused()}”.`);
  }

  it('leads from the list of pipelines over a new step to the refreshed dataset and a traced cell', async () => {
    const home = new PipelinesScreen(browser.driver);
    await home.open(server.url);
    await home.until('the pipeline', async () => (await home.cards()).length > 0);
    await tabTo(/^Landings by species$/);
    await keys(Key.ENTER);
    await home.until('the intake', async () => /\/intake/.test(await browser.driver.getCurrentUrl()));
    const intake = new Intake(browser.driver);
    await intake.reportIs(/^week-22\.pdf .*tables found/);
    await tabTo(/^Bench/);
    await keys(Key.ENTER);
    await bench.headingIs(/^After “/);
    await tabTo(/^\+ step to all reports$/, 300);
    await keys(Key.ENTER);
    await bench.until('the search for a step', async () => (await focused()) === 'find-step');
    await keys('sort', Key.ENTER);
    await bench.headingIs(/^After “Sort”/);
    await expect.poll(async () => (await savedSteps()).allReports.map(({ kind }) => kind)).toContain('sort');
    await tabTo(/^Run refresh$/);
    await keys(Key.ENTER);
    await bench.untilText('.ended', /^Refresh: (published|nothing new)/);
    await tabTo(/^Dataset/);
    await keys(Key.ENTER);
    const dataset = new Dataset(browser.driver);
    await dataset.headingIs(/885 rows/);
    await tabTo(/^Published rows$/);
    await keys(Key.ARROW_DOWN, Key.ARROW_RIGHT, Key.ARROW_RIGHT);
    await dataset.untilText('sieve-dataset-page .said', /\.pdf, page \d/);
  });

  it('tells what happens to those who do not see it', async () => {
    await place('bench?step=totals');
    await bench.headingIs(/^After “Hold totals” 81 rows/);
    await bench.cell(0, 0);
    const told = await browser.driver.executeScript<Record<string, string | null>>(`
      const role = (css) => { const e = document.querySelector(css); return e && [e.getAttribute('role'), e.getAttribute('aria-label') ?? (e.getAttribute('aria-labelledby') ? document.getElementById(e.getAttribute('aria-labelledby'))?.textContent.trim() : null)].join(': '); };
      return { paper: role('sieve-paper-pane'), stack: role('sieve-stack-pane'), sheet: role('sieve-sheet-pane'), grid: role('sieve-sheet-pane > sieve-grid table'), holds: document.querySelector('.holds').getAttribute('role'), saved: document.querySelector('sieve-top-bar [role=status]').textContent, handles: String(document.querySelectorAll('[role=separator][aria-valuenow][aria-label]').length) };
    `);
    expect(told).toEqual({
      paper: 'region: Paper',
      stack: 'region: Stack of steps',
      sheet: 'region: Sheet',
      grid: 'grid: Sheet after Hold totals',
      holds: 'status',
      saved: 'Saved',
      handles: '2',
    });
  });
});
