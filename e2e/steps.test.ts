// Every widget of the forms of steps, and what is done to steps beside the sheet.
import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { northOffice } from '../demo/layout';
import { pdfkitPen } from '../demo/pdfkit-pen';
import type { PipelineFull } from '../server/contract/contract';
import type { Serving } from '../server/house/serve';
import { asOwner } from '../server/testing/owner';
import { temporaryFolder } from '../server/testing/folders';
import { openBrowser, type Browser } from './browser';
import { Bench } from './pages/pipeline';
import { serving } from './serving';

let server: Serving;
let browser: Browser;
let bench: Bench;
let id: number;

const quays = ['Saltby', 'Tern Point', 'Old Lantern'];
const items = ['HK1 - Lantern hake', 'SL2 - Grey sole', 'CR4 - Rock crab', 'LG1 - Deep ling'];
const rowsOnPage = 12;

/** Two pages of landings; the name of one column is another in each month. */
async function landings(file: string, boxes: string) {
  const { pen, end } = pdfkitPen(northOffice, 'Landings', new Date('2025-01-06T09:00:00Z'));
  for (let page = 0; page < 2; page++) {
    pen.newPage();
    const rows = [
      ['Item', 'Quay', boxes],
      ...Array.from({ length: rowsOnPage }, (_, n) => [
        items[(n + page) % items.length],
        quays[n % quays.length],
        String(10 + n + page * rowsOnPage),
      ]),
    ];
    rows.forEach((row, i) =>
      row.forEach((text, column) => pen.text(text, 60 + column * 130, 120 + i * 16, 9, i === 0 ? 'bold' : undefined)),
    );
  }
  await writeFile(file, await end());
}

beforeAll(async () => {
  const root = await temporaryFolder();
  await mkdir(join(root, 'landings'));
  await landings(join(root, 'landings', 'landings-1.pdf'), 'Boxes');
  await landings(join(root, 'landings', 'landings-2.pdf'), 'Crates');
  server = await serving(root);
  const document = {
    format: 'able-sieve/pipeline',
    version: 1,
    name: 'Landings',
    guide: 'landings-1.pdf',
    take: [{ name: 'Landings', heading: ['Item', 'Quay'] }],
    eachTable: [
      { id: 'head', kind: 'promote header rows', settings: { rows: 1 } },
      { id: 'again', kind: 'drop noise', settings: { headings: true } },
    ],
  };
  const made = await asOwner(server)('/api/pipelines', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ document, folder: join(root, 'landings') }),
  });
  ({ id } = (await made.json()) as PipelineFull);
  browser = await openBrowser(server);
  bench = new Bench(browser.driver);
  await browser.driver.get(`${server.url}pipelines/${id}/bench`);
  await bench.headingIs(/^After “Drop noise” 24 rows, 3 columns/);
});
afterAll(async () => {
  await browser?.close();
  await server?.stop();
});

const steps = async () =>
  (
    ((await (await asOwner(server)(`/api/pipelines/${id}`)).json()) as PipelineFull).document as {
      eachReport: { kind: string; settings: Record<string, unknown>; pass?: unknown[] }[];
      spellings: unknown;
    }
  ).eachReport;
/** Takes the step that is open away again, so that each test begins alike. */
async function remove() {
  await bench.press('Remove', 'sieve-stack .layer.on');
  await bench.headingIs(/^After “Taken”/);
}

