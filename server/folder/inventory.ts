import { createHash } from 'node:crypto';
import { createReadStream, type Dirent } from 'node:fs';
import { open, readdir, realpath, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { LeftBecause } from '../../core/intake/file-names';
import { isBelow } from './roots';

export interface InventoryFile {
  /** Path below the folder, with `/`. */
  readonly path: string;
  readonly size: number;
  /** Milliseconds since 1970. */
  readonly modified: number;
  /** What the system says of the file's content: its inode and when it was last written, which nobody can set. */
  readonly mark: string;
  /** Empty where it cannot be read. */
  readonly sha256: string;
  readonly pdf: boolean;
  /** Why it is not read. */
  readonly left?: LeftBecause;
}

export interface Inventory {
  readonly files: readonly InventoryFile[];
  /** Subfolders that could not be looked into: what was below them is not known to be gone. */
  readonly unseen: readonly string[];
}

/** What was known of a file: with the same size, time and mark it is not read again. */
export type Known = ReadonlyMap<string, { size: number; modified: number; mark: string; sha256: string }>;

/** A folder that cannot be trusted to tell what is in it: nothing is to be concluded from it. */
export class FolderTrouble extends Error {}

interface Listed {
  readonly path: string;
  readonly left?: LeftBecause;
}

/**
 * All files of a folder and its subfolders, hidden ones aside, in the order of their paths. Links are followed as long as they
 * lead to what may be read, every folder once; what is left out is named with its reason.
 * @param roots folders below which links may lead
 * @throws FolderTrouble when the folder cannot be read, or lost files while it was looked at
 */
export async function inventory(
  folder: string,
  known: Known = new Map(),
  roots: readonly string[] = [folder],
): Promise<Inventory> {
  const { files: listed, unseen } = await list(folder, roots);
  const files: InventoryFile[] = [];
  const vanished: string[] = [];
  for (const { path, left } of listed) {
    const nothing = { path, size: 0, modified: 0, mark: '', sha256: '', pdf: /\.pdf$/i.test(path) };
    if (left) {
      files.push({ ...nothing, left });
      continue;
    }
    const full = join(folder, path);
    try {
      const { size, mtimeMs, ctimeMs, ino } = await stat(full);
      const modified = Math.floor(mtimeMs);
      const mark = `${ino} ${ctimeMs}`;
      const before = known.get(path);
      const sha256 =
        before && before.size === size && before.modified === modified && before.mark === mark
          ? before.sha256
          : await hashOf(full);
      files.push({ path, size, modified, mark, sha256, pdf: await isPdf(full, path) });
    } catch (error) {
      if (codeOf(error) === 'ENOENT') vanished.push(path);
      else files.push({ ...nothing, left: 'not readable' });
    }
  }
  // A folder that drops out while it is looked at would leave reports out that are still there.
  if (vanished.length > 0) {
    const again = new Set((await list(folder, roots)).files.map(({ path }) => path));
    const back = vanished.filter((path) => again.has(path));
    if (again.size === 0 || back.length > 0)
      throw new FolderTrouble(
        `The folder ${folder} changed while it was looked at: ${back[0] ?? vanished[0]} was there and could not be found. Look again when it has come to rest.`,
      );
  }
  return { files, unseen };
}

async function list(folder: string, roots: readonly string[]): Promise<{ files: Listed[]; unseen: string[] }> {
  const files: Listed[] = [];
  const unseen: string[] = [];
  const seen = new Set<string>();
  const realRoots = await Promise.all([folder, ...roots].map((root) => realpath(root).catch(() => root)));

  // Links come after all folders: where a file can be had in two ways, it is known by where it lies.
  const links: string[] = [];

  async function walk(below: string): Promise<void> {
    const real = await realpath(join(folder, below));
    if (seen.has(real)) return void files.push({ path: below, left: 'a link to a folder that is here already' });
    seen.add(real);
    const entries = (await readdir(join(folder, below), {
      withFileTypes: true,
      encoding: 'buffer',
    })) as unknown as Dirent<Buffer>[];
    for (const entry of entries) {
      const bytes = Buffer.from(entry.name);
      const name = bytes.toString('utf8');
      if (name.startsWith('.')) continue;
      const path = below === '' ? name : `${below}/${name}`;
      // Such a name cannot be written into a document, nor asked for.
      if (!Buffer.from(name, 'utf8').equals(bytes))
        files.push({
          path: below === '' ? bytes.toString('latin1') : `${below}/${bytes.toString('latin1')}`,
          left: 'name is not UTF-8',
        });
      else if (entry.isDirectory()) await inside(path);
      else if (entry.isSymbolicLink()) links.push(path);
      else if (entry.isFile()) files.push({ path });
    }
  }

  async function inside(path: string): Promise<void> {
    await walk(path).catch((error: unknown) => {
      unseen.push(path);
      files.push({ path, left: codeOf(error) === 'ENOENT' ? 'a link that leads nowhere' : 'not readable' });
    });
  }

  async function follow(path: string): Promise<void> {
    const real = await realpath(join(folder, path)).catch(() => undefined);
    const to = real === undefined ? undefined : await stat(real).catch(() => undefined);
    if (real === undefined || to === undefined) {
      // Perhaps a folder of another disk that is not there now.
      unseen.push(path);
      files.push({ path, left: 'a link that leads nowhere' });
    } else if (!realRoots.some((root) => isBelow(real, root))) files.push({ path, left: 'a link that leads out' });
    else if (to.isDirectory()) await inside(path);
    else if (to.isFile()) files.push({ path });
  }

  try {
    await walk('');
    links.sort();
    for (let path = links.shift(); path !== undefined; path = links.shift()) await follow(path);
  } catch (error) {
    throw new FolderTrouble(
      `The folder ${folder} cannot be read (${codeOf(error)}). Check that it exists and that this program may open it.`,
    );
  }
  return { files: files.sort((a, b) => (a.path < b.path ? -1 : a.path > b.path ? 1 : 0)), unseen };
}

const codeOf = (error: unknown): string => (error as NodeJS.ErrnoException).code ?? 'unknown reason';

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
