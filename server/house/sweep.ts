// What nobody needs any more is cleared when a data folder is opened: nobody else works in it then.
import { readdir, rm, rmdir } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { readerVersion } from '../../core/reading/find-tables';
import type { PartInput } from '../../core/runs/plan';
import { cachedName } from '../work/page-cache';
import type { Store } from '../store/store';

const namesIn = (folder: string) => readdir(folder).catch(() => [] as string[]);

/** Content read off files that no pipeline has and no dataset was made of, and what a killed process was writing. */
export async function sweepCache(store: Store, cache: string): Promise<void> {
  const reports = await store.query<{ sha256: string }>('select distinct sha256 from report');
  const parts = await store.query<{ inputs: string; reader: number | null }>('select inputs, reader_version as reader from part');
  const needed = new Set([
    ...reports.map(({ sha256 }) => cachedName(sha256, readerVersion)),
    ...parts.flatMap(({ inputs, reader }) => (JSON.parse(inputs) as PartInput[]).map(({ sha256 }) => cachedName(sha256, reader ?? readerVersion))),
  ]);
  for (const name of await namesIn(cache)) if (!/\.(?:pages|json)$/.test(name) || !needed.has(name.replace(/\.\w+$/, ''))) await rm(join(cache, name), { recursive: true, force: true });
}

/**
 * What is left of the folders of deleted pipelines, empty ones of nobody, and halves of files in the others. Files that no pipeline has
 * stay: they may be all that is left where the database was lost. Where the data folder was moved, its pipelines find theirs again.
 */
export async function sweepDropped(store: Store, dropped: string): Promise<void> {
  const managed = await store.query<{ id: number; folder: string }>('select id, folder from pipeline where managed');
  // By their names, which are the same nowhere else: pipelines of a data folder that was moved know the old way to it.
  const folders = new Set(managed.map(({ folder }) => basename(folder)));
  for (const { id, folder } of managed) if (folder !== join(dropped, basename(folder))) await store.execute('update pipeline set folder = $2 where id = $1', [id, join(dropped, basename(folder))]);
  for (const name of await namesIn(dropped)) {
    const folder = join(dropped, name);
    if (folders.has(name)) {
      for (const file of await namesIn(folder)) if (file.startsWith('.')) await rm(join(folder, file), { recursive: true, force: true });
    } else if (name.startsWith('.')) await rm(folder, { recursive: true, force: true });
    // It fails where there is a file.
    else await rmdir(folder).catch(() => undefined);
  }
}
