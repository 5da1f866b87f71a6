import { Router } from 'express';
import { readdir } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { folderWithinRoots, isBelow } from '../folder/roots';
import { droppedIn } from '../setup/config';
import type { FolderAnswer } from '../contract/contract';
import type { Deps } from './deps';

const mostLooked = 2000;

/** Folders below the allowed roots, with how many PDF files each holds. */
export function foldersRouter({ config }: Deps): Router {
  const router = Router();
  const pdfsIn = async (folder: string) => {
    const entries = await readdir(folder, { withFileTypes: true }).catch(() => []);
    return entries
      .slice(0, mostLooked)
      .filter((entry) => entry.isFile() && /\.pdf$/i.test(entry.name))
      .map((entry) => entry.name)
      .sort();
  };

  router.get('/', async (request, response) => {
    const roots = config.roots.filter((root) => root !== droppedIn(config.data));
    const asked = typeof request.query.path === 'string' ? request.query.path : roots.length === 1 ? roots[0] : '';
    // Where there are several to begin from, all of them are shown.
    if (asked === '' && roots.length !== 1) {
      const folders = [];
      for (const root of roots) folders.push({ name: root, path: root, pdfs: (await pdfsIn(root)).length });
      response.json({ folder: '', parent: null, folders, pdfs: [] } satisfies FolderAnswer);
      return;
    }
    const folder = await folderWithinRoots(asked, config.roots);
    const entries = await readdir(folder, { withFileTypes: true });
    const names = entries
      .filter((entry) => entry.isDirectory() && !entry.name.startsWith('.'))
      .map((entry) => entry.name)
      .sort();
    const folders = [];
    for (const name of names.slice(0, mostLooked))
      folders.push({ name, path: join(folder, name), pdfs: (await pdfsIn(join(folder, name))).length });
    const parent = dirname(folder);
    const answer: FolderAnswer = {
      folder,
      parent: roots.some((root) => isBelow(parent, root)) && parent !== folder ? parent : roots.length > 1 ? '' : null,
      folders,
      pdfs: await pdfsIn(folder),
    };
    response.json(answer);
  });
  return router;
}
