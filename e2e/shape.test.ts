// From a crosstab on paper to tidy rows, by mouse: days down, hours across under three lines of headings, two unlike tables on a page.
import { cp, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { northOffice } from '../demo/layout';
import { pdfkitPen } from '../demo/pdfkit-pen';
import type {
  DatasetAnswer,
  DatasetTrace,
  PageAnswer,
  PipelineSummary,
  StoredReport,
} from '../server/contract/contract';
import type { Serving } from '../server/house/serve';
import { rollFolder, rollPipeline, temporaryFolder, tideDatasets, tideFolder } from '../server/testing/folders';
import { asOwner } from '../server/testing/owner';
import { violations } from './accessible';
import { openBrowser, type Browser } from './browser';
import { Bench, Dataset, Intake } from './pages/pipeline';
import { PipelinesScreen } from './pages/pipelines';
import { serving } from './serving';

let server: Serving;
let browser: Browser;
let bench: Bench;
let root: string;

const get = async <T>(path: string) => (await (await asOwner(server)(path)).json()) as T;
const idOf = async (name: string) =>
  (await get<PipelineSummary[]>('/api/pipelines')).find((each) => each.name === name)!.id;
const make = async (document: object, folder: string) =>
  (
    (await (
      await asOwner(server)('/api/pipelines', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ document, folder }),
      })
    ).json()) as { id: number }
  ).id;

beforeAll(async () => {
  root = await temporaryFolder();
  await cp(tideFolder, join(root, 'tides'), { recursive: true });
  await cp(rollFolder, join(root, 'rolls'), { recursive: true });
  server = await serving(root);
  browser = await openBrowser(server);
  bench = new Bench(browser.driver);
});
afterAll(async () => {
  await browser?.close();
  await server?.stop();
});

