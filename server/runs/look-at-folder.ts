import { join } from 'node:path';
import { nameFacts, placeFiles } from '../../core/intake/file-names';
import type { PeriodStamp } from '../../core/intake/stamped-period';
import type { StoredReport } from '../contract/answers';
import { FolderTrouble, inventory, type InventoryFile } from '../folder/inventory';
import type { StoredPipeline } from '../store/pipelines';
import { recordFolder, reportsOf } from '../store/reports';
import { keepStampedPeriod, stampedPeriods } from '../store/stamped-periods';
import type { Store } from '../store/store';
import { inParallel } from '../work/in-parallel';
import type { Pool } from '../work/pool';

/**
 * Looks at the folder of a pipeline anew and writes down which files are there, and what becomes of each.
 * @throws FolderTrouble when the folder cannot be trusted to tell
 */
export async function lookAtFolder(
  store: Store,
  pool: Pool,
  pipeline: StoredPipeline,
  cacheFolder: string,
  { roots, signal }: { roots?: readonly string[] | undefined; signal?: AbortSignal | undefined } = {},
): Promise<StoredReport[]> {
  const reading = pipeline.document.reports;
  const before = await reportsOf(store, pipeline.id);
  const { files, unseen } = await inventory(
    pipeline.folder,
    new Map(before.map((report) => [report.path, report])),
    roots,
  );
  const held = before.filter(({ standing }) => standing === 'counts').length;
  if (held > 0 && !files.some(({ pdf, left }) => pdf && !left))
    throw new FolderTrouble(
      `The folder ${pipeline.folder} has no PDF report now, though it held ${held}. Nothing was changed; check that it is the right folder, and that it is connected.`,
    );
  const said = reading.stamp
    ? await periodsOnPaper(
        store,
        pool,
        pipeline,
        files.filter((file) => file.pdf && !file.left && nameFacts(file.path, reading).period === undefined),
        reading.stamp,
        cacheFolder,
        signal,
      )
    : new Map<string, string>();
  return recordFolder(
    store,
    pipeline.id,
    placeFiles(
      files.map((file) => ({ ...file, ...(said.has(file.sha256) ? { stamped: said.get(file.sha256)! } : {}) })),
      reading,
    ),
    unseen,
  );
}

/** The periods that reports say on their pages, by content: each is read once. */
async function periodsOnPaper(
  store: Store,
  pool: Pool,
  pipeline: StoredPipeline,
  files: readonly InventoryFile[],
  stamp: PeriodStamp,
  cacheFolder: string,
  signal?: AbortSignal,
): Promise<Map<string, string>> {
  const key = JSON.stringify(stamp);
  const known = await stampedPeriods(store, key);
  await inParallel(
    files.filter(({ sha256 }) => !known.has(sha256)),
    pool.threads,
    async ({ path, sha256 }) => {
      const answer = await pool
        .run(
          'stamp',
          { source: { file: join(pipeline.folder, path), path, sha256, cacheFolder, key: path }, stamp },
          { signal },
        )
        .catch((error: Error) => {
          signal?.throwIfAborted();
          return { unreadable: error };
        });
      // What cannot be read says so when it is carried.
      const period = 'unreadable' in answer ? null : answer.period;
      known.set(sha256, period);
      if (!('unreadable' in answer)) await keepStampedPeriod(store, sha256, key, period);
    },
  );
  return new Map([...known].flatMap(([sha256, period]) => (period === null ? [] : [[sha256, period]])));
}
