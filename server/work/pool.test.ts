import { createHash } from 'node:crypto';
import { readdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { demoFolder, demoPipeline, root, temporaryFolder } from '../testing/folders';
import { heavyPaper } from '../testing/heavy-paper';
import { openPool, StandsStill, type Pool } from './pool';
import type { ReportTask } from './session';
import { Stopping } from './stopping';

let pool: Pool;
let document: string;
beforeAll(async () => {
  pool = openPool(1);
  document = await readFile(demoPipeline, 'utf8');
});
afterAll(() => pool.close());

const source = async (path: string): Promise<ReportTask> => ({
  file: join(demoFolder, path),
  path,
  key: '1',
  sha256: createHash('sha256')
    .update(await readFile(join(demoFolder, path)))
    .digest('hex'),
  cacheFolder: await temporaryFolder(),
});

describe('a pool that is closed', () => {
  it('tells who waits, in a thread or in the line, that it stops, and takes nothing more', async () => {
    const closed = openPool(1);
    await closed.started();
    const one = await source('week-24.pdf');
    const waiting = [
      ...Array.from({ length: 4 }, () => closed.run('summary', { document, source: one })),
      ...Array.from({ length: 2 }, () => closed.look('layers', { document, source: one })),
    ].map((each) => each.then(() => undefined).catch((error: unknown) => error));
    await closed.close();
    const told = await Promise.all([...waiting, closed.run('read', { source: one }).catch((error: unknown) => error)]);
    expect(told.map((error) => error instanceof Stopping)).toEqual(told.map(() => true));
  });
});

describe('looks in line', () => {
  it('are passed over once nobody waits for them, and those behind them are answered', async () => {
    const abort = new AbortController();
    const [one, two, three] = [await source('week-22.pdf'), await source('week-23.pdf'), await source('week-24.pdf')];
    const answers = [
      pool.look('layers', { document, source: one }),
      pool.look('layers', { document, source: two }, { signal: abort.signal }),
      pool.look('layers', { document, source: three }),
    ];
    abort.abort();
    const [first, second, third] = await Promise.allSettled(answers);
    expect([first.status, second.status, third.status]).toEqual(['fulfilled', 'rejected', 'fulfilled']);
    // What was looked at left its reading in the cache; what was passed over was not read.
    expect(await readdir(three.cacheFolder)).toHaveLength(2);
    expect(await readdir(two.cacheFolder)).toEqual([]);
  });

  it('say which report cannot be read, and why, as data', async () => {
    const answer = await pool.look('layers', { document, source: await source('week-33.pdf') });
    expect(answer).toMatchObject({ unreadable: { kind: 'damaged', report: 'week-33.pdf' } });
  });

  it('leave no thread ended and no half file behind when the asker leaves, and others go on at once', async () => {
    const folder = await temporaryFolder();
    const bytes = await readFile(join(root, 'demo/vessel-register/register-2025.pdf'));
    await writeFile(join(folder, 'register.pdf'), bytes);
    const task = {
      file: join(folder, 'register.pdf'),
      path: 'register.pdf',
      key: '1',
      sha256: createHash('sha256').update(bytes).digest('hex'),
      cacheFolder: await temporaryFolder(),
    };
    const leaves = new AbortController();
    const pages: number[] = [];
    const reading = pool.run(
      'read',
      { source: task },
      {
        signal: leaves.signal,
        progress: ({ done }) => {
          pages.push(done);
          if (done > 10) leaves.abort(new Error('left'));
        },
      },
    );
    await expect(reading).rejects.toThrow('left');
    // The thread ends what nobody waits for, and what it was writing goes with it.
    for (let tries = 0; tries < 200 && (await readdir(task.cacheFolder)).length > 0; tries++)
      await new Promise((resolve) => setTimeout(resolve, 50));
    expect(await readdir(task.cacheFolder)).toEqual([]);
    expect(Math.max(...pages)).toBeLessThan(300);
    expect(await pool.run('read', { source: await source('week-26.pdf') })).toMatchObject({ problems: [] });
  });

  it('skip a page that never comes to an end and name it; the others are read', async () => {
    const folder = await temporaryFolder();
    const bytes = await heavyPaper(2_000_000);
    await writeFile(join(folder, 'heavy.pdf'), bytes);
    const task = {
      file: join(folder, 'heavy.pdf'),
      path: 'heavy.pdf',
      key: '1',
      sha256: createHash('sha256').update(bytes).digest('hex'),
      cacheFolder: await temporaryFolder(),
    };
    const impatient = openPool(1, 6_000);
    try {
      const read = await impatient.run('read', { source: task });
      expect(read).toMatchObject({
        pageCount: 3,
        problems: [
          {
            kind: 'damaged',
            page: 2,
            came: expect.stringContaining('no progress was made for 6 s'),
            remedy: expect.stringContaining('the other pages were read'),
          },
        ],
      });
      expect('tables' in read && read.tables.map(({ pieces }) => pieces.map(({ page }) => page)).flat()).toEqual([
        1, 3,
      ]);
      // It was given up once; who asks again is answered from what was read.
      const began = performance.now();
      expect(await impatient.run('carry', { document, source: task, part: null })).toMatchObject({
        heldBack: [{ page: 2 }],
      });
      expect(performance.now() - began).toBeLessThan(6_000);
    } finally {
      await impatient.close();
    }
  });

  it('are ended with their thread when they stand still, and the next is answered', async () => {
    const impatient = openPool(1, 1);
    try {
      // Reading begins, and takes longer than this pool waits.
      await expect(impatient.look('layers', { document, source: await source('week-25.pdf') })).rejects.toThrow(
        StandsStill,
      );
    } finally {
      await impatient.close();
    }
    const patient = openPool(1, 60_000);
    try {
      expect(await patient.look('layers', { document, source: await source('week-25.pdf') })).toMatchObject({
        problems: [],
      });
    } finally {
      await patient.close();
    }
  });
});
