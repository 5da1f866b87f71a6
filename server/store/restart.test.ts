import { rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { afterEach, describe, expect, it } from 'vitest';
import { temporaryFolder } from '../testing/folders';
import { openPglite } from './pglite-store';
import type { Store } from './store';

let store: Store;
afterEach(() => store.close());

/** A store that gives up after a second, and what it tells of its thread. */
async function impatient(folder: string | undefined) {
  const told: { error: string; forGood: boolean }[] = [];
  store = await openPglite(folder, {
    patience: 1000,
    ended: (error, forGood) => told.push({ error: error.message, forGood }),
  });
  return told;
}
const standsStill = 'select pg_sleep(30)';
const gaveUp = 'The database did not answer for 1 s and was given up.';

describe('a database that stands still', () => {
  it('is started again: what was written is there, and others who listen hear on', async () => {
    const told = await impatient(await temporaryFolder());
    await store.script('create table kept (n integer); insert into kept values (7)');
    const heard: string[] = [];
    await store.listen('news', (payload) => heard.push(payload));
    await expect(store.query(standsStill)).rejects.toThrow(gaveUp);
    expect(await store.query('select n from kept')).toEqual([{ n: 7 }]);
    await store.notify('news', 'again');
    await expect.poll(() => heard).toEqual(['again']);
    expect(told).toEqual([{ error: gaveUp, forGood: false }]);
  });

  it('takes a transaction back whole: none of its statements runs in the database after it', async () => {
    await impatient(await temporaryFolder());
    await store.script('create table whole (n integer)');
    const work = store.transaction(async (session) => {
      await session.execute('insert into whole values (1)');
      await session.query(standsStill).catch(() => undefined);
      await session.execute('insert into whole values (2)');
    });
    await expect(work).rejects.toThrow(gaveUp);
    expect(await store.query('select n from whole')).toEqual([]);
  });

  it('is lost for good where it cannot be opened again, which is told once, and every question says so', async () => {
    const folder = await temporaryFolder();
    const told = await impatient(folder);
    await store.query('select pg_sleep(0)');
    const asked = store.query(standsStill);
    await rename(join(folder, 'database'), join(folder, 'elsewhere'));
    await expect(asked).rejects.toThrow(gaveUp);
    await expect.poll(() => told.map(({ forGood }) => forGood)).toEqual([true]);
    await expect(store.query('select 1 as one')).rejects.toThrow();
    await rm(join(folder, 'elsewhere'), { recursive: true });
  });

  it('is lost for good where it was in memory only', async () => {
    const told = await impatient(undefined);
    await expect(store.query(standsStill)).rejects.toThrow(gaveUp);
    await expect(store.query('select 1 as one')).rejects.toThrow(gaveUp);
    expect(told).toEqual([{ error: gaveUp, forGood: true }]);
  });
});
