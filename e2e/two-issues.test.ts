import { copyFile, readFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Serving } from '../server/house/serve';
import { asOwner } from '../server/testing/owner';
import { demoFolder, demoPipeline, someReports } from '../server/testing/folders';
import { openBrowser, type Browser } from './browser';
import { Intake } from './pages/pipeline';
import { serving } from './serving';

let server: Serving;
let browser: Browser;
let id: number;

beforeAll(async () => {
  const folder = await someReports(['week-22.pdf']);
  await copyFile(join(demoFolder, 'week-23.pdf'), join(folder, 'week-23-r2.pdf'));
  await copyFile(join(demoFolder, 'week-24.pdf'), join(folder, 'week-23-rB.pdf'));
  server = await serving(dirname(folder));
  browser = await openBrowser(server);
  const made = await asOwner(server)('/api/pipelines', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ document: JSON.parse(await readFile(demoPipeline, 'utf8')), folder }),
  });
  ({ id } = (await made.json()) as { id: number });
});
afterAll(async () => {
  await browser?.close();
  await server?.stop();
});

describe('two issues for one period, of which the names do not tell the later', () => {
  it('are named on the ruler and in the list, and one press says which counts; undo takes it back', async () => {
    await browser.driver.get(`${server.url}pipelines/${id}/intake`);
    const intake = new Intake(browser.driver);
    await intake.until('the ruler', async () => (await intake.slots()).some((slot) => /wk 23\s+two issues/.test(slot)));
    await intake.press('week-23-rB.pdf', 'sieve-take-pane');
    await intake.untilText('sieve-take-pane .needing h3', /^2 issues for 2025-W23$/);
    await intake.press('This one counts', 'sieve-take-pane');
    await intake.reportIs(/^week-23-r2\.pdf replaced\s+replaced by week-23-rB\.pdf/);
    await intake.until('the ruler', async () => (await intake.slots()).some((slot) => /wk 23\s+\d+ · rB/.test(slot)));

    await intake.press('Undo', 'sieve-top-bar');
    await intake.reportIs(/^week-23-r2\.pdf two issues/);
    await intake.press('Both count', 'sieve-take-pane');
    await intake.until(
      'both to count',
      async () => !(await intake.texts('sieve-reports-pane li')).some((text) => /two issues|replaced/.test(text)),
    );
    await expect
      .poll(async () => (await intake.texts('sieve-reports-pane li')).filter((text) => /^week-23/.test(text)))
      .toHaveLength(2);
  });
});
