import { createHash } from 'node:crypto';
import { readdir, readFile, truncate, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { demoFolder, temporaryFolder } from '../testing/folders';
import { openPool, type Pool } from './pool';
import { reportContent, reportPage, type ReportSource } from './report-content';
import type { ReadSummary } from '../contract/answers';

const sourceOf = async (path: string): Promise<ReportSource> => ({
  file: join(demoFolder, path),
  path,
  sha256: createHash('sha256')
    .update(await readFile(join(demoFolder, path)))
    .digest('hex'),
  cacheFolder: await temporaryFolder(),
});
const source = () => sourceOf('week-24.pdf');

describe('the content of a report on disk', () => {
  it('is what was read, and is not read again', async () => {
    const report = await source();
    const first = await reportContent(report);
    const again = await reportContent(report);
    expect([first.parsed, again.parsed]).toEqual([true, false]);
    expect(again.content).toEqual(JSON.parse(JSON.stringify(first.content)));
  });

  it('of which pages were given up is read again by who has more patience', async () => {
    const report = { ...(await source()), patience: 60, skip: [{ page: 2, because: 'no progress was made for 60 s' }] };
    const first = await reportContent(report);
    expect([first.content.pages.map(({ number }) => number), first.content.problems]).toEqual([
      [1, 3, 4],
      [
        expect.objectContaining({
          kind: 'damaged',
          page: 2,
          came: expect.stringContaining('no progress was made for 60 s'),
        }),
      ],
    ]);
    // With no more patience it would be given up again.
    for (const patience of [30, 60])
      expect((await reportContent({ ...report, skip: [], patience })).parsed).toBe(false);
    const again = await reportContent({ ...report, skip: [], patience: 300 });
    expect([again.parsed, again.content.pages.length, again.content.problems]).toEqual([true, 4, []]);
    expect((await reportContent({ ...report, skip: [] })).content.pages).toHaveLength(4);
  });

  it('gives one page alone, the same whether the report was read before or not', async () => {
    const report = await source();
    const fresh = await reportPage(report, 3);
    await reportContent(report);
    const cached = await reportPage(report, 3);
    expect(cached.page).toEqual(JSON.parse(JSON.stringify(fresh.page)));
    expect(cached.pieces.map((piece) => [piece.id, piece.readings.map((reading) => reading.name)])).toEqual(
      fresh.pieces.map((piece) => [piece.id, piece.readings.map((reading) => reading.name)]),
    );
    expect(cached.pageCount).toBe(4);
    expect((await reportPage(report, 99)).page).toBeUndefined();
  });

  it('is never that of another file under the same name', async () => {
    const report = await source();
    const other = { ...report, file: join(demoFolder, 'week-25.pdf') };
    await expect(reportContent(other)).rejects.toThrow('expected the file as it was looked at, got another one since');
    await reportContent(report);
    // What was read off it before answers still, also when the file is gone.
    expect((await reportContent({ ...report, file: null })).content.pageCount).toBe(4);
    await expect(reportPage({ ...report, file: null, sha256: 'c' }, 1)).rejects.toThrow(
      'got another one since, or none',
    );
  });

  it('is read anew when the file on disk was cut short, and leaves nothing unfinished behind', async () => {
    const report = await source();
    await reportContent(report);
    const [blocks] = (await readdir(report.cacheFolder)).filter((name) => name.endsWith('.pages'));
    await truncate(join(report.cacheFolder, blocks), 500);
    expect((await reportContent(report)).parsed).toBe(true);
    await expect(
      reportContent({ ...(await sourceOf('week-33.pdf')), cacheFolder: report.cacheFolder }),
    ).rejects.toThrow('damaged');
    expect((await readdir(report.cacheFolder)).sort()).toEqual([blocks.replace('.pages', '.json'), blocks]);
  });
});

describe('reading in a thread', () => {
  let pool: Pool;
  beforeAll(() => (pool = openPool(1)));
  afterAll(() => pool.close());

  it('tells of pages and tables while it reads, and a page can be looked at meanwhile', async () => {
    const report = { ...(await source()), key: '1', path: 'week-24.pdf' };
    const told: { done: number; pages: number[]; tables: string[] }[] = [];
    const work = pool.run(
      'read',
      { source: report },
      {
        progress: ({ done, found }) =>
          told.push({
            done,
            pages: found.pages.map((page) => page.number),
            tables: found.tables.map((table) => table.id),
          }),
      },
    );
    const aside = await pool.run('page', { source: report, number: 2 });
    expect(aside).toMatchObject({ pageCount: 4, page: { number: 2 } });
    const summary = (await work) as ReadSummary;
    expect(told.flatMap((each) => each.pages)).toEqual(summary.pages.map((page) => page.number));
    expect(new Set(told.flatMap((each) => each.tables))).toEqual(new Set(summary.tables.map((table) => table.id)));
  });

  it('stops within half a second when told to', async () => {
    const long = join(await temporaryFolder(), 'register.pdf');
    await writeFile(long, await readFile(join(demoFolder, '../vessel-register/register-2025.pdf')));
    const abort = new AbortController();
    const work = pool.run(
      'read',
      {
        source: {
          file: long,
          sha256: createHash('sha256')
            .update(await readFile(long))
            .digest('hex'),
          cacheFolder: await temporaryFolder(),
          key: '1',
          path: 'register.pdf',
        },
      },
      {
        signal: abort.signal,
        progress: ({ done }) => done === 5 && abort.abort(),
      },
    );
    await expect(work).rejects.toThrow();
    // The thread is free for other work, not at the end of 300 pages.
    await expect(
      pool.run('page', { source: { ...(await source()), key: '1', path: 'x' }, number: 1 }),
    ).resolves.toMatchObject({ pageCount: 4 });
  });
});