describe('the widgets of the forms', () => {
  it('pick values with their counts, and let a held row pass', async () => {
    await bench.add('each report', 'sift rows');
    await bench.press('+ condition', 'sieve-conditions');
    await bench.pick(bench.named('Where, condition 1'), 'Quay');
    await bench.pick(bench.named('Test, condition 1'), 'is one of');
    await bench.until('the values with their counts', async () =>
      (await bench.texts('sieve-value-list li')).includes('Saltby 8'),
    );
    await bench.clickOn('sieve-value-list li label');
    await bench.headingIs(/^After “Sift rows” 16 rows/);
    await expect.poll(() => bench.held()).toHaveLength(8);
    await bench.clickOn('.held tbody tr:not(.space) td:nth-child(2)');
    await bench.press('Let these pass', '.held');
    // The rows that say the same item and quay pass, whatever their amount: there are two of them.
    await bench.headingIs(/^After “Sift rows” 18 rows/);
    await expect.poll(async () => (await bench.texts('sieve-stack .passes li'))[0]).toMatch(/^“.* · .*” passes/);
    await bench.press(/^Hold “.*” again$/, 'sieve-stack .passes');
    await bench.headingIs(/^After “Sift rows” 16 rows/);
    await remove();
  });

  it('look values up in an uploaded file, found by a column that both have', async () => {
    await bench.add('each report', 'look up');
    const list = join(await temporaryFolder(), 'quays.csv');
    await writeFile(list, 'Quay;Coast;Berths\nSaltby;north;4\nTern Point;south;2\n');
    await (await bench.find('sieve-look-up-form input[type="file"]')).sendKeys(list);
    await bench.until(
      'the key that both have',
      async () =>
        JSON.stringify((await steps())[0]?.settings['keys']) === JSON.stringify([{ column: 'Quay', of: 'Quay' }]),
    );
    await bench.until(
      'its columns',
      async () => (await bench.texts('sieve-look-up-form li')).join() === 'Coast,Berths',
    );
    await bench.clickOn('sieve-look-up-form li:first-child input[type="checkbox"]');
    await bench.headingIs(/^After “Look up” 24 rows, 4 columns/);
    await expect
      .poll(async () => (await bench.columns()).map((text) => text.split(' ')[0]))
      .toEqual(['page·line', 'Item', 'Quay', 'Coast', 'Boxes']);
    await bench.until('what was found', async () => /Saltby north/.test((await bench.rows())[0]));
    await bench.layerIs(/^Look up .*1 problem/);
    // The third quay is not in the list: it is named with its rows, then held.
    await bench.untilText('[aria-label="Sheet"]', /“Old Lantern” \(8 rows\) that are not there/);
    await bench.pick('#missing', 'are held');
    await bench.headingIs(/^After “Look up” 16 rows/);
    await expect.poll(async () => (await bench.held())[0]).toMatch(/“Old Lantern” is not in “quays\.csv”$/);
    // What is looked up traces to the words of the key.
    await bench.clickCell(0, 2);
    await bench.until(
      'its line on the slip, the key framed',
      async () =>
        (await bench.all('sieve-slip canvas')).length > 0 &&
        (await bench.text('[aria-label="Sheet"] .pane-head')).endsWith('landings-1.pdf, page 1'),
    );
    // The file anew: what it says now is shown.
    await writeFile(list, 'Quay;Coast;Berths\nSaltby;far north;4\nTern Point;south;2\n');
    await (await bench.find('sieve-look-up-form input[type="file"]')).sendKeys(list);
    await bench.until('the new text', async () => /Saltby far north/.test((await bench.rows())[0]));
    await writeFile(list, 'Quay;Coast\nSaltby\n');
    await (await bench.find('sieve-look-up-form input[type="file"]')).sendKeys(list);
    await bench.untilText(
      'sieve-look-up-form [role="alert"]',
      /^Line 2 of quays\.csv has another number of values than its first line/,
    );
    await remove();
  });

  it('say of each value what it becomes', async () => {
    await bench.add('each report', 'recode');
    await bench.tickColumns('In', 'Quay');
    const field = await bench.find(bench.named('Tern Point becomes'));
    await field.sendKeys('South', Key.TAB);
    await bench.until('the recoded cells', async () => (await bench.rows()).some((row) => row.includes('South')));
    await bench.clickOn(bench.named('Old Lantern becomes blank'));
    await bench.until(
      'both to be saved',
      async () =>
        JSON.stringify((await steps())[0]?.settings['values']) ===
        JSON.stringify([
          { from: ['Tern Point'], to: 'South' },
          { from: ['Old Lantern'], to: '' },
        ]),
    );
    await remove();
  });

  it('show what a pattern finds, and undo what was typed at once', async () => {
    await bench.add('each report', 'find and replace');
    await bench.tickColumns('In', 'Item');
    await bench.pickIn('Find', 'a pattern');
    await bench.set('Text or pattern', '^([A-Z]+)\\d');
    await bench.untilText('sieve-pattern-field [role=status]', /^Found in 4 of 4 different values, 24 cells\.$/);
    await expect
      .poll(async () => (await bench.texts('sieve-pattern-field mark')).sort())
      .toEqual(['CR4', 'HK1', 'LG1', 'SL2']);
    await bench.set('Replace by', '$1');
    await bench.until(
      'the cells without the digit',
      async () =>
        (await bench.rows()).every((row) => !/HK1/.test(row)) &&
        (await bench.rows()).some((row) => /HK - Lantern hake/.test(row)),
    );
    await bench.press('Undo', 'sieve-top-bar');
    await bench.until('the whole text to be gone', async () => (await steps())[0]?.settings['replace'] === '');
    await remove();
  });

  it('make holes of a template in a sample', async () => {
    await bench.add('each report', 'pull text');
    await bench.pickIn('Column', 'Item');
    await bench.pick(bench.named('Sample'), 'HK1 - Lantern hake');
    const template = await bench.field('Template');
    await bench.until(
      'the sample as template',
      async () => (await template.getAttribute('value')) === 'HK1 - Lantern hake',
    );
    const hole = async (start: number, end: number, name: string) => {
      await browser.driver.executeScript(
        'arguments[0].focus(); arguments[0].setSelectionRange(arguments[1], arguments[2])',
        template,
        start,
        end,
      );
      const field = await bench.find(bench.named('Name of the selected part'));
      await field.sendKeys(name);
      await bench.press('Make a hole', 'sieve-template-field');
      await bench.until(`the hole ${name}`, async () => (await template.getAttribute('value'))!.includes(`{${name}}`));
    };
    await hole(6, 18, 'Species');
    await hole(0, 3, 'Code');
    await bench.until('the parts as columns', async () =>
      (await bench.columns())
        .map((text) => text.split(' ')[0])
        .join()
        .includes('Item,Code,Species'),
    );
    await expect
      .poll(async () => (await bench.texts('[aria-label="What the holes hold"] li'))[0])
      .toMatch(/^Code \w+ Species /);
    await remove();
  });

  it('cut a text where it is cut in a sample', async () => {
    await bench.add('each report', 'split column');
    await bench.pickIn('Column', 'Item');
    await bench.pickIn('Cut', 'at cuts');
    await bench.clickOn('sieve-cuts-field .gap:nth-of-type(3)');
    await bench.until(
      'the cut to be saved',
      async () => JSON.stringify((await steps())[0]?.settings['cuts']) === '[3]',
    );
    await bench.until(
      'the parts as columns',
      async () =>
        (await bench.columns())
          .map((text) => text.split(' text')[0])
          .slice(1)
          .join() === 'Item 1,Item 2,Quay,Boxes',
    );
    await remove();
  });

  it('take columns by list or rule, and set numbers and switches', async () => {
    await bench.add('each report', 'pick columns');
    await bench.pickIn('Keep', 'names matching');
    await bench.fill('sieve-stack [aria-label="Keep: pattern"]', '*o*');
    await bench.until('two columns', async () => (await bench.columns()).length === 2);
    await bench.pickIn('Keep', 'names');
    await bench.tickColumns('Keep', 'Quay');
    await bench.until(
      'one column',
      async () => (await bench.columns()).length === 2 && (await bench.columns())[1].startsWith('Quay'),
    );
    await bench.clickOn(bench.named('Take Quay out'));
    await bench.until(
      'no column named',
      async () => JSON.stringify((await steps())[0]?.settings['columns']) === '{"by":"names","names":[]}',
    );
    await remove();
    await bench.add('each report', 'hold totals');
    await bench.clickOn(() => bench.field('Rows that add up'));
    await bench.until('the switch to be saved', async () => (await steps())[0]?.settings['arithmetic'] === true);
    await remove();
  });
});

