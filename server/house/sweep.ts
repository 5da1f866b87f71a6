// What nobody needs any more is cleared when a data folder is opened: nobody else works in it then.
import { readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
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

/** Folders of dropped files whose pipeline is no more, and halves of files in the others. */
export async function sweepDropped(store: Store, dropped: string): Promise<void> {
  const folders = new Set((await store.query<{ folder: string }>('select folder from pipeline where managed')).map(({ folder }) => folder));
  for (const name of await namesIn(dropped)) {
    const folder = join(dropped, name);
    if (!folders.has(folder)) await rm(folder, { recursive: true, force: true });
    else for (const file of await namesIn(folder)) if (file.startsWith('.')) await rm(join(folder, file), { recursive: true, force: true });
  }
}