describe('tide tables become tidy rows', () => {
  it('from the folder: the first of two unlike tables is taken from every month by one press', async () => {
    const home = new PipelinesScreen(browser.driver);
    await home.open(server.url);
    await home.make('Flow', 'tides', 'tides-{year}-{month}.pdf', '2025');
    const intake = new Intake(browser.driver);
    await intake.reportIs(/^tides-2025-07\.pdf .*1 page, 2 tables found/);
    await intake.take('Flow through the tide gates');
    await intake.until(
      'all three months',
      async () => (await intake.strip()).filter((cell) => /^p\. 1 sure/.test(cell)).length === 3,
    );
  });

  it('its three lines of headings become one, the month is stamped, totals are held', async () => {
    await bench.goTo('Bench');
    await bench.headingIs(/^After “Taken” 35 rows, 14 columns/);
    await bench.add('each table', 'promote header');
    await bench.set('Rows', '3');
    await bench.until('headings over headings', async () =>
      (await bench.columns()).some((text) => text.startsWith('Thousand m³ in two hours from a.m. 00:00')),
    );
    await bench.add('each report', 'stamp');
    await bench.pickIn('From', 'page text');
    await bench.set('Template', 'Tide tables, {Month}');
    await bench.until('the month on each row', async () =>
      (await bench.rows()).every((row) => row.includes('May 2025')),
    );
    await bench.add('each report', 'hold totals');
    await bench.set('Wording', `Month${Key.TAB}`);
    await bench.headingIs(/^After “Hold totals” 31 rows, 15 columns/);
  });

  it('columns selected by their headings turn into rows, their headings taken apart', async () => {
    await bench.clickCell(0, 0);
    await browser.driver.actions().sendKeys(Key.END).perform();
    await bench.clickOn(() => bench.columnHeading('All day'));
    await browser.driver.actions().keyDown(Key.ALT).sendKeys(Key.ARROW_DOWN).keyUp(Key.ALT).perform();
    await bench.pressMenu('Leave out');
    await bench.headingIs(/^After “Pick columns” 31 rows, 14 columns/);
    await bench.scrollSheet(0);
    await bench.clickOn(() => bench.columnHeading('Thousand m³ in two hours from a.m. 00:00'));
    await bench.scrollSheet(9000);
    await bench.pressWith(await bench.columnHeading('Thousand m³ in two hours from p.m. 22:00'), Key.SHIFT);
    await bench.untilText('[aria-label="Sheet"] > sieve-grid .holds', /^372 cells/);
    await browser.driver.actions().keyDown(Key.ALT).sendKeys(Key.ARROW_DOWN).keyUp(Key.ALT).perform();
    await bench.pressMenu('Turn into rows');
    await bench.layerIs(/^Unpivot 372 .*31 rows × 12 columns became 372 rows/);
    await bench.pickIn('Blanks are', 'kept');
    await bench.pickIn('Headings become', 'the parts of a template');
    await bench.set('Template', 'Thousand m³ in two hours from {Half} {From}');
    await bench.set('Values into', 'Flow');
    await bench.headingIs(/^After “Unpivot” 372 rows, 5 columns/);
    await bench.until('a row of its own', async () => /May 2025 1 a\.m\. 00:00/.test((await bench.rows())[0]));
    expect(await violations(browser.driver)).toEqual([]);
  });

  it('month and day become a date, amounts numbers; the dataset is the one expected', async () => {
    await bench.add('each report', 'date from parts');
    await bench.pickIn('Put together from', 'a month and a day');
    await bench.pickIn('The week, month or year in', 'Month');
    await bench.pickIn('The weekday, day, month or quarter in', 'Day');
    await bench.until('a date', async () => /2025-05-01 a\.m\. 00:00/.test((await bench.rows())[0]));
    await bench.add('all reports', 'set types');
    await bench.press('over all', 'sieve-types-form');
    await bench.until('the types', async () => (await bench.columns()).some((text) => /^Flow decimal/.test(text)));
    await bench.press('Flow', 'sieve-types-form');
    await bench.pick('[id^="scale-"]', 'thousands');
    await bench.until('the scale', async () => (await bench.rows())[0].includes('158,700'));
    const id = await idOf('Flow');
    await bench.refresh();
    const csv = await (await asOwner(server)(`/api/pipelines/${id}/dataset.csv`)).text();
    expect(csv).toBe(await readFile(tideDatasets[0].expected, 'utf8'));
  });

  it('a value of the dataset leads to its cell on the paper, and to the words of all three headings', async () => {
    const id = await idOf('Flow');
    const dataset = new Dataset(browser.driver);
    await dataset.goTo('Dataset');
    await dataset.headingIs(/1,?104 rows/);
    await dataset.clickCell(3, 3);
    await dataset.until('its line on the slip', async () => (await dataset.all('sieve-slip canvas')).length > 0);
    const { window, columns } = await get<DatasetAnswer>(`/api/pipelines/${id}/dataset?start=3&count=1`);
    const wordsOf = async (column: string) =>
      (await get<DatasetTrace>(`/api/pipelines/${id}/dataset/trace?row=3&column=${column}`)).places
        .flatMap(({ words }) => words.map(({ text }) => text))
        .join(' ');
    expect([columns.map(({ heading }) => heading), window[0].cells]).toEqual([
      ['Date', 'Half', 'From', 'Flow'],
      ['2025-05-01', 'a.m.', '06:00:00', 11_500],
    ]);
    expect([await wordsOf('Flow'), await wordsOf('Half'), await wordsOf('From')]).toEqual([
      '11.5',
      expect.stringContaining('a.m.'),
      expect.stringContaining('06:00'),
    ]);
    await dataset.press('Paper', '[aria-label="Published rows"]');
    await dataset.clickCell(3, 1);
    // The part of the day stands in the second line of headings: its words light up on the paper.
    const report = (await get<StoredReport[]>(`/api/pipelines/${id}/reports`)).find(
      ({ path }) => path === 'tides-2025-05.pdf',
    )!;
    const { page } = await get<PageAnswer>(`/api/pipelines/${id}/reports/${report.id}/pages/1`);
    const half = page!.words.find(({ text }) => text === 'a.m.')!;
    await dataset.until('the heading framed', async () => {
      const framed = await browser.driver.executeScript<number[][]>(
        "const p = document.querySelector('sieve-paper canvas').getBoundingClientRect(); return [...document.querySelectorAll('sieve-paper .frame')].map((e) => e.getBoundingClientRect()).map((b) => [(b.left - p.left) / p.width, (b.top - p.top) / p.height])",
      );
      return framed.some(
        ([x, y]) => Math.abs(x * page!.width - half.box[0]) < 3 && Math.abs(y * page!.height - half.box[1]) < 3,
      );
    });
  });
});

