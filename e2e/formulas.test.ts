// A column worked out by a formula, conditions by formulas, and a check: written, tried, traced.
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
import { Bench, Dataset } from './pages/pipeline';
import { serving } from './serving';

let server: Serving;
let browser: Browser;
let bench: Bench;
let id: number;

beforeAll(async () => {
  const folder = await someReports(['week-22.pdf', 'week-23.pdf', 'week-24.pdf']);
  server = await serving(dirname(folder));
  const demo = JSON.parse(await readFile(demoPipeline, 'utf8')) as Pipeline;
  const document = { ...demo, allReports: demo.allReports.filter(({ kind }) => kind !== 'compute column') };
  const made = await asOwner(server)('/api/pipelines', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ document, folder }),
  });
  ({ id } = (await made.json()) as PipelineFull);
  browser = await openBrowser(server);
  bench = new Bench(browser.driver);
  await browser.driver.get(`${server.url}pipelines/${id}/bench`);
  await bench.headingIs(/^After “Set types” 81 rows/);
});
afterAll(async () => {
  await browser?.close();
  await server?.stop();
});

const keys = (...sent: string[]) =>
  browser.driver
    .actions()
    .sendKeys(...sent)
    .perform();
const editor = '.cm-content';
/** What is written before goes. */
async function write(text: string) {
  await bench.clickOn(editor);
  await browser.driver.actions().keyDown(Key.CONTROL).sendKeys('a').keyUp(Key.CONTROL).sendKeys(Key.DELETE).perform();
  for (const each of text.split(/(?<=\s)/)) await keys(each);
  // What is offered is not taken.
  await keys(Key.ESCAPE);
}
const saved = () =>
  bench.until('it to be saved', async () => (await bench.texts('sieve-top-bar')).join().includes('Saved'));

describe('a column worked out by a formula', () => {
  it('is found by what people call it, and written with the names of columns to pick from', async () => {
    await bench.add('all reports', 'calculate a formula');
    await bench.headingIs(/^After “Compute column”/);
    await bench.press('+ line', 'sieve-foot-form');
    await bench.set('Into column', 'Per box');
    await bench.clickOn(editor);
    await keys('"Val');
    await bench.until('the column', async () =>
      (await bench.texts('.cm-tooltip-autocomplete li')).some((text) => text.startsWith('"Value"')),
    );
    await browser.driver.sleep(200);
    await keys(Key.ENTER);
    await bench.until('its name', async () => (await bench.text(editor)) === '"Value"');
  });

  it('says at once what is wrong with it, and keeps the sheet meanwhile', async () => {
    await write('"Value" / "Boxs"');
    await bench.untilText('sieve-formula-field [role="alert"]', /^There is no column "Boxs" here\.$/);
    await bench.until('the place', async () => (await bench.all('.cm-lintRange-error')).length > 0);
    expect(await violations(browser.driver)).toEqual([]);
  });

  it('is tried on the first rows, with what its parts give, and stands in the sheet', async () => {
    await write('round("Value" / "Boxes", 2)');
    await bench.until('results', async () => (await bench.all('sieve-formula-field table')).length === 2);
    const [value, boxes] = await Promise.all(
      ['"Value"', '"Boxes"'].map(async (name) =>
        (await bench.texts('sieve-formula-field table:last-of-type tr'))
          .find((text) => text.startsWith(`${name} `))!
          .slice(name.length + 1)
          .replaceAll(',', ''),
      ),
    );
    const [result] = await bench.texts('sieve-formula-field table:first-of-type td');
    expect(Number(result.replaceAll(',', ''))).toBe(Math.round((100 * Number(value)) / Number(boxes)) / 100);
    await saved();
    await bench.columnHeading('Per box');
    expect(await violations(browser.driver)).toEqual([]);
  });

  it('is traced to all cells that it is worked out of', async () => {
    await bench.scrollSheet(2000);
    const column = (await bench.texts('[aria-label="Sheet"] > sieve-grid thead th .name')).indexOf('Per box');
    await bench.clickCell(0, column);
    // On the line as it is printed: the value, and the boxes.
    await bench.until('both amounts framed', async () => (await bench.all('sieve-slip .line i')).length === 2);
  });

  it('is looked at on the row that is chosen, wherever that stands', async () => {
    const row = 'sieve-formula-field table:first-of-type tr.here';
    const column = (await bench.texts('[aria-label="Sheet"] > sieve-grid thead th .name')).indexOf('Per box');
    await bench.until('a first row', async () => (await bench.texts(row)).length === 1);
    const [first] = await bench.texts(row);
    // The last row in sight, beyond the first ones.
    const rows = await bench.rows();
    await bench.clickCell(rows.length - 1, column);
    await bench.until(
      'another row',
      async () => (await bench.texts(row)).length === 1 && (await bench.texts(row))[0] !== first,
    );
    const chosen = await bench.text('[aria-label="Sheet"] > sieve-grid tr.chosen td.current');
    expect((await bench.text(`${row} td`)).replaceAll(',', '')).toBe(String(Number(chosen.replaceAll(',', ''))));
  });
});

describe('a condition', () => {
  it('is opened as a formula, made more of, and goes back into the form where that can say it', async () => {
    await bench.add('all reports', 'filter rows');
    await bench.headingIs(/^After “Sift rows”/);
    await bench.press('+ condition', 'sieve-foot-form');
    await bench.pick('sieve-conditions .line sieve-pick:first-child p-select', 'Boxes');
    await bench.pick('sieve-conditions .line sieve-pick:nth-child(2) p-select', 'is above');
    await bench.fill('sieve-conditions sieve-value-field input', '200');
    await saved();
    await bench.headingIs(/^After “Sift rows” \d+ rows, \d+ columns$/);
    const kept = await bench.text('[aria-label="Sheet"] .pane-head');
    await bench.press('As a formula', 'sieve-conditions');
    await bench.until('the formula', async () => (await bench.text(editor)) === '"Boxes" > 200');
    await saved();
    await bench.until('the same rows', async () => (await bench.text('[aria-label="Sheet"] .pane-head')) === kept);
    await bench.press('Back into the form', 'sieve-conditions');
    await bench.until('the form', async () => (await bench.all(editor)).length === 0);
    await bench.press('As a formula', 'sieve-conditions');
    await write('"Boxes" > 200 and length("Code") = 3');
    await saved();
    // It says more than the form can.
    await bench.until(
      'no way back',
      async () => !(await bench.texts('sieve-conditions button')).includes('Back into the form'),
    );
    expect(await violations(browser.driver)).toEqual([]);
  });
});

describe('a check', () => {
  it('may be a formula, and leads to the rows in which it is not true', async () => {
    await browser.driver.get(`${server.url}pipelines/${id}/dataset`);
    const dataset = new Dataset(browser.driver);
    await dataset.refresh();
    await dataset.press('Checks', 'sieve-dataset-page p-selectbutton');
    await dataset.pick('sieve-own-check sieve-pick p-select', 'a formula is true in every row');
    await write('"Price per kg" < 20');
    await dataset.press('Add the check', 'sieve-own-check');
    await dataset.until('the check', async () =>
      (await dataset.texts('sieve-published-checks')).join().includes('It is true that "Price per kg" < 20'),
    );
    await saved();
    await dataset.refresh();
    await dataset.until('what fails', async () =>
      /Price per kg 2\d/.test((await dataset.texts('sieve-published-checks')).join()),
    );
  });
});
