import { existsSync } from 'node:fs';
import { readdir, readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import type { Store } from './store';

/** The migrations lie beside the sources, and beside the built program. */
const folder = [new URL('./migrations/', import.meta.url), new URL('../../server/store/migrations/', import.meta.url)]
  .map((url) => fileURLToPath(url))
  .find(existsSync)!;

/** Numbered files in plain SQL, never changed once released; the last number is the version of the database. */
const migrations = async (): Promise<string[]> =>
  (await readdir(folder)).filter((name) => /^\d{3}-.*\.sql$/.test(name)).sort();

/** Brings the database up to date. @throws Error when it was written by a newer program */
export async function migrate(store: Store): Promise<void> {
  await store.script('create table if not exists schema_version (version integer not null)');
  const [{ at }] = await store.query<{ at: number }>('select coalesce(max(version), 0) as at from schema_version');
  const files = await migrations();
  if (at > files.length)
    throw new Error(
      `This data folder was written by a newer Able Sieve (schema ${at}, known ${files.length}). Update the program.`,
    );
  for (const [i, file] of files.entries()) {
    if (i + 1 <= at) continue;
    const sql = await readFile(`${folder}/${file}`, 'utf8');
    await store.transaction(async (session) => {
      await session.script(sql);
      await session.execute('insert into schema_version (version) values ($1)', [i + 1]);
    });
  }
}
