import { existsSync } from 'node:fs';
import { mkdir, readdir, readFile, rename, stat, statfs, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { cacheIn, databaseIn, droppedIn, keyIn, sqlIn } from '../setup/config';

/** Why a data folder is not opened, and what to do; nothing in it was changed. */
export class DataFolderRefused extends Error {
  override name = 'DataFolderRefused';
}

/** What the folder says of itself, in a file of its own that is written before anything else. */
interface Marker {
  readonly format: 'able-sieve/data-folder';
  /** `begun`: the database was being made; nothing was in it yet. `whole`: it was opened at least once. */
  readonly database: 'begun' | 'whole';
  readonly since: string;
}

const markerIn = (folder: string) => join(folder, 'able-sieve.json');
/** The release of the embedded database whose folders this program opens. */
const databaseRelease = '18';

/** Bytes that must be free before a database is opened, as it writes at once, and before one is made. */
const [roomToOpen, roomToBegin] = [24 * 2 ** 20, 80 * 2 ** 20];

/** What the machine says of a folder, by its code, as what to do. */
const troubles: Readonly<Record<string, string>> = {
  EACCES: 'the user that this program runs as may not use it. Change its permissions, or choose another with --data',
  EPERM: 'the machine does not let this program use it. Change its permissions, or choose another with --data',
  EROFS: 'its disk can only be read. Choose another with --data',
  ENOTDIR: 'a part of the way to it is no folder. Choose another with --data',
  EEXIST: 'there is a file of that name. Choose another with --data',
  ENOSPC: 'its disk is full. Make room and start again; nothing was changed',
  EDQUOT: 'the room that its user may fill is full. Make room and start again; nothing was changed',
  EIO: 'its disk cannot be read or written',
};

/** An error of the machine about a data folder as a sentence; others as they are. */
export function folderTrouble(folder: string, error: unknown): Error {
  const trouble = troubles[(error as NodeJS.ErrnoException).code ?? ''];
  return trouble === undefined ? (error as Error) : new Error(`The data folder ${folder} cannot be used: ${trouble}.`);
}

/** @throws Error when the disk is too full for a database to work on it */
export async function roomIn(folder: string): Promise<void> {
  const { bavail, bsize } = await statfs(folder);
  const needed = existsSync(databaseIn(folder)) ? roomToOpen : roomToBegin;
  if (bavail * bsize >= needed) return;
  const [free, wanted] = [bavail * bsize, needed].map((bytes) => Math.round(bytes / 2 ** 20));
  throw new Error(
    `The disk of the data folder ${folder} is full: ${free} MB are free, ${wanted} MB are needed. ` +
      'Make room and start again; nothing was changed.',
  );
}

/** Why a database that is there could not be opened. */
export async function notOpened(folder: string, error: Error): Promise<Error> {
  const database = databaseIn(folder);
  const release = (await readFile(join(database, 'PG_VERSION'), 'utf8').catch(() => '')).trim();
  if (Number(release) > Number(databaseRelease))
    return new DataFolderRefused(
      `The database in ${database} was written by a newer program (release ${release}, this one knows ${databaseRelease}). ` +
        'Nothing was changed. Use the newer program.',
    );
  const { bavail, bsize } = await statfs(folder);
  if (bavail * bsize < roomToOpen) return folderTrouble(folder, { code: 'ENOSPC' });
  return new DataFolderRefused(
    `The database in ${database} cannot be opened: ${error.message}. Put the folder “database” back from a copy, ` +
      'or start with --begin-anew, which moves aside what is there and begins with an empty one.',
  );
}

/** Everything of ours in a data folder, but for the lock. */
const ours = (folder: string) =>
  [markerIn, databaseIn, cacheIn, sqlIn, droppedIn, keyIn].map((place) => place(folder)).filter(existsSync);

async function markerOf(folder: string): Promise<Marker | undefined> {
  const text = await readFile(markerIn(folder), 'utf8').catch(() => undefined);
  if (text === undefined) return undefined;
  try {
    return JSON.parse(text) as Marker;
  } catch {
    throw new DataFolderRefused(
      `${markerIn(folder)} cannot be understood; it tells that ${folder} is a data folder. Put it back from a copy, ` +
        'or start with --begin-anew, which moves aside what is there.',
    );
  }
}

const mark = (folder: string, marker: Marker) =>
  writeFile(markerIn(folder), `${JSON.stringify(marker, undefined, 2)}\n`, { mode: 0o600 });

const isFilled = async (folder: string) => (await readdir(folder).catch(() => [])).length > 0;

/**
 * Whether the database of a folder is there, or may be made. A folder that holds anything of ours without its database is
 * never begun anew by itself: what was in it would be written over.
 * @returns called once the database is open
 * @throws DataFolderRefused
 */
export async function entered(folder: string): Promise<() => Promise<void>> {
  const now = new Date().toISOString();
  const marker = await markerOf(folder);
  const database = databaseIn(folder);
  const whole = () =>
    mark(folder, { format: 'able-sieve/data-folder', database: 'whole', since: marker?.since ?? now });
  if (existsSync(join(database, 'PG_VERSION'))) return marker?.database === 'whole' ? async () => undefined : whole;
  if (marker?.database === 'begun') {
    // Killed while the database was being made: nothing can be in it yet. What there is of it goes aside all the same.
    if (await isFilled(database)) await moveAside(folder, [database]);
    return whole;
  }
  const rest = ours(folder);
  if (rest.length > 0) {
    const missing = (await isFilled(database))
      ? `${join(database, 'PG_VERSION')} is missing`
      : `${database} is missing or empty`;
    throw new DataFolderRefused(
      `The data folder ${folder} holds ${rest.length} of our files and folders, but its database is not whole: ${missing}. ` +
        'Nothing was changed. Put the folder “database” back from a copy, or start with --begin-anew, which moves aside ' +
        'what is there and begins with an empty one.',
    );
  }
  await mark(folder, { format: 'able-sieve/data-folder', database: 'begun', since: now });
  return whole;
}

/** Moves what is ours in a folder into a folder of its own there. @returns where it is now */
export async function moveAside(folder: string, what = ours(folder)): Promise<string> {
  const aside = await freeName(join(folder, `aside-${new Date().toISOString().slice(0, 19).replaceAll(':', '')}`));
  await mkdir(aside, { mode: 0o700 });
  for (const path of what) await rename(path, join(aside, path.slice(folder.length + 1)));
  return aside;
}

async function freeName(path: string, n = 1): Promise<string> {
  const name = n === 1 ? path : `${path}-${n}`;
  return (await stat(name).catch(() => undefined)) ? freeName(path, n + 1) : name;
}