describe('beside the sheet', () => {
  it('two brackets in the margin trim rows, by mouse and by keyboard', async () => {
    await bench.add('each report', 'trim rows');
    await bench.press('Set with brackets', '[aria-label="Sheet"]');
    await bench.headingIs(/^Before “Trim rows”/);
    const top = await bench.find('.bracket.top');
    await browser.driver
      .actions()
      .move({ origin: top })
      .press()
      .move({ origin: top, x: 0, y: 3 * 28 })
      .release()
      .perform();
    await bench.until('three rows trimmed', async () => (await steps())[0]?.settings['top'] === 3);
    await browser.driver.executeScript('arguments[0].focus()', await bench.find('.bracket.bottom'));
    await browser.driver.switchTo().activeElement().sendKeys(Key.ARROW_UP);
    await bench.until('one row trimmed from below', async () => (await steps())[0]?.settings['bottom'] === 1);
    await bench.press('Show the sheet after it', '[aria-label="Sheet"]');
    await bench.headingIs(/^After “Trim rows”.* 20 rows/);
    await remove();
  });

  it('the append names a column that some reports lack, and a spelling makes it one', async () => {
    await bench.until('the difference', async () =>
      (await bench.texts('sieve-stack .join')).some((text) =>
        /2 reports → 1 dataset · 2 columns not in all/.test(text),
      ),
    );
    await bench.press(/2 reports → 1 dataset/, 'sieve-stack');
    await bench.until(
      'both columns',
      async () =>
        (await bench.texts('sieve-join-panel li')).sort().join() ===
        'Boxes, not in landings-2.pdf,Crates, not in landings-1.pdf',
    );
    const field = await bench.find(bench.named('Crates becomes'));
    await field.sendKeys('Boxes', Key.TAB);
    await bench.untilText('sieve-join-panel p', /^All reports have the same columns\.$/);
    await bench.press(/1 found table|2 found tables/, 'sieve-stack');
    await bench.headingIs(/^After “Tables appended”/);
  });

  it('steps are designed on a few pages, and run on all', async () => {
    await bench.press('all pages', '[aria-label="Stack of steps"]');
    await bench.fill('#first-page', '2');
    await bench.fill('#last-page', '2');
    await bench.press('Use', '.pages');
    await bench.headingIs(/^After “Tables appended” 12 rows/);
    expect(await browser.driver.getCurrentUrl()).toContain('pages=2-2');
    await bench.press('pages 2 to 2', '[aria-label="Stack of steps"]');
    await bench.press('All', '.pages');
    await bench.headingIs(/^After “Tables appended” 24 rows/);
  });

  it('a word that a step overwrote leads to that step', async () => {
    await bench.add('each report', 'recode');
    await bench.tickColumns('In', 'Quay');
    await bench.clickOn(bench.named('Saltby becomes blank'));
    await bench.until('blank cells', async () => (await bench.rows()).every((row) => !row.includes('Saltby')));
    await bench.clickPaper([190, 128, 212, 136]);
    await bench.untilText('[aria-label="Paper"] .fate', /^“Saltby”: overwritten by “Recode”/);
    await remove();
  });
});
