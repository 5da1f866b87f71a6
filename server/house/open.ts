import { chmod, mkdir, readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { RunManager } from '../runs/run-manager';
import { migrate } from '../store/migrate';
import { openPglite } from '../store/pglite-store';
import { clearLeftovers, type Watch } from '../store/publish';
import { allPipelines } from '../store/pipelines';
import { interruptRuns } from '../store/runs';
import type { Store } from '../store/store';
import { sweepCache, sweepDropped } from './sweep';
import { droppedIn } from '../setup/config';
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

/**
 * Opens a data folder: locks it, brings the database up to date and clears what a broken run left.
 * @param data left out: database in memory only, for one run
 * @throws FolderInUse
 */
export async function openHouse(data: string | undefined, cacheFolder: string, options: { failed?: (error: Error) => void; watch?: Watch; threads?: number; patience?: number | undefined; roots?: readonly string[]; told?: (sentence: string) => void } = {}): Promise<House> {
  if (data) await ownFolder(data, options.told);
  // The first thread starts while the database does.
  const opening = openPglite(data);
  const pool = openPool(options.threads, options.patience === undefined ? undefined : options.patience * 1000);
  try {
    const store = await opening;
    if (data && process.platform !== 'win32') await shutAll(data);
    await migrate(store);
    const interrupted = await interruptRuns(store);
    for (const pipeline of await allPipelines(store)) await clearLeftovers(store, pipeline.id);
    if (data) {
      await sweepCache(store, cacheFolder);
      await sweepDropped(store, droppedIn(data));
    }
    const runs = new RunManager(store, pool, cacheFolder, options.failed ?? (() => undefined), options.watch, options.roots);
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
        await pool.close();
        await store.close();
      },
    };
  } catch (error) {
    await pool.close();
    await opening.then((store) => store.close(), () => undefined);
    throw error;
  }
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
  for (const entry of await readdir(folder, { recursive: true, withFileTypes: true })) if (entry.isFile() || entry.isDirectory()) await shut(join(entry.parentPath, entry.name)).catch(() => undefined);
}
