import type { StepLists } from '../../core/pipeline/layers';
import type { StoredPipeline } from '../store/pipelines';
import { versionOf } from '../store/pipelines';
import { publishedWindow } from '../store/dataset';
import { partOfRow, publishedParts, type PublishedRows } from '../store/published';
import { boundTo, haveFile } from '../lists/bind';
import { partLists } from '../store/lists';
import { dataTableOf } from '../store/data-table';
import { quoted, type Store } from '../store/store';
import type { DatasetRow } from '../contract/answers';
import type { Publication } from '../store/dataset';
import type { Look, ReportTask } from '../work/session';
import { buildWords, isThisBuild, thisBuild, type Build } from '../setup/build';
import type { NamedRow } from '../work/looks/trace';

/** How a report of the dataset is looked at: with the document, the file and the reader that made its rows. */
export interface PublishedLook extends Omit<Look, 'pulse' | 'pages'> {
  /** The version of the document, and its steps. */
  readonly version: number;
  readonly steps: StepLists;
}

/** The rows were published by a program that did not know yet what they were made of. */
export class NotExplained extends Error {
  constructor() {
    super(
      'This dataset was published by an older program, which did not keep what it was made of. Refresh once; then every cell can be traced.',
    );
  }
}

/** The rows were made by another build: what this one would make of the paper explains nothing of them. */
export class MadeByAnother extends Error {
  constructor(build: Build | null) {
    super(
      `These rows were made by ${buildWords(build)}; this is ${buildWords(thisBuild)}, which may read otherwise. ` +
        'Refresh: then they are made by this one, every cell can be traced, and the run says which cells changed by it.',
    );
  }
}

interface Around {
  readonly store: Store;
  readonly cacheFolder: string;
  /** Full path of a file of the folder. */
  readonly fileOf: (path: string) => Promise<string>;
}

/**
 * The look at a report as it was published; undefined where it is not in the dataset.
 * @throws NotExplained
 * @throws MadeByAnother
 */
export async function asPublished(
  { store, cacheFolder, fileOf }: Around,
  pipeline: StoredPipeline,
  report: number,
): Promise<PublishedLook | undefined> {
  const parts = await publishedParts(store, pipeline.id);
  const part = parts.find(
    (each) =>
      each.report === report ||
      (each.report === null && (each.version === null || each.inputs.some((input) => input.report === report))),
  );
  if (!part) return undefined;
  const stored = part.version === null ? undefined : await versionOf(store, pipeline.id, part.version);
  if (!stored || part.version === null || part.reading === null) throw new NotExplained();
  if (!isThisBuild(part.build)) throw new MadeByAnother(part.build);
  const { reading } = part;
  const task = async ({
    report: id,
    path,
    sha256,
    period = null,
  }: PublishedRows['inputs'][number]): Promise<ReportTask> => ({
    // The reading in the cache answers; the file is asked only if that is gone, and only as long as it is the same.
    file: await fileOf(path).catch(() => null),
    sha256,
    reading,
    cacheFolder,
    key: String(id),
    path,
    period,
  });
  const own = part.inputs.find((input) => input.report === report)!;
  const lists = await partLists(store, part.id);
  for (const { version } of lists) await haveFile({ store, cacheFolder }, version);
  return {
    document: JSON.stringify(boundTo(stored.document, lists)),
    steps: stored.document,
    version: stored.version,
    source: await task(own),
    ...(part.report === null ? { among: await Promise.all(part.inputs.map(task)) } : {}),
  };
}

export interface PublishedCell {
  readonly publication: Publication;
  readonly row: DatasetRow;
  /** The row by its name, as it is found in what the look gives. */
  readonly named: NamedRow;
}

/** A row of the published dataset; undefined where there is none. @param at from 0 */
export async function publishedRow(store: Store, pipeline: number, at: number): Promise<PublishedCell | undefined> {
  const found = await publishedWindow(store, pipeline, at, 1);
  const row = found?.rows[0];
  const place = found && (await partOfRow(store, found.publication.id, at));
  if (!found || !row || !place) return undefined;
  const { table, ordinal, report } = row;
  const [{ nth }] = await store.query<{ nth: string }>(
    `select count(*) as nth from ${quoted(await dataTableOf(store, pipeline))} where part = $1 and ordinal < $2 and report = $3 and source_table = $4 and source_row = $5`,
    [place.part, place.ordinal, report, table, ordinal],
  );
  return { publication: found.publication, row, named: { table, ordinal, nth: Number(nth) } };
}
