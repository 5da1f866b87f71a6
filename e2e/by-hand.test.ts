import { cp, mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { By, Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { northOffice } from '../demo/layout';
import { pdfkitPen } from '../demo/pdfkit-pen';
import { scanPen } from '../demo/scan';
import type { Pipeline } from '../core/pipeline/document';
import type { PipelineFull, PipelineSummary } from '../server/contract/contract';
import type { Serving } from '../server/house/serve';
import { asOwner } from '../server/testing/owner';
import { notesFolder, temporaryFolder } from '../server/testing/folders';
import { openBrowser, type Browser } from './browser';
import { Bench, Intake } from './pages/pipeline';
import { PipelinesScreen } from './pages/pipelines';
import { serving } from './serving';

let server: Serving;
let browser: Browser;
const notes = ['note-1041.pdf', 'note-1043.pdf', 'note-1044.pdf'];
const paper = [595.28, 841.89] as const;

/** A table with so much room in its middle that it is found in two halves. */
async function halves(file: string, first: string) {
  const { pen, end } = pdfkitPen(northOffice, 'Berths', new Date('2025-01-06T09:00:00Z'));
  pen.newPage();
  const rows = [
    ['Berth', 'Length', 'Depth'],
    [first, '110.0', '6.2'],
    ['N2', '95.5', '5.8'],
    ['N3', '60.0', '4.0'],
    ['S1', '140.0', '7.5'],
    ['S2', '132.5', '7.1'],
    ['S3', '88.0', '5.5'],
  ];
  rows.forEach((row, i) =>
    row.forEach((text, column) =>
      pen.text(text, 60 + column * 90, 120 + i * 16 + (i > 3 ? 44 : 0), 9, i === 0 ? 'bold' : undefined),
    ),
  );
  await writeFile(file, await end());
}

beforeAll(async () => {
  const root = await temporaryFolder();
  await mkdir(join(root, 'notes'));
  for (const name of notes) await cp(join(notesFolder, name), join(root, 'notes', name));
  await mkdir(join(root, 'berths'));
  await halves(join(root, 'berths', 'berths-1.pdf'), 'N1');
  await halves(join(root, 'berths', 'berths-2.pdf'), 'W1');
  server = await serving(root);
  browser = await openBrowser(server);
  const home = new PipelinesScreen(browser.driver);
  await home.open(server.url);
  await home.make('Notes', 'notes', '', '');
});
afterAll(async () => {
  await browser?.close();
  await server?.stop();
});

async function documentOf(name: string): Promise<Pipeline> {
  const { id } = ((await (await asOwner(server)('/api/pipelines')).json()) as PipelineSummary[]).find(
    (each) => each.name === name,
  )!;
  return ((await (await asOwner(server)(`/api/pipelines/${id}`)).json()) as PipelineFull).document as Pipeline;
}
const saved = async (intake: Intake, name: string, holds: (document: Pipeline) => boolean) => {
  await intake.until(`the document of ${name} to be saved`, async () => holds(await documentOf(name)));
  return documentOf(name);
};

describe('reading put right by hand', () => {
  it('moves a separator, and two other reports follow while it is dragged', async () => {
    const intake = new Intake(browser.driver);
    await intake.reportIs(/^note-1044\.pdf read/);
    await intake.take('Stays');
    await intake.card('Stays');
    await intake.until(
      'all reports to be matched',
      async () => (await intake.strip()).filter((text) => /sure 1/.test(text)).length === 3,
    );
    await intake.press('Separators');
    await intake.until(
      'two reports to follow',
      async () =>
        (await intake.miniSheet('Sheet of note-1044.pdf')).length > 1 &&
        (await intake.miniSheet('Sheet of note-1043.pdf')).length > 1,
    );
    const before = await intake.miniSheet('Sheet of note-1043.pdf');
    expect(before[0]).toBe('Berth | From | To | Description | Units | Rate | Amount');
    await expect.poll(() => intake.tabs()).toHaveLength(6);
    // The separator between Units and Rate goes to the right, past the rates.
    await intake.dragTab(4, 45);
    await intake.until('the sheets to follow', async () =>
      (await intake.miniSheet('Sheet of note-1043.pdf'))[0].includes('Units Rate'),
    );
    await expect
      .poll(async () => (await intake.miniSheet('Sheet of note-1044.pdf'))[0])
      .toBe('Berth | From | To | Description | Units Rate |  | Amount');
    const tab = (await intake.tabs())[4];
    await tab.sendKeys(Key.DELETE);
    await intake.until('one column less', async () => (await intake.tabs()).length === 5);
    await intake.press('Put back');
    await expect.poll(async () => (await documentOf('Notes')).take[0].reading).toBe('best');
  });

  it('keeps separators for all reports, moved by the keyboard', async () => {
    const intake = new Intake(browser.driver);
    await intake.press('Separators');
    await intake.until('the tabs', async () => (await intake.tabs()).length === 6);
    const at = async () =>
      Number(/at ([\d.]+) points/.exec((await (await intake.tabs())[3].getAttribute('aria-label'))!)![1]);
    const from = await at();
    await (await intake.tabs())[3].sendKeys(Key.ARROW_RIGHT, Key.ARROW_RIGHT);
    await intake.until('the tab to move', async () => Math.abs((await at()) - from - 2) < 0.01);
    await intake.press('Use for all reports');
    const { take } = await saved(intake, 'Notes', (document) => document.take[0].reading === 'drawn');
    expect(take[0].drawing!.columns).toHaveLength(6);
    expect(take[0].drawing!.anchors.map(({ text }) => text)).toContain('Description');
    await intake.until('every report to be read as drawn', async () =>
      (await intake.texts('sieve-take-card'))[0].includes('Separators put by hand part 7 columns'),
    );
  });

  it('compares readings and chooses one for one report only', async () => {
    const intake = new Intake(browser.driver);
    await intake.press('Compare readings');
    await intake.untilText('sieve-readings-panel .counts b', /cells? differ/);
    await expect.poll(() => intake.texts('sieve-readings-panel section')).toHaveLength(2);
    await intake.clickOn('sieve-readings-panel section:last-of-type .acts .p-button-outlined');
    const { take } = await saved(intake, 'Notes', (document) => document.take[0].readingIn.length === 1);
    expect(take[0]).toMatchObject({ reading: 'drawn', readingIn: [{ report: 'note-1041.pdf', reading: 'aligned' }] });
    await intake.until('the card to say so', async () =>
      (await intake.texts('sieve-take-card dl'))[0].includes('Only here'),
    );
  });

  it('takes a value by pointing, and stamps another', async () => {
    const intake = new Intake(browser.driver);
    await intake.press('Point at a value');
    await intake.find('sieve-labels-panel');
    await intake.until('the page to be drawn', async () => (await intake.all('sieve-paper .wait')).length === 0);
    await intake.until('the label to be proposed', async () => {
      await intake.point([440, 74], paper);
      return (await intake.text('sieve-labels-panel .card')).startsWith('BN-1041 stands beside Note number:');
    });
    await intake.press('Take as a value of the report');
    await intake.point([440, 87], paper);
    await intake.untilText('sieve-labels-panel .card', /^4 April 2025 stands beside Note date:/);
    await intake.press('Stamp it on every row');
    const document = await saved(
      intake,
      'Notes',
      ({ take, eachReport }) => take.length === 2 && eachReport.length === 1,
    );
    expect(document.take[1]).toMatchObject({
      of: 'labels',
      labels: [{ name: 'Note number', label: 'Note number:', side: 'right' }],
    });
    expect(document.eachReport[0]).toMatchObject({
      kind: 'stamp',
      settings: { from: 'label', label: 'Note date:', column: 'Note date' },
    });
    await intake.until(
      'the value in every report',
      async () => (await intake.strip()).filter((text) => /^p\. 1 sure 1$/.test(text)).length === 6,
    );
  });

  it('draws an area where a table is wanted', async () => {
    const intake = new Intake(browser.driver);
    await intake.press('Draw an area');
    await intake.find('sieve-paper .draws');
    // The three lines of labels and values under the head.
    await intake.drawArea([40, 60], [300, 104], paper);
    await intake.until('the sheet of the area', async () =>
      (await intake.miniSheet('Sheet of this page')).includes('Vessel: | Loyal Petrel'),
    );
    await intake.until('another report to follow', async () =>
      (await intake.miniSheet('Sheet of note-1043.pdf')).some((row) => row.startsWith('Vessel: |')),
    );
    await intake.press('Use for all reports');
    const { take } = await saved(intake, 'Notes', (document) => document.take.length === 3);
    expect(take[2]).toMatchObject({ of: 'area', reading: 'drawn' });
    await intake.card('Area of page 1');
  });

  it('finds a text in all reports and opens it there', async () => {
    const intake = new Intake(browser.driver);
    const field = await intake.find('#find-text');
    await field.sendKeys('NIGHT crew', Key.ENTER);
    await intake.untilText('sieve-find-box p', /^\d+ places in \d reports/);
    await intake.press('Next hit', 'sieve-find-box');
    await intake.press('Next hit', 'sieve-find-box');
    await intake.until(
      'the hit on paper and on the strip',
      async () =>
        (await intake.all('sieve-paper .hit')).length > 0 && (await intake.all('sieve-page-strip .hits')).length > 0,
    );
    await intake.press('Clear', 'sieve-find-box');
    await intake.until('no hit to be shown', async () => (await intake.all('sieve-paper .hit')).length === 0);
  });

  it('shows at the bench what the drawn reading gives', async () => {
    const intake = new Intake(browser.driver);
    for (const name of ['Values by label', 'Area of page 1']) {
      const cards = await intake.cards();
      await intake.clickOn(async () =>
        (await intake.all('sieve-take-card'))[cards.indexOf(name)].findElement(By.css('.acts .p-button-text')),
      );
      await intake.until(`${name} to be left out`, async () => !(await intake.cards()).includes(name));
    }
    await intake.show('note-1043.pdf');
    await intake.goTo('Bench');
    const bench = new Bench(browser.driver);
    await bench.until('the stamp', async () => (await bench.columns()).some((text) => text.startsWith('Note date')));
    // A value is taken from the paper of the bench as well.
    await bench.readPaper();
    await bench.until('the value to be offered', async () => {
      await bench.clickPaper([438, 72, 442, 76]);
      return (await bench.texts('.fate button')).includes('Take it as the value of “Note number:”');
    });
    await bench.press('Take it as the value of “Note number:”', '.fate');
    await saved(intake, 'Notes', ({ take }) =>
      take.some(({ of, labels }) => of === 'labels' && labels[0].name === 'Note number'),
    );
    await bench.untilText('.fate', /^“BN-104\d”: row \d+, Note number/);
    await bench.press('Undo', 'sieve-top-bar');
    await saved(intake, 'Notes', ({ take }) => take.every(({ of }) => of !== 'labels'));
  });

  it('tells that a table goes on in another found table, and joins the two in every report', async () => {
    const home = new PipelinesScreen(browser.driver);
    await home.open(server.url);
    await home.make('Berths', 'berths', '', '');
    const intake = new Intake(browser.driver);
    await intake.reportIs(/^berths-2\.pdf .*2 tables found/);
    await intake.press(/^take: Berth, Length, Depth/, 'sieve-paper');
    await intake.until('the card to tell where the table goes on', async () =>
      (await intake.text('sieve-take-card .rest')).includes('Goes on in another found table below, on page 1: join?'),
    );
    await expect.poll(async () => (await intake.strip()).filter((text) => /sure 0\.7/.test(text))).toHaveLength(2);
    await intake.press('Join in all reports');
    await saved(intake, 'Berths', (document) => document.take[0]?.join?.place === 'below');
    await intake.until(
      'all to be sure',
      async () => (await intake.strip()).filter((text) => /sure 1/.test(text)).length === 2,
    );
    await intake.until(
      'both halves to be taken',
      async () => (await intake.all('sieve-paper .ticks.taken')).length === 2,
    );
    await intake.goTo('Bench');
    const bench = new Bench(browser.driver);
    await bench.headingIs(/7 rows/);
  });

  it('names a picture that may hold a table', async () => {
    const { pen, end } = scanPen(northOffice);
    pen.newPage();
    pen.text('A table in a picture', 60, 120, 20);
    const home = new PipelinesScreen(browser.driver);
    await home.open(server.url);
    const { id } = ((await (await asOwner(server)('/api/pipelines')).json()) as PipelineSummary[]).find(
      (each) => each.name === 'Berths',
    )!;
    const folder = ((await (await asOwner(server)(`/api/pipelines/${id}`)).json()) as PipelineFull).folder;
    await writeFile(join(folder, 'berths-3.pdf'), await end('Scan', new Date('2025-01-06T09:00:00Z')));
    await browser.driver.get(new URL(`/pipelines/${id}/intake`, server.url).href);
    const intake = new Intake(browser.driver);
    await intake.reportIs(/^berths-3\.pdf scanned/);
    await intake.show('berths-3.pdf');
    await intake.until('the picture named on the paper', async () =>
      (await intake.text('sieve-paper .unread')).includes('a picture that may hold a table'),
    );
    await expect.poll(() => intake.text('sieve-intake-page .needing')).toContain('1 picture that may hold a table');
  });
});
