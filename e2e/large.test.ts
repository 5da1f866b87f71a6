import { cp, mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { parsePipeline } from '../core/pipeline/document';
import { openHouse } from '../server/house/open';
import { cacheIn } from '../server/setup/config';
import { serve, type Serving } from '../server/house/serve';
import { addPipeline } from '../server/store/pipelines';
import { root, temporaryFolder } from '../server/testing/folders';
import { publishMade } from '../server/testing/rows';
import { openBrowser, type Browser } from './browser';
import { Dataset, Intake } from './pages/pipeline';

const rows = 1_000_000;
const columns = 200;
let server: Serving;
let browser: Browser;
let ids: number[];

beforeAll(async () => {
  const data = await temporaryFolder();
  const house = await openHouse(data, cacheIn(data));
  const pipeline = async (name: string, folder: string) =>
    (
      await addPipeline(
        house.store,
        parsePipeline({ format: 'able-sieve/pipeline', version: 1, name, take: [] }),
        folder,
      )
    ).id;
  const reports = join(data, 'reports');
  await mkdir(reports);
  await cp(join(root, 'bench/truth/big-pdfkit-01.pdf'), join(reports, 'listing.pdf'));
  const empty = join(data, 'empty');
  await mkdir(empty);
  ids = [await pipeline('Long', empty), await pipeline('Wide', empty), await pipeline('Listing', reports)];
  await publishMade(house.store, ids[0], rows);
  await publishMade(house.store, ids[1], 500, { extra: columns - 2 });
  await house.close();
  server = await serve({ data, host: '127.0.0.1', port: 0, roots: [data], uploadLimit: 1, logLevel: 'silent' });
  browser = await openBrowser(server);
});
afterAll(async () => {
  await browser?.close();
  await server?.stop();
});

const scrollTo = (top: string, left = '0') =>
  browser.driver.executeScript(
    `const f = document.querySelector('sieve-grid .frame'); f.scrollTop = ${top}; f.scrollLeft = ${left};`,
  );

describe('a large dataset in the browser', () => {
  it('shows any of 1,000,000 rows by windows, under a heading that stays', async () => {
    const dataset = new Dataset(browser.driver);
    await browser.driver.get(`${server.url}pipelines/${ids[0]}/dataset`);
    await dataset.headingIs(/^Dataset 1,000,000 rows, 2 columns/);
    await dataset.until('the first row', async () => /V1-0 0\.5$/.test((await dataset.rows())[0] ?? ''));
    const drawn = (await dataset.rows()).length;
    expect(drawn).toBeLessThan(60);

    await scrollTo('f.scrollHeight / 2');
    await dataset.until('rows of the middle', async () =>
      (await dataset.rows()).some((row) => /V1-(?:499|500)\d{3} /.test(row)),
    );
    await scrollTo('f.scrollHeight');
    await dataset.until('the last row', async () =>
      (await dataset.rows()).some((row) => row.endsWith('V1-999999 999,999.5')),
    );
    expect((await dataset.rows()).length).toBeLessThan(60);
    const [frame, head] = await browser.driver.executeScript<[number, number]>(
      'return [document.querySelector("sieve-grid .frame"), document.querySelector("sieve-grid thead th")].map((e) => e.getBoundingClientRect().top)',
    );
    expect(Math.abs(frame - head)).toBeLessThanOrEqual(1);
    // The last row stands inside the frame, not below it.
    const inside = await browser.driver.executeScript<boolean>(
      'const f = document.querySelector("sieve-grid .frame").getBoundingClientRect(); return [...document.querySelectorAll("sieve-grid tbody tr:not(.space)")].at(-1).getBoundingClientRect().bottom <= f.bottom + 2',
    );
    expect(inside).toBe(true);
  });

  it('shows any of 200 columns, drawing those in sight', async () => {
    const dataset = new Dataset(browser.driver);
    await browser.driver.get(`${server.url}pipelines/${ids[1]}/dataset`);
    await dataset.headingIs(/^Dataset 500 rows, 200 columns/);
    await dataset.until('the first row', async () => /V1-0 0\.5 1 2 3/.test((await dataset.rows())[0] ?? ''));
    expect((await dataset.all('sieve-grid thead th')).length).toBeLessThan(40);
    await scrollTo('0', 'f.scrollWidth');
    await dataset.until('the last column', async () =>
      (await dataset.texts('sieve-grid thead th')).some((text) => text.startsWith('Extra 198')),
    );
    await dataset.until('its cells', async () => (await dataset.rows())[1]?.endsWith(' 198 199') ?? false);
    expect((await dataset.all('sieve-grid thead th')).length).toBeLessThan(40);
  });

  it('reads a report of 300 pages with progress by page, and stops when told to', async () => {
    const intake = new Intake(browser.driver);
    await browser.driver.get(`${server.url}pipelines/${ids[2]}/intake`);
    await intake.reportIs(/^listing\.pdf reading page \d+ of 300/);
    await intake.press('Stop reading', 'sieve-intake-page');
    await intake.reportIs(/^listing\.pdf not read/);
    await expect.poll(() => intake.texts('.pane-head button')).toContain('Look again');
  });
});
