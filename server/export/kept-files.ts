import { access } from 'node:fs/promises';
import { basename, dirname, join, resolve } from 'node:path';
import * as v from 'valibot';
import { csvDialect, type KeptFile } from '../../core/dataset/file-options';
import { faultsOf } from '../../core/pipeline/document';
import type { RunNote, RunReport } from '../../core/runs/run';
import { folderWithinRoots } from '../folder/roots';
import { dataTableOf } from '../store/data-table';
import { publicationOf, stretchesOf, type Publication } from '../store/dataset';
import type { StoredPipeline } from '../store/pipelines';
import { quoted, type Store } from '../store/store';
import { formatOf, writeDataset } from './to-file';

/** What became of a refresh, as far as files go. */
interface Ended {
  readonly state: string;
  readonly reports: readonly RunReport[];
}

/**
 * Writes the kept files of a pipeline after a refresh: those that do not say what is published now, or are not there.
 * A file that would say the same as before is left alone, so that nobody who watches it is woken.
 * @param roots folders below which files may lie; without any that of the reports, and the one in which the program runs
 */
export async function keepFiles(
  store: Store,
  pipeline: StoredPipeline,
  { state, reports }: Ended,
  roots: readonly string[] | undefined,
  signal?: AbortSignal,
): Promise<RunNote | undefined> {
  const files = pipeline.document.files ?? [];
  const publication =
    files.length > 0 && (state === 'published' || state === 'nothing new')
      ? await publicationOf(store, pipeline.id)
      : undefined;
  if (!publication) return undefined;
  const came = reports.filter((report) => report.state === 'added' || report.state === 'changed');
  const written: string[] = [];
  const failed: { path: string; because: string }[] = [];
  for (const kept of files) {
    if (kept.rows === 'new' && came.length === 0) continue;
    try {
      const path = await pathOf(kept, kept.rows === 'new' ? came : reports.filter(({ rows }) => rows > 0), {
        roots,
        reportsIn: pipeline.folder,
      });
      const says = JSON.stringify([publication.token, kept]);
      const [before] = await store.query<{ token: string }>(
        'select token from written_file where pipeline = $1 and path = $2',
        [pipeline.id, path],
      );
      const there = await isThere(path);
      if (before?.token === says && there) continue;
      // A document may come from somebody else: what this pipeline did not write is not its to write over.
      if (!before && there)
        throw new Error(
          'there is a file already that this pipeline did not write. Move it away, or choose another name.',
        );
      if (await write(store, pipeline, publication, kept, path, kept.rows === 'new' ? came : undefined, signal))
        written.push(path);
      await store.execute(
        'insert into written_file (pipeline, path, token) values ($1, $2, $3) on conflict (pipeline, path) do update set token = excluded.token',
        [pipeline.id, path, says],
      );
    } catch (error) {
      if (signal?.aborted) throw error;
      failed.push({ path: kept.path, because: because(error as NodeJS.ErrnoException) });
    }
  }
  return written.length + failed.length > 0 ? { kind: 'files', written, failed } : undefined;
}

/** Where a kept file lies now. @throws Error saying what is wrong with its folder or ending */
async function pathOf(
  { path }: KeptFile,
  reports: readonly RunReport[],
  { roots, reportsIn }: { roots: readonly string[] | undefined; reportsIn: string },
): Promise<string> {
  const periods = reports.flatMap(({ period }) => period ?? []).sort();
  const [first, last] = [periods[0], periods.at(-1)];
  const label = first === undefined ? 'no period' : first === last ? first : `${first} to ${last!}`;
  const named = resolve(path.replaceAll('{periods}', label));
  formatOf(named);
  const folder = dirname(named);
  return join(await folderWithinRoots(folder, roots ?? [reportsIn, process.cwd()]), basename(named));
}

/** @returns whether it says something else than before */
async function write(
  store: Store,
  pipeline: StoredPipeline,
  publication: Publication,
  kept: KeptFile,
  path: string,
  came: readonly RunReport[] | undefined,
  signal: AbortSignal | undefined,
): Promise<boolean> {
  const dialect = v.safeParse(csvDialect, kept.csv ?? {});
  if (!dialect.success) throw new Error(faultsOf(new v.ValiError(dialect.issues)));
  const places = came
    ? await rowsOfReports(
        store,
        publication,
        came.map(({ report }) => report),
      )
    : undefined;
  return writeDataset(
    store,
    pipeline,
    publication,
    path,
    { format: formatOf(path), dialect: dialect.output, places },
    signal,
  );
}

/** The rows of some reports, by their numbers in the dataset. */
async function rowsOfReports(store: Store, publication: Publication, reports: readonly number[]): Promise<Uint32Array> {
  const places: number[] = [];
  for (const { part, startRow } of await stretchesOf(store, publication)) {
    const rows = await store.patient.transaction(async (session) =>
      session.query<{ ordinal: number }>(
        `select ordinal from ${quoted(await dataTableOf(session, publication.pipeline))} where part = $1 and report in (${reports.map(Number).join(', ')}) order by ordinal`,
        [part],
      ),
    );
    places.push(...rows.map(({ ordinal }) => startRow + ordinal));
  }
  return Uint32Array.from(places);
}

const isThere = (path: string): Promise<boolean> =>
  access(path).then(
    () => true,
    () => false,
  );

/** What the machine says, in words; the sentences of our own as they are. */
function because({ code, message }: NodeJS.ErrnoException): string {
  if (code === 'EACCES' || code === 'EPERM' || code === 'EROFS')
    return 'this program may not write there. Change the permissions of its folder, or choose another.';
  if (code === 'EBUSY') return 'another program holds it open. Close it there and refresh again.';
  if (code === 'ENOSPC') return 'the disk is full. Make room and refresh again.';
  if (code === 'EISDIR') return 'there is a folder of that name. Choose another name.';
  return message;
}
