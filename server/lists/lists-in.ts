// Lists as threads have them.
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { List, Lists } from '../../core/sheet/list';

const isVersion = (text: string): boolean => /^[0-9a-f]{64}$/.test(text);

/** The file of a version of a list. */
export const fileOf = (cacheFolder: string, version: string): string => join(cacheFolder, 'lists', `${version}.json`);

/** Lists kept in the memory of a thread. */
const mostKept = 4;
const kept = new Map<string, List>();

/** The lists of a cache, by version: each is read when a step first looks into it. */
export const listsIn =
  (cacheFolder: string): Lists =>
  (version) => {
    if (!isVersion(version)) return undefined;
    const known = kept.get(version);
    if (known) return known;
    let list: List;
    try {
      list = JSON.parse(readFileSync(fileOf(cacheFolder, version), 'utf8')) as List;
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code === 'ENOENT') return undefined;
      throw error;
    }
    kept.set(version, list);
    if (kept.size > mostKept) kept.delete(kept.keys().next().value!);
    return list;
  };
