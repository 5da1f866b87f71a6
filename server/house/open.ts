import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { RunManager } from '../runs/run-manager';
import { migrate } from '../store/migrate';
import { openPglite } from '../store/pglite-store';
import { clearLeftovers, type Watch } from '../store/publish';
import { allPipelines } from '../store/pipelines';
import { interruptRuns } from '../store/runs';
import type { Store } from '../store/store';
import { openPool, type Pool } from '../work/pool';

/** Store, threads and runs over one data folder. */
export interface House {
  readonly store: Store;
  readonly pool: Pool;
  readonly runs: RunManager;
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
export async function openHouse(data: string | undefined, cacheFolder: string, options: { failed?: (error: Error) => void; watch?: Watch; threads?: number; roots?: readonly string[] } = {}): Promise<House> {
  if (data) await mkdir(data, { recursive: true });
  const store = await openPglite(data);
  try {
    await migrate(store);
    const interrupted = await interruptRuns(store);
    for (const pipeline of await allPipelines(store)) await clearLeftovers(store, pipeline.id);
    const pool = openPool(options.threads);
    const runs = new RunManager(store, pool, cacheFolder, options.failed ?? (() => undefined), options.watch, options.roots);
    return {
      store,
      pool,
      runs,
      cacheFolder,
      interrupted,
      close: async () => {
        await runs.close();
        await pool.close();
        await store.close();
      },
    };
  } catch (error) {
    await store.close();
    throw error;
  }
}

export const cacheIn = (data: string) => join(data, 'cache');
