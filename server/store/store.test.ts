import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { root, temporaryFolder } from '../testing/folders';
import { FolderInUse, lockFolder } from './lock';
import { migrate } from './migrate';
import { openPglite } from './pglite-store';
import type { Store } from './store';

describe('the lock of a data folder', () => {
  it('keeps a second holder out with a clear sentence, and lets go', async () => {
    const folder = await temporaryFolder();
    const unlock = await lockFolder(folder);
    await expect(lockFolder(folder)).rejects.toThrow(`The data folder ${folder} is in use by another Able Sieve (process ${process.pid})`);
    await unlock();
    await (await lockFolder(folder))();
  });

  it('is taken over from a process that is gone, and from a pid that is another program by now', async () => {
    const folder = await temporaryFolder();
    await writeFile(join(folder, 'lock'), JSON.stringify({ pid: 2 ** 22 - 3 }));
    const unlock = await lockFolder(folder);
    expect(JSON.parse(await readFile(join(folder, 'lock'), 'utf8'))).toMatchObject({ pid: process.pid });
    await unlock();
    await writeFile(join(folder, 'lock'), JSON.stringify({ pid: process.pid, start: 'long ago' }));
    await (await lockFolder(folder))();
  });

  it('holds against another process', async () => {
    const folder = await temporaryFolder();
    const store = await openPglite(folder);
    try {
      const child = spawn(process.execPath, ['bin/able-sieve.mjs', 'trace', 'x', '1', 'y', '--data', folder], { cwd: root });
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
    const [row] = await store.query("select 0.1::numeric(20,17) as n, 9007199254740993::bigint as b, date '2025-06-14' as d, timestamp '2025-06-14 10:00' as t");
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
    const other = store.query<{ count: string }>('select count(*) from whole').then(([row]) => order.push(`others see ${row.count}`));
    await expect(failing).rejects.toThrow('no_such_column');
    await other;
    expect(order).toEqual(['inside', 'others see 0']);
  });

  it('copies in and out, quotes and blanks included', async () => {
    await store.script('create table t (a text, b numeric)');
    await store.copyIn('t', ['a', 'b'], '"say ""x"", twice",1.50\n"",\n,2\n');
    expect(await store.query('select * from t')).toEqual([{ a: 'say "x", twice', b: '1.50' }, { a: '', b: null }, { a: null, b: '2' }]);
    expect(Buffer.from(await store.copyOut('select a, b from t')).toString()).toBe('"say ""x"", twice",1.50\n"",\n,2\n');
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

  it('migrates once, and refuses data of a newer program', async () => {
    await migrate(store);
    await migrate(store);
    expect(await store.query('select version from schema_version')).toEqual([{ version: 1 }]);
    await store.execute('insert into schema_version (version) values (99)');
    await expect(migrate(store)).rejects.toThrow('written by a newer Able Sieve');
  });

  it('says that it is closed when asked later', async () => {
    await store.close();
    await expect(store.query('select 1')).rejects.toThrow('The database is closed.');
  });
});
