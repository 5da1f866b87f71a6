// Takes the pictures of docs/screenshots anew from the demo data: `npm run screenshots`.
import { cp, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { serve } from '../server/house/serve';
import { asOwner } from '../server/testing/owner';
import { demoFolder, demoPipeline, notesFolder, notesPipeline, root } from '../server/testing/demo';
import { openBrowser } from './browser';
import { Bench, Dataset, Intake, Runs } from './pages/pipeline';
import { PipelinesScreen } from './pages/pipelines';

const data = await mkdtemp(join(tmpdir(), 'able-sieve-pictures-'));
// The folders stand in the pictures by their paths: those of the demo, not of this machine.
const folders = join(tmpdir(), 'northreach');
for (const folder of [demoFolder, notesFolder]) await cp(folder, join(folders, basename(folder)), { recursive: true });
const server = await serve({ data, host: '127.0.0.1', port: 0, roots: [folders], uploadLimit: 1, logLevel: 'error' });
const browser = await openBrowser(server);
const { driver } = browser;
const picture = async (name: string) => {
  // What was just asked for is drawn by then, and nothing is half faded in.
  await new Promise((resolve) => setTimeout(resolve, 1500));
  await writeFile(join(root, 'docs/screenshots', `${name}.png`), await driver.takeScreenshot(), 'base64');
};

try {
  const make = async (pipeline: string, folder: string, more: object = {}) => {
    const made = await asOwner(server)('/api/pipelines', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({
        document: { ...(JSON.parse(await readFile(pipeline, 'utf8')) as object), ...more },
        folder: join(folders, basename(folder)),
      }),
    });
    return ((await made.json()) as { id: number }).id;
  };
  const id = await make(demoPipeline, demoFolder);
  const place = (path: string) => driver.get(`${server.url}pipelines/${id}/${path}`);

  await place('intake?page=2');
  const intake = new Intake(driver);
  await intake.reportIs(/^week-37\.pdf .*tables found/);
  await intake.until('reading to end', async () => !(await intake.texts('.pane-head button')).includes('Stop reading'));
  await intake.refresh();
  await intake.press('Close this message');
  await intake.until('reading to end', async () => !(await intake.texts('.pane-head button')).includes('Stop reading'));
  await picture('intake');

  await place('bench?step=totals');
  const bench = new Bench(driver);
  await bench.headingIs(/^After “Hold totals”/);
  await bench.until('all reports', async () => (await bench.slots()).every((slot) => !/waiting|reading/.test(slot)));
  await bench.clickCell(3, 2);
  await picture('bench');

  const without = await make(demoPipeline, demoFolder, {
    name: 'Landings, no steps yet',
    eachTable: [],
    eachReport: [],
    allReports: [],
  });
  await driver.get(`${server.url}pipelines/${without}/bench`);
  await bench.until('all reports', async () => (await bench.slots()).every((slot) => !/waiting|reading/.test(slot)));
  await bench.untilText('sieve-proposals-panel', /Take all/);
  await bench.clickCell(2, 0);
  await bench.until('offers', async () => (await bench.all('sieve-offers-line button')).length > 0);
  await driver
    .actions()
    .move({ origin: await bench.find('sieve-offers-line button') })
    .perform();
  await bench.until('rows struck', async () => (await bench.all('td.going')).length > 0);
  await picture('proposals');
  await asOwner(server)(`/api/pipelines/${without}`, { method: 'DELETE' });

  await place('bench?step=totals');
  await bench.headingIs(/^After “Hold totals”/);
  await bench.add('each report', 'sift rows');
  await bench.press('+ condition', 'sieve-conditions');
  await bench.pick(bench.named('Where, condition 1'), 'Species');
  await bench.pick(bench.named('Test, condition 1'), 'is one of');
  await bench.until('the values', async () => (await bench.texts('sieve-value-list li')).length > 8);
  await bench.clickOn('sieve-value-list li:nth-child(3) label');
  await bench.headingIs(/^After “Sift rows” 7\d rows/);
  await bench.until('the held rows', async () => (await bench.held()).length > 0);
  await bench.clickOn('.held tbody tr:not(.space) td:nth-child(2)');
  await bench.find('.held form');
  await picture('conditions');
  await bench.press('Undo', 'sieve-top-bar');
  await bench.press('Undo', 'sieve-top-bar');

  await place('bench?step=worked');
  await bench.headingIs(/^After “Check the price/);
  await bench.until('formulas that are tried', async () => (await bench.all('sieve-formula-field table')).length >= 2);
  await bench.scrollSheet(2000);
  await picture('formula');

  await place('bench?step=types');
  await bench.headingIs(/^After “Set types”/);
  await bench.until('a line per column', async () => (await bench.texts('sieve-types-form .name')).length > 8);
  await bench.press('Week ending', 'sieve-types-form');
  await picture('types');

  await place('dataset');
  const dataset = new Dataset(driver);
  await dataset.headingIs(/885 rows/);
  await dataset.until('all reports', async () =>
    (await dataset.slots()).every((slot) => !/waiting|reading/.test(slot)),
  );
  await dataset.clickCell(6, 5);
  await dataset.until('the line as it is printed', async () => (await dataset.all('sieve-slip canvas')).length === 2);
  await picture('dataset');
  await dataset.press('1 total off', 'sieve-dataset-page');
  await dataset.until('the totals', async () => (await dataset.all('sieve-published-totals li')).length > 5);
  await dataset.clickOn('sieve-published-totals li');
  await dataset.until(
    'the total on paper',
    async () => (await dataset.all('sieve-published-totals .frame.word')).length === 1,
  );
  await picture('totals');

  await dataset.press('Checks', 'sieve-dataset-page');
  await dataset.press('Look for checks to keep', 'sieve-published-checks');
  await dataset.until(
    'the proposals',
    async () => (await dataset.all('sieve-published-checks .proposed li')).length > 3,
  );
  for (const which of [1, 1]) await dataset.clickOn(`sieve-published-checks .proposed li:nth-child(${which}) button`);
  await dataset.until('two to be kept', async () => (await dataset.all('sieve-published-checks article')).length === 2);
  await picture('checks');

  const unanswered = await make(demoPipeline, demoFolder, { name: 'Landings, not answered yet', answers: [] });
  await driver.get(`${server.url}pipelines/${unanswered}/needs`);
  await dataset.refresh();
  await dataset.press('Close this message');
  await dataset.until(
    'the heading on paper',
    async () => (await dataset.all('sieve-needs-page .frame.word')).length > 1,
  );
  await dataset.until('all reports', async () =>
    (await dataset.slots()).every((slot) => !/waiting|reading/.test(slot)),
  );
  await picture('needs');

  await place('dataset/summary');
  const summary = new Dataset(driver);
  await summary.until('figures', async () => (await summary.all('sieve-summary-page tbody td')).length > 3);
  await summary.pick('sieve-summary-page label:nth-of-type(3) p-select', 'Value');
  await summary.tickList('Columns that stand across', ['Week ending by month'], 'sieve-summary-page h2');
  await summary.until('months across', async () => (await summary.texts('sieve-summary-page thead th')).length > 4);
  await summary.until(
    'the chart',
    async () => (await summary.all('sieve-summary-page sieve-chart svg path')).length > 8,
  );
  await picture('summary');

  await place('dataset');
  await summary.until('the rows', async () => (await summary.rows()).length > 5);
  await summary.press('Ways out');
  await summary.until('the dialog', async () => (await summary.all('sieve-kept-files')).length > 0);
  await picture('ways-out');
  await summary.press('Close', '.p-dialog');

  await place('runs');
  const runs = new Runs(driver);
  await runs.until('the reports of the run', async () => (await runs.reports()).length > 10);
  await runs.until('all reports', async () => (await runs.slots()).every((slot) => !/waiting|reading/.test(slot)));
  await picture('runs');

  const notes = await make(notesPipeline, notesFolder);
  await driver.get(`${server.url}pipelines/${notes}/intake`);
  await intake.until(
    'all reports to be matched',
    async () => (await intake.strip()).filter((text) => /sure 1/.test(text)).length === 14,
  );
  await intake.refresh();
  await intake.press('Close this message');
  await intake.show('note-1046.pdf');
  await intake.press('Separators');
  await intake.until(
    'two reports to follow',
    async () =>
      (await intake.miniSheet('Sheet of note-1047.pdf')).length > 1 &&
      (await intake.miniSheet('Sheet of note-1048.pdf')).length > 1,
  );
  await picture('separators');
  await intake.press('Put back');
  await intake.press('Compare readings');
  await intake.untilText('sieve-readings-panel .counts b', /cells differ/);
  await picture('readings');

  await new PipelinesScreen(driver).open(server.url);
  await picture('pipelines');
} finally {
  await browser.close();
  await server.stop();
  await rm(folders, { recursive: true, force: true });
  await rm(data, { recursive: true, force: true });
}
