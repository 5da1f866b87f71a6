import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { root, temporaryFolder } from '../testing/folders';
import { FolderInUse, lockFolder } from './lock';
import { migrate } from './migrate';
import { openPglite } from './pglite-store';
import { pipelineById, versionsOf } from './pipelines';
import { runById } from './runs';
import type { Store } from './store';

describe('the lock of a data folder', () => {
  it('keeps a second holder out with a clear sentence, and lets go', async () => {
    const folder = await temporaryFolder();
    const unlock = await lockFolder(folder);
    await expect(lockFolder(folder)).rejects.toThrow(
      `The data folder ${folder} is in use by another Able Sieve (process ${process.pid})`,
    );
    await unlock();
    await (
      await lockFolder(folder)
    )();
  });

  it('is taken over from a process that is gone, and from a pid that is another program by now', async () => {
    const folder = await temporaryFolder();
    await writeFile(join(folder, 'lock'), JSON.stringify({ pid: 2 ** 22 - 3 }));
    const unlock = await lockFolder(folder);
    expect(JSON.parse(await readFile(join(folder, 'lock'), 'utf8'))).toMatchObject({ pid: process.pid });
    await unlock();
    await writeFile(join(folder, 'lock'), JSON.stringify({ pid: process.pid, start: 'long ago' }));
    await (
      await lockFolder(folder)
    )();
  });

  it('holds against another process', async () => {
    const folder = await temporaryFolder();
    const store = await openPglite(folder);
    try {
      const child = spawn(process.execPath, ['bin/able-sieve.mjs', 'trace', 'x', '1', 'y', '--data', folder], {
        cwd: root,
      });
      let said = '';
      child.stderr.on('data', (chunk) => (said += chunk));
      const [code] = (await once(child, 'exit')) as [number];
      expect([code, said]).toEqual([1, expect.stringContaining('in use by another Able Sieve')]);
      await expect(openPglite(folder)).rejects.toThrow(FolderInUse);
    } finally {
      await store.close();
    }
  });
});

describe('the store', () => {
  let store: Store;
  beforeAll(async () => void (store = await openPglite()));
  afterAll(() => store.close().catch(() => undefined));

  it('gives exact and calendar values as text', async () => {
    const [row] = await store.query(
      "select 0.1::numeric(20,17) as n, 9007199254740993::bigint as b, date '2025-06-14' as d, timestamp '2025-06-14 10:00' as t",
    );
    expect(row).toEqual({ n: '0.10000000000000000', b: '9007199254740993', d: '2025-06-14', t: '2025-06-14 10:00:00' });
  });

  it('keeps transactions whole: others wait, a failure takes everything back', async () => {
    await store.script('create table whole (n integer)');
    const order: string[] = [];
    const failing = store.transaction(async (session) => {
      await session.execute('insert into whole values (1)');
      order.push('inside');
      await session.query('select no_such_column from whole');
    });
    const other = store
      .query<{ count: string }>('select count(*) from whole')
      .then(([row]) => order.push(`others see ${row.count}`));
    await expect(failing).rejects.toThrow('no_such_column');
    await other;
    expect(order).toEqual(['inside', 'others see 0']);
  });

  it('copies in and out, quotes and blanks included', async () => {
    await store.script('create table t (a text, b numeric)');
    await store.copyIn('t', ['a', 'b'], '"say ""x"", twice",1.50\n"",\n,2\n');
    expect(await store.query('select * from t')).toEqual([
      { a: 'say "x", twice', b: '1.50' },
      { a: '', b: null },
      { a: null, b: '2' },
    ]);
    expect(Buffer.from(await store.copyOut('select a, b from t')).toString()).toBe(
      '"say ""x"", twice",1.50\n"",\n,2\n',
    );
  });

  it('tells listeners what is notified', async () => {
    const heard: string[] = [];
    const stop = await store.listen('news', (payload) => heard.push(payload));
    await store.notify('news', 'one');
    await stop();
    await store.notify('news', 'two');
    await store.query('select 1');
    expect(heard).toEqual(['one']);
  });

  it('brings the data of the first program along: documents as versions, sentences as problems, rows that know less', async () => {
    const old = await openPglite();
    await old.script(
      `create table schema_version (version integer not null); insert into schema_version values (1); ${await readFile(new URL('./migrations/001-start.sql', import.meta.url), 'utf8')}`,
    );
    await old.execute(
      "insert into pipeline (name, document, folder, view_name) values ('Sheets', $1, '/nowhere', 'sheets')",
      [JSON.stringify({ format: 'able-sieve/pipeline', version: 1, name: 'Sheets', take: [] })],
    );
    await old.script(`
      create table data_1 (part integer not null, ordinal integer not null, report integer not null, report_ordinal integer not null, page integer not null, code text, primary key (part, ordinal));
      insert into data_1 values (1, 0, 7, 0, 2, 'HK1');
      insert into run (pipeline, state, message) values (1, 'failed', 'it broke.');
      insert into run_report (run, report, position, path, state, parsed, rows, held, misfits, details) values (1, 7, 0, 'a.pdf', 'failed', false, 0, 0, 0, '{"matches":[],"layers":[],"problems":["a.pdf is damaged."]}');
    `);
    await migrate(old);
    expect(await pipelineById(old, 1)).toMatchObject({ version: 1, document: { name: 'Sheets' } });
    expect(await versionsOf(old, 1, 9)).toMatchObject([{ version: 1, savedBy: '' }]);
    expect(await old.query('select code, source_table, source_row from data_1')).toEqual([
      { code: 'HK1', source_table: '', source_row: -1 },
    ]);
    const run = (await runById(old, 1))!;
    expect(run.run.notes).toEqual([{ kind: 'failed', error: 'it broke.' }]);
    expect(run.reports[0].problems.map((each) => each.came)).toEqual(['a.pdf is damaged.']);
    await old.close();
  });

  it('migrates once, and refuses data of a newer program', async () => {
    await migrate(store);
    await migrate(store);
    expect(await store.query('select version from schema_version')).toEqual(
      [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11].map((version) => ({ version })),
    );
    await store.execute('insert into schema_version (version) values (99)');
    await expect(migrate(store)).rejects.toThrow('written by a newer Able Sieve');
  });

  it('says that it is closed when asked later', async () => {
    await store.close();
    await expect(store.query('select 1')).rejects.toThrow('The database is closed.');
  });
});
