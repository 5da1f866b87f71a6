import { parsePipeline, type Pipeline } from '../../core/pipeline/document';
import { dataTableOf } from './data-table';
import { freeIdentifier, publishedView, slug } from './names';
import { clearLeftovers } from './publish';
import { quoted, StoreError, type Session, type Store } from './store';

export interface StoredPipeline {
  readonly id: number;
  readonly document: Pipeline;
  /** The version that the document is. */
  readonly version: number;
  readonly folder: string;
  readonly managed: boolean;
  readonly viewName: string;
  readonly publication: number | null;
}

interface PipelineRow {
  id: number;
  document: string;
  version: number;
  folder: string;
  managed: boolean;
  view_name: string;
  publication: number | null;
}

/** Documents as they were parsed last: they are asked for far more often than they change. */
const parsed = new Map<string, Pipeline>();
const mostParsed = 200;

function parsedOnce(text: string): Pipeline {
  const known = parsed.get(text);
  if (known) return known;
  const document = parsePipeline(JSON.parse(text));
  parsed.set(text, document);
  if (parsed.size > mostParsed) parsed.delete(parsed.keys().next().value!);
  return document;
}

const stored = ({ document, view_name, ...row }: PipelineRow): StoredPipeline => ({
  ...row,
  document: parsedOnce(document),
  viewName: view_name,
});
const select =
  'select p.id, v.document, p.version, p.folder, p.managed, p.view_name, p.publication from pipeline p join pipeline_version v on v.pipeline = p.id and v.version = p.version';

export const allPipelines = async (store: Store): Promise<StoredPipeline[]> =>
  (await store.query<PipelineRow>(`${select} order by p.name`)).map(stored);

export async function pipelineById(store: Session, id: number): Promise<StoredPipeline | undefined> {
  const [row] = await store.query<PipelineRow>(`${select} where p.id = $1`, [id]);
  return row && stored(row);
}

export async function pipelineByName(store: Store, name: string): Promise<StoredPipeline | undefined> {
  const [row] = await store.query<PipelineRow>(`${select} where p.name = $1`, [name]);
  return row && stored(row);
}

const textOf = (document: Pipeline): string => JSON.stringify(document, null, 2);

const addVersion = (session: Session, pipeline: number, version: number, document: Pipeline, who: string) =>
  session.execute('insert into pipeline_version (pipeline, version, document, saved_by) values ($1, $2, $3, $4)', [
    pipeline,
    version,
    textOf(document),
    who,
  ]);

/** There is a pipeline of that name already. */
export class NameTaken extends Error {
  constructor(name: string) {
    super(`There is a pipeline “${name}” already. Choose another name.`);
    this.name = 'NameTaken';
  }
}

/** Saves a document under its name. @throws NameTaken, as the database alone can tell: two may be saved at the same time */
const named = <T>(name: string, save: Promise<T>): Promise<T> =>
  save.catch((error: Error) => {
    throw error instanceof StoreError && error.code === uniqueViolation ? new NameTaken(name) : error;
  });

/** SQLSTATE of a row that would be there twice. */
const uniqueViolation = '23505';

/** Saves a new pipeline; the name under which other programs query it is made from its own and stays. @throws NameTaken */
export async function addPipeline(
  store: Store,
  document: Pipeline,
  folder: string,
  { managed = false, who = '' }: { managed?: boolean; who?: string } = {},
): Promise<StoredPipeline> {
  return named(
    document.name,
    store.transaction(async (session) => {
      // The view comes with the first publication; until then its name is taken by the row here.
      const taken = await session.query<{ view_name: string }>('select view_name from pipeline');
      const free = freeIdentifier(slug(document.name, 'dataset'), new Set(taken.map((row) => row.view_name)));
      const [{ id }] = await session.query<{ id: number }>(
        'insert into pipeline (name, version, folder, managed, view_name) values ($1, 1, $2, $3, $4) returning id',
        [document.name, folder, managed, free],
      );
      await addVersion(session, id, 1, document, who);
      return (await pipelineById(session, id))!;
    }),
  );
}

/** Another version was saved since the one that a save was meant to change. */
export class ChangedMeanwhile extends Error {
  /** @param now the version that is the last one now */
  constructor(readonly now: number) {
    super();
  }
}

/**
 * Saves a document as a new version, unless it is what the last one says.
 * @param from the version that it changes
 * @throws ChangedMeanwhile when that is not the last one, or NameTaken; nothing is saved then
 */
export const savePipeline = (
  store: Store,
  id: number,
  document: Pipeline,
  { from, who = '', folder }: { from: number; who?: string; folder?: string },
): Promise<StoredPipeline> =>
  named(
    document.name,
    store.transaction(async (session) => {
      const before = (await pipelineById(session, id))!;
      if (before.version !== from) throw new ChangedMeanwhile(before.version);
      if (folder !== undefined && folder !== before.folder) await moveToFolder(session, id, folder);
      const saved = { ...before, folder: folder ?? before.folder };
      if (textOf(document) === textOf(before.document)) return saved;
      await addVersion(session, id, from + 1, document, who);
      await session.execute('update pipeline set name = $2, version = $3 where id = $1', [id, document.name, from + 1]);
      return { ...saved, document, version: from + 1 };
    }),
  );

export interface StoredVersion {
  readonly version: number;
  readonly document: Pipeline;
  readonly savedAt: string;
  readonly savedBy: string;
}

/** Versions of a document, the last first. @param below those before this one only */
export async function versionsOf(
  store: Session,
  pipeline: number,
  most: number,
  below = 2 ** 31 - 1,
): Promise<StoredVersion[]> {
  const rows = await store.query<{ version: number; document: string; saved_at: string; saved_by: string }>(
    'select version, document, saved_at, saved_by from pipeline_version where pipeline = $1 and version < $2 order by version desc limit $3',
    [pipeline, below, most],
  );
  return rows.map((row) => ({
    version: row.version,
    document: parsedOnce(row.document),
    savedAt: row.saved_at,
    savedBy: row.saved_by,
  }));
}

/** The document as it was saved once. */
export async function versionOf(store: Session, pipeline: number, version: number): Promise<StoredVersion | undefined> {
  const [found] = await versionsOf(store, pipeline, 1, version + 1);
  return found?.version === version ? found : undefined;
}

/** The reports are to be found in another folder from now on. */
export const moveToFolder = (store: Session, id: number, folder: string) =>
  store.execute('update pipeline set folder = $2 where id = $1', [id, folder]);

/** Deletes a pipeline with its dataset, versions and history; the reports in its folder stay. */
export async function deletePipeline(store: Store, { id, viewName }: StoredPipeline): Promise<void> {
  await store.execute('update pipeline set publication = null where id = $1', [id]);
  await store.script(`drop view if exists ${publishedView(viewName)}`);
  await clearLeftovers(store, id);
  await store.script(`drop table if exists ${quoted(await dataTableOf(store, id))}`);
  await store.execute('delete from pipeline where id = $1', [id]);
}
