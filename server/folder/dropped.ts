import { createHash } from 'node:crypto';
import { link, open, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { basename, dirname, extname, join } from 'node:path';
import { longestName } from '../contract/contract';

/** What is to be done where a file of the name has other content. */
export type WhereThere = 'ask' | 'replace' | 'keep both';

/** There is a file of that name with other content, and nothing was said about it. */
export class ThereAlready extends Error {
  constructor(name: string) {
    super(
      `There is a file “${name}” with other content already. Say whether it is to be replaced, or both are to be kept.`,
    );
    this.name = 'ThereAlready';
  }
}

/** `report.pdf` as `report (2).pdf`, cut where it would be too long. */
function numbered(name: string, n: number): string {
  const end = ` (${n})${extname(name)}`;
  const letters = [...name.slice(0, name.length - extname(name).length)];
  while (Buffer.byteLength(letters.join('') + end) > longestName) letters.pop();
  return letters.join('') + end;
}

/** A second name is not known to every disk. */
const noSecondName = new Set(['EPERM', 'ENOTSUP', 'EOPNOTSUPP', 'ENOSYS', 'EMLINK']);

/** Puts a file where there is none. Unlike a move, this fails (EEXIST) where there is one. */
async function placeNew(from: string, to: string): Promise<void> {
  try {
    await link(from, to);
  } catch (error) {
    if (!noSecondName.has((error as NodeJS.ErrnoException).code ?? '')) throw error;
    await (await open(to, 'wx')).close();
    await rename(from, to);
  }
}

const sha256 = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex');

/**
 * Puts a dropped file into its folder. What is there already with the same content stays as it is.
 * @returns the name under which it is there
 * @throws ThereAlready when another is there and nothing was said
 */
export async function keepDropped(
  folder: string,
  name: string,
  bytes: Buffer,
  whereThere: WhereThere,
): Promise<string> {
  const own = sha256(bytes);
  // Written beside and moved, so that a refresh never sees half a file.
  const temporary = join(folder, `.${crypto.randomUUID()}`);
  await writeFile(temporary, bytes);
  try {
    for (let n = 1; ; n++) {
      const wanted = n === 1 ? name : numbered(name, n);
      const path = join(folder, wanted);
      if (whereThere === 'replace') {
        await rename(temporary, path);
        return wanted;
      }
      try {
        await placeNew(temporary, path);
        return wanted;
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
        if (sha256(await readFile(path)) === own) return wanted;
        if (whereThere === 'ask') throw new ThereAlready(name);
      }
    }
  } finally {
    await rm(temporary, { force: true });
  }
}

/** Takes the folder of a deleted pipeline away. It is hidden first: where the process is killed meanwhile, what is left is known to be of nobody. */
export async function removeDropped(folder: string): Promise<void> {
  const gone = join(dirname(folder), `.${basename(folder)}`);
  await rename(folder, gone).catch((error: NodeJS.ErrnoException) => {
    if (error.code !== 'ENOENT') throw error;
  });
  await rm(gone, { recursive: true, force: true });
}