describe('what a shape did is drawn', () => {
  it('lines that became a record have a bracket beside them on the paper, also where the record goes on in the next column', async () => {
    const id = await make(JSON.parse(await readFile(rollPipeline, 'utf8')) as object, join(root, 'rolls'));
    await browser.driver.get(`${server.url}pipelines/${id}/bench?step=records&page=2`);
    await bench.headingIs(/^After “Lines to records” 84 rows, 5 columns/);
    await bench.readPaper();
    await bench.until('the brackets', async () => (await bench.all('sieve-paper .record')).length > 15);
    // Another step leaves none.
    await bench.choose('Part number and holder');
    await bench.until('no brackets', async () => (await bench.all('sieve-paper .record')).length === 0);
  });

  it('a table that is split has a line across it on the paper and in the sheet', async () => {
    const { pen, end } = pdfkitPen(northOffice, 'Dues', new Date('2025-01-06T09:00:00Z'));
    pen.newPage();
    const rows = [
      ['Berth', 'Vessel', 'Dues'],
      ['North quay', '', ''],
      ['N1', 'Grey Gull', '88.20'],
      ['N2', 'Hale Otter', '12.00'],
      ['South quay', '', ''],
      ['S1', 'Far Lantern', '41.00'],
      ['S2', 'True Rose', '17.50'],
    ];
    rows.forEach((row, i) =>
      row.forEach(
        (text, column) => text && pen.text(text, 60 + column * 130, 120 + i * 16, 9, i === 0 ? 'bold' : undefined),
      ),
    );
    const folder = join(root, 'dues');
    await cp(tideFolder, folder, { recursive: true, filter: (path) => !path.endsWith('.pdf') });
    await writeFile(join(folder, 'dues.pdf'), await end());
    const split = {
      id: 'split',
      kind: 'split table',
      settings: { where: 'before rows that match', text: '* quay', title: true },
    };
    const id = await make(
      {
        format: 'able-sieve/pipeline',
        version: 1,
        name: 'Dues',
        take: [{ name: 'Dues', heading: ['Berth', 'Vessel'] }],
        eachTable: [
          { id: 'head', kind: 'promote header rows', settings: { rows: 1 } },
          split,
          { id: 'quay', kind: 'stamp', settings: { from: 'table title', column: 'Quay' } },
        ],
      },
      folder,
    );
    await browser.driver.get(`${server.url}pipelines/${id}/bench?step=split`);
    await bench.headingIs(/^After “Split table” 4 rows, 3 columns/);
    await bench.until('the line in the sheet', async () =>
      (await bench.texts('[aria-label="Sheet"] > sieve-grid tr.begins')).some((text) => text.includes('Far Lantern')),
    );
    await bench.readPaper();
    await bench.until('the line on the paper', async () => (await bench.all('sieve-paper .split')).length === 1);
    expect(await violations(browser.driver)).toEqual([]);
    await bench.choose('Stamp');
    await bench.until(
      'the title of the part',
      async () => /North quay N1/.test((await bench.rows())[0]) && /South quay S1/.test((await bench.rows())[2]),
    );
  });
});
