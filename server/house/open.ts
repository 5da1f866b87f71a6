import { chmod, mkdir, readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { RunManager } from '../runs/run-manager';
import { migrate } from '../store/migrate';
import { folderTrouble } from '../store/data-folder';
import { openPglite, type PgliteOptions } from '../store/pglite-store';
import { clearLeftovers, type Watch } from '../store/publish';
import { allPipelines } from '../store/pipelines';
import { interruptRuns } from '../store/runs';
import type { Store } from '../store/store';
import { clearLists, sweepCache, sweepDropped } from './sweep';
import { cacheIn, droppedIn } from '../setup/config';
import { PublishedWindows } from '../runs/published-windows';
import { Selections } from '../runs/selections';
import { openPool, type Pool } from '../work/pool';

/** Store, threads and runs over one data folder. */
export interface House {
  readonly store: Store;
  readonly pool: Pool;
  readonly runs: RunManager;
  readonly windows: PublishedWindows;
  readonly selections: Selections;
  readonly cacheFolder: string;
  /** Pipelines whose refresh a killed process left unfinished. */
  readonly interrupted: readonly number[];
  close(): Promise<void>;
}

export interface HouseOptions extends Pick<PgliteOptions, 'beginAnew'> {
  readonly failed?: (error: Error) => void;
  readonly watch?: Watch;
  readonly threads?: number;
  /** How long a page or step may show no progress before it is given up, in seconds. */
  readonly patience?: number | undefined;
  readonly roots?: readonly string[];
  /** What is read off reports is kept on disk up to so many megabytes. */
  readonly cacheLimit?: number | undefined;
  /** Told what was done with the folder. */
  readonly told?: (sentence: string) => void;
  /** Told when the database is lost for good: nothing can be answered any more. */
  readonly lost?: (error: Error) => void;
}

/**
 * Opens a data folder: locks it, brings the database up to date and clears what a broken run left.
 * @param data left out: database in memory only, for one run
 * @throws FolderInUse
 * @throws DataFolderRefused
 * @throws ThreadsBroken
 */
export async function openHouse(
  data: string | undefined,
  cacheFolder: string,
  options: HouseOptions = {},
): Promise<House> {
  const { failed = () => undefined, lost = failed } = options;
  if (data) await ownFolder(data, options.told).catch((error) => Promise.reject(folderTrouble(data, error)));
  const patience = options.patience === undefined ? undefined : options.patience * 1000;
  // The first thread starts while the database does; neither is left behind where the other fails.
  const ended = (error: Error, forGood: boolean) => (forGood ? lost(error) : failed(error));
  const opening = openPglite(data, { beginAnew: options.beginAnew, told: options.told, ended });
  opening.catch(() => undefined);
  let pool: Pool | undefined;
  try {
    pool = openPool(options.threads, patience, failed);
    const [store] = await Promise.all([opening, pool.started()]);
    const sweep = () => sweepCache(store.patient, cacheFolder, (options.cacheLimit ?? Infinity) * 2 ** 20);
    const interrupted = await preparedStore(store, data, sweep);
    return houseOf(store, pool, cacheFolder, interrupted, { ...options, failed, sweep });
  } catch (error) {
    await pool?.close();
    await opening.then(
      (store) => store.close(),
      () => undefined,
    );
    throw error;
  }
}

/** Brings the database up to date and clears what a broken run left. @returns the pipelines whose refresh it broke */
async function preparedStore(store: Store, data: string | undefined, sweep: () => Promise<void>): Promise<number[]> {
  if (data && process.platform !== 'win32') await shutAll(data);
  await migrate(store);
  const interrupted = await interruptRuns(store);
  for (const pipeline of await allPipelines(store)) await clearLeftovers(store, pipeline.id);
  if (data) {
    await clearLists(cacheIn(data));
    await sweep();
    await sweepDropped(store, droppedIn(data));
  }
  return interrupted;
}

function houseOf(
  store: Store,
  pool: Pool,
  cacheFolder: string,
  interrupted: readonly number[],
  {
    failed,
    watch,
    roots,
    sweep,
  }: Pick<HouseOptions, 'watch' | 'roots'> & { failed: (error: Error) => void; sweep: () => Promise<void> },
): House {
  const runs = new RunManager(store, pool, cacheFolder, failed, watch, roots);
  // A refresh leaves what it read of reports that are others by now.
  let sweeping = Promise.resolve();
  runs.onEnded(() => {
    sweeping = sweeping.then(sweep).catch(failed);
  });
  return {
    store,
    pool,
    runs,
    windows: new PublishedWindows(store),
    selections: new Selections(store),
    cacheFolder,
    interrupted,
    close: async () => {
      await runs.close();
      await sweeping;
      await pool.close();
      await store.close();
    },
  };
}

/** What others than the owner may do with a file. */
const others = 0o077;

/** A data folder is its owner's alone: reports and rows lie in it. One that others may look into is mended, and that is said. */
async function ownFolder(folder: string, told: (sentence: string) => void = () => undefined): Promise<void> {
  await mkdir(folder, { recursive: true, mode: 0o700 });
  if (process.platform === 'win32' || !(await shut(folder))) return;
  told(`Other users of this machine could look into ${folder}; now only its owner can.`);
}

/** Takes from others what they may do. @returns whether they could do anything */
async function shut(path: string): Promise<boolean> {
  const { mode } = await stat(path);
  if ((mode & others) === 0) return false;
  await chmod(path, mode & ~others & 0o777);
  return true;
}

/** The same for all that lies in a folder, however it came there: the database writes files that anybody may change. */
async function shutAll(folder: string): Promise<void> {
  for (const entry of await readdir(folder, { recursive: true, withFileTypes: true }))
    if (entry.isFile() || entry.isDirectory()) await shut(join(entry.parentPath, entry.name)).catch(() => undefined);
}
