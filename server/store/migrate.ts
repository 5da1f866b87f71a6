import start from './migrations/001-start.sql';
import type { Store } from './store';

/** Numbered, never changed once released; the last number is the version of the database. */
const migrations: readonly string[] = [start];

/** Brings the database up to date. @throws Error when it was written by a newer program */
export async function migrate(store: Store): Promise<void> {
  await store.script('create table if not exists schema_version (version integer not null)');
  const [row] = await store.query<{ version: number }>('select max(version) as version from schema_version');
  const at = row.version ?? 0;
  if (at > migrations.length) throw new Error(`This data folder was written by a newer Able Sieve (schema ${at}, known ${migrations.length}). Update the program.`);
  for (let version = at + 1; version <= migrations.length; version++)
    await store.transaction(async (session) => {
      await session.script(migrations[version - 1]);
      await session.execute('insert into schema_version (version) values ($1)', [version]);
    });
}
