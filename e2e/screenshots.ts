// Takes the pictures of docs/screenshots anew from the demo data: `npm run screenshots`.
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { serve } from '../server/serve';
import { demoFolder, demoPipeline, root } from '../server/testing/demo';
import { openBrowser } from './browser';
import { Bench, Dataset, Intake, Runs } from './pages/pipeline';
import { PipelinesScreen } from './pages/pipelines';

const data = await mkdtemp(join(tmpdir(), 'able-sieve-pictures-'));
const { url, stop } = await serve({ data, host: '127.0.0.1', port: 0, roots: [demoFolder], uploadLimit: 1, logLevel: 'error' });
const browser = await openBrowser();
const { driver } = browser;
const picture = async (name: string) => {
  // What was just asked for is drawn by then, and nothing is half faded in.
  await new Promise((resolve) => setTimeout(resolve, 1500));
  await writeFile(join(root, 'docs/screenshots', `${name}.png`), await driver.takeScreenshot(), 'base64');
};

try {
  const made = await fetch(new URL('/api/pipelines', url), {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ document: JSON.parse(await readFile(demoPipeline, 'utf8')), folder: demoFolder }),
  });
  const { id } = (await made.json()) as { id: number };
  const place = (path: string) => driver.get(`${url}pipelines/${id}/${path}`);

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
  await (await bench.cell(3, 2)).click();
  await picture('bench');

  await place('dataset');
  const dataset = new Dataset(driver);
  await dataset.headingIs(/885 rows/);
  await dataset.until('all reports', async () => (await dataset.slots()).every((slot) => !/waiting|reading/.test(slot)));
  await (await dataset.cell(6, 5)).click();
  await dataset.find('sieve-paper .frame.word');
  await picture('dataset');

  await place('runs');
  const runs = new Runs(driver);
  await runs.until('the reports of the run', async () => (await runs.reports()).length > 10);
  await runs.until('all reports', async () => (await runs.slots()).every((slot) => !/waiting|reading/.test(slot)));
  await picture('runs');

  await new PipelinesScreen(driver).open(url);
  await picture('pipelines');
} finally {
  await browser.close();
  await stop();
  await rm(data, { recursive: true, force: true });
}
