// What nobody needs any more is cleared when a data folder is opened: nobody else works in it then.
import { readdir, rm, rmdir, stat } from 'node:fs/promises';
import { basename, join } from 'node:path';
import type { PartInput } from '../../core/runs/plan';
import { thisBuild } from '../setup/build';
import { cachedName } from '../work/page-cache';
import type { Store } from '../store/store';

const namesIn = (folder: string) => readdir(folder).catch(() => [] as string[]);

/**
 * Content read off files that no pipeline has and no dataset was made of, and what a killed process was writing. Of the rest as
 * much as is allowed stays: what was not looked at for longest goes first, but for what could not be read again, as its file is
 * another by now, or another build read it.
 * @param most bytes
 */
export async function sweepCache(store: Store, cache: string, most = Infinity): Promise<void> {
  const { needed, again } = await cachedNames(store);
  const kept: { path: string; size: number; at: number; again: boolean }[] = [];
  for (const name of await namesIn(cache)) {
    const content = name.replace(/\.\w+$/, '');
    const path = join(cache, name);
    if (name === listsFolder || name.includes(unfinishedMark)) continue;
    if (!/\.(?:pages|json)$/.test(name) || !needed.has(content)) await rm(path, { recursive: true, force: true });
    else {
      const facts = await stat(path).catch(() => undefined);
      if (facts) kept.push({ path, size: facts.size, at: facts.mtimeMs, again: again.has(content) });
    }
  }
  let size = kept.reduce((sum, each) => sum + each.size, 0);
  // The index of a content is written last, and so goes after its pages: without them it is read anew.
  for (const each of kept.filter((one) => one.again).sort((a, b) => a.at - b.at)) {
    if (size <= most) return;
    await rm(each.path, { force: true });
    size -= each.size;
  }
}

/** Lists that steps look into; the threads read them there while a run is under way. */
const listsFolder = 'lists';

/** Lists are written again from the database when they are asked for: cleared while nobody works with them. */
export const clearLists = (cache: string): Promise<void> =>
  rm(join(cache, listsFolder), { recursive: true, force: true });

/** What is being written by this very process. */
const unfinishedMark = `.${process.pid}-`;

/** The contents that are asked for, and those of them that could be read again. */
async function cachedNames(store: Store): Promise<{ needed: Set<string>; again: Set<string> }> {
  const { reading: today } = thisBuild.stages;
  const reports = await store.query<{ sha256: string; there: boolean }>(
    "select sha256, bool_or(standing <> 'gone') as there from report group by sha256",
  );
  const parts = await store.query<{ inputs: string; reading: string | null }>('select inputs, reading from part');
  const ofParts = parts.flatMap(({ inputs, reading }) =>
    (JSON.parse(inputs) as PartInput[]).map(({ sha256 }) => cachedName(sha256, reading ?? today)),
  );
  return {
    needed: new Set([...reports.map(({ sha256 }) => cachedName(sha256, today)), ...ofParts]),
    again: new Set(reports.filter(({ there }) => there).map(({ sha256 }) => cachedName(sha256, today))),
  };
}

/**
 * What is left of the folders of deleted pipelines, empty ones of nobody, and halves of files in the others. Files that no pipeline has
 * stay: they may be all that is left where the database was lost. Where the data folder was moved, its pipelines find theirs again.
 */
export async function sweepDropped(store: Store, dropped: string): Promise<void> {
  const managed = await store.query<{ id: number; folder: string }>('select id, folder from pipeline where managed');
  // By their names, which are the same nowhere else: pipelines of a data folder that was moved know the old way to it.
  const folders = new Set(managed.map(({ folder }) => basename(folder)));
  for (const { id, folder } of managed)
    if (folder !== join(dropped, basename(folder)))
      await store.execute('update pipeline set folder = $2 where id = $1', [id, join(dropped, basename(folder))]);
  for (const name of await namesIn(dropped)) {
    const folder = join(dropped, name);
    if (folders.has(name)) {
      for (const file of await namesIn(folder))
        if (file.startsWith('.')) await rm(join(folder, file), { recursive: true, force: true });
    } else if (name.startsWith('.')) await rm(folder, { recursive: true, force: true });
    // It fails where there is a file.
    else await rmdir(folder).catch(() => undefined);
  }
}
