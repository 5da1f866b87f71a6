import { lookUpSteps, withLists, type LookUpStep } from '../../core/pipeline/bound-lists';
import type { Pipeline } from '../../core/pipeline/document';
import { sameName } from '../../core/sheet/column';
import type { List, ListSource } from '../../core/sheet/list';
import type { Cell } from '../../core/values/cell';
import { datasetWindow, publicationOf, type Publication } from '../store/dataset';
import { listContent, listFile, type PartList } from '../store/lists';
import { pipelineByName } from '../store/pipelines';
import type { Store } from '../store/store';
import { hasListFile, listFileContent, versionOfList, writeListFile } from './list-files';

export interface BoundDocument {
  /** The document with the version of the list that each step looks into. */
  readonly document: Pipeline;
  readonly lists: readonly PartList[];
}

interface Around {
  readonly store: Store;
  readonly cacheFolder: string;
  /** Keeps the rows of a publication while they are read. */
  readonly reading?: <T>(publication: number, work: () => Promise<T>) => Promise<T>;
}

/** A list as it is now: a file as it was uploaded last, or a dataset as it is published; undefined where there is none. @param own id of the pipeline that asks, which is never its own list */
export async function listNow(
  around: Around,
  own: number,
  from: ListSource,
  columns: readonly string[],
): Promise<List | undefined> {
  const version =
    from.is === 'file' ? await ofFile(around, from.name) : await ofDataset(around, own, { from, columns });
  return version === undefined ? undefined : (JSON.parse(await listFileContent(around.cacheFolder, version)) as List);
}

/** Versions of datasets, by the publication and the columns that are needed of it. */
const ofPublications = new Map<string, string>();
const mostKnown = 200;

/**
 * Says which version of each list the steps of a document look into now, and sees to it that the threads have it: the file
 * as it was uploaded last, or the dataset as it is published. A list that is not there stays unsaid.
 */
export async function boundDocument(
  around: Around,
  pipeline: { readonly id: number; readonly document: Pipeline },
): Promise<BoundDocument> {
  const lists: PartList[] = [];
  for (const look of lookUpSteps(pipeline.document)) {
    const version =
      look.from.is === 'file' ? await ofFile(around, look.from.name) : await ofDataset(around, pipeline.id, look);
    if (version !== undefined) lists.push({ step: look.step, version });
  }
  return { document: boundTo(pipeline.document, lists), lists };
}

export const boundTo = (document: Pipeline, lists: readonly PartList[]): Pipeline =>
  withLists(document, new Map(lists.map(({ step, version }) => [step, version])));

async function ofFile({ store, cacheFolder }: Around, name: string): Promise<string | undefined> {
  const file = await listFile(store, name);
  return file && haveFile({ store, cacheFolder }, file.version);
}

/** Sees to it that a kept version is a file of the cache; undefined where it is not kept. */
export async function haveFile(
  { store, cacheFolder }: Pick<Around, 'store' | 'cacheFolder'>,
  version: string,
): Promise<string | undefined> {
  if (await hasListFile(cacheFolder, version)) return version;
  const content = await listContent(store, version);
  if (content === undefined) return undefined;
  await writeListFile(cacheFolder, version, content);
  return version;
}

async function ofDataset(
  { store, cacheFolder, reading = (_, work) => work() }: Around,
  own: number,
  { from, columns }: Pick<LookUpStep, 'from' | 'columns'>,
): Promise<string | undefined> {
  const pipeline = await pipelineByName(store, from.name);
  // What is not published yet cannot be looked into: a pipeline never looks into itself.
  const publication = pipeline && pipeline.id !== own ? await publicationOf(store, pipeline.id) : undefined;
  if (!publication) return undefined;
  const key = JSON.stringify([publication.token, from.name, columns]);
  const known = ofPublications.get(key);
  if (known !== undefined && (await hasListFile(cacheFolder, known))) return known;
  const { version, content } = versionOfList(
    await reading(publication.id, () => datasetList(store, publication, from.name, columns)),
  );
  await writeListFile(cacheFolder, version, content);
  ofPublications.set(key, version);
  if (ofPublications.size > mostKnown) ofPublications.delete(ofPublications.keys().next().value!);
  return version;
}

const pieceRows = 5_000;

/** Some columns of a published dataset, misfits as misfits. */
async function datasetList(
  store: Store,
  publication: Publication,
  name: string,
  wanted: readonly string[],
): Promise<List> {
  const needed = publication.columns.map(({ heading }) => wanted.some((each) => sameName(each, heading)));
  const columns = publication.columns
    .filter((_, i) => needed[i])
    .map(({ heading, type }) => ({ name: heading, type, cells: [] as Cell[] }));
  for (let start = 0; start < publication.rows; start += pieceRows) {
    const rows = await store.patient.transaction((session) => datasetWindow(session, publication, start, pieceRows));
    for (const { cells } of rows) cells.filter((_, i) => needed[i]).forEach((cell, i) => columns[i].cells.push(cell));
  }
  return { name, columns, rows: publication.rows };
}
