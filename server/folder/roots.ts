import { realpath, stat } from 'node:fs/promises';
import { isAbsolute, relative, resolve, sep } from 'node:path';

/** The folder asked for lies outside the folders that this server may read. */
export class OutsideRoots extends Error {
  constructor(folder: string, roots: readonly string[]) {
    super(
      `${folder} is outside the folders that may be read (${roots.join(', ')}). Choose a folder below one of them, or start the server with --root.`,
    );
    this.name = 'OutsideRoots';
  }
}

/** What was asked for as a folder is something else. */
export class NotAFolder extends Error {
  constructor(path: string) {
    super(`${path} is not a folder. Choose the folder that it is in.`);
    this.name = 'NotAFolder';
  }
}

export const isBelow = (folder: string, root: string): boolean => {
  const way = relative(root, folder);
  return way === '' || (!way.startsWith(`..${sep}`) && way !== '..' && !isAbsolute(way));
};

/**
 * The real path of a folder or file, with links followed, if it lies below one of the roots.
 * @throws OutsideRoots also when the path does not exist, so that nothing outside can be probed
 */
export async function withinRoots(path: string, roots: readonly string[]): Promise<string> {
  const real = await realpath(resolve(path)).catch(() => undefined);
  const realRoots = await Promise.all(roots.map((root) => realpath(root).catch(() => root)));
  if (real === undefined || !realRoots.some((root) => isBelow(real, root))) throw new OutsideRoots(path, roots);
  return real;
}

/** The real path of a folder below one of the roots. @throws OutsideRoots, NotAFolder */
export async function folderWithinRoots(path: string, roots: readonly string[]): Promise<string> {
  const real = await withinRoots(path, roots);
  if (!(await stat(real)).isDirectory()) throw new NotAFolder(path);
  return real;
}
