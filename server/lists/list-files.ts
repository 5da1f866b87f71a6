// Lists as files in the cache, by their content: from there the threads have them.
import { createHash } from 'node:crypto';
import { access, mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { List } from '../../core/sheet/list';
import { fileOf } from './lists-in';

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
