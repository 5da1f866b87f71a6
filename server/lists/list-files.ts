// Lists as files in the cache, by their content: from there the threads have them.
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { access, mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { List, Lists } from '../../core/sheet/list';

const isVersion = (text: string): boolean => /^[0-9a-f]{64}$/.test(text);
const fileOf = (cacheFolder: string, version: string): string => join(cacheFolder, 'lists', `${version}.json`);

/** Its content as it is kept, and the version that this is. */
export function versionOfList(list: List): { version: string; content: string } {
  const content = JSON.stringify(list);
  return { version: createHash('sha256').update(content).digest('hex'), content };
}

export const hasListFile = (cacheFolder: string, version: string): Promise<boolean> =>
  access(fileOf(cacheFolder, version)).then(
    () => true,
    () => false,
  );

export const listFileContent = (cacheFolder: string, version: string): Promise<string> =>
  readFile(fileOf(cacheFolder, version), 'utf8');

/** Writes the file of a version, whole or not at all. */
export async function writeListFile(cacheFolder: string, version: string, content: string): Promise<void> {
  await mkdir(join(cacheFolder, 'lists'), { recursive: true });
  const path = fileOf(cacheFolder, version);
  const part = `${path}.${crypto.randomUUID()}.part`;
  await writeFile(part, content);
  await rename(part, path);
}

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
