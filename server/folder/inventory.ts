import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { open, readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';

export interface InventoryFile {
  /** Path below the folder, with `/`. */
  readonly path: string;
  readonly size: number;
  /** Milliseconds since 1970. */
  readonly modified: number;
  readonly sha256: string;
  readonly pdf: boolean;
}

/** What was known of a file: with the same size and time it is not read again. */
export type Known = ReadonlyMap<string, { size: number; modified: number; sha256: string }>;

/**
 * All files of a folder and its subfolders, hidden ones aside, in the order of their paths. A file that vanishes while
 * it is looked at is left out.
 * @throws Error with a sentence when the folder cannot be read
 */
export async function inventory(folder: string, known: Known = new Map()): Promise<InventoryFile[]> {
  let entries;
  try {
    entries = await readdir(folder, { recursive: true, withFileTypes: true });
  } catch (error) {
    throw new Error(`The folder ${folder} cannot be read (${(error as NodeJS.ErrnoException).code ?? 'unknown reason'}). Check that it exists and that this program may open it.`);
  }
  const paths = entries
    .filter((entry) => entry.isFile())
    .map((entry) => join(entry.parentPath, entry.name).slice(folder.length).replaceAll('\\', '/').replace(/^\/+/, ''))
    .filter((path) => !path.split('/').some((part) => part.startsWith('.')))
    .sort();
  const files: InventoryFile[] = [];
  for (const path of paths) {
    const full = join(folder, path);
    try {
      const { size, mtimeMs } = await stat(full);
      const modified = Math.floor(mtimeMs);
      const before = known.get(path);
      const sha256 = before && before.size === size && before.modified === modified ? before.sha256 : await hashOf(full);
      files.push({ path, size, modified, sha256, pdf: await isPdf(full, path) });
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
    }
  }
  return files;
}

/** A PDF by its first bytes or by its name: an empty or cut file named .pdf is a damaged report, not another file. */
async function isPdf(full: string, path: string): Promise<boolean> {
  if (/\.pdf$/i.test(path)) return true;
  const handle = await open(full);
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(1024), 0, 1024, 0);
    return buffer.subarray(0, bytesRead).includes('%PDF-');
  } finally {
    await handle.close();
  }
}

async function hashOf(full: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(full), hash);
  return hash.digest('hex');
}
