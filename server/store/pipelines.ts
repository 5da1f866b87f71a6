import { parsePipeline, type Pipeline } from '../../core/pipeline/document';
import { freeIdentifier, slug } from './names';
import { clearLeftovers } from './publish';
import { dataTable } from './names';
import { quoted, type Store } from './store';

export interface StoredPipeline {
  readonly id: number;
  readonly document: Pipeline;
  readonly folder: string;
  readonly managed: boolean;
  readonly viewName: string;
  readonly publication: number | null;
}

interface PipelineRow {
  id: number;
  document: string;
  folder: string;
  managed: boolean;
  view_name: string;
  publication: number | null;
}

const stored = (row: PipelineRow): StoredPipeline => ({
  id: row.id,
  document: parsePipeline(JSON.parse(row.document)),
  folder: row.folder,
  managed: row.managed,
  viewName: row.view_name,
  publication: row.publication,
});
const columns = 'id, document, folder, managed, view_name, publication';

export const allPipelines = async (store: Store): Promise<StoredPipeline[]> => (await store.query<PipelineRow>(`select ${columns} from pipeline order by name`)).map(stored);

export async function pipelineById(store: Store, id: number): Promise<StoredPipeline | undefined> {
  const [row] = await store.query<PipelineRow>(`select ${columns} from pipeline where id = $1`, [id]);
  return row && stored(row);
}

export async function pipelineByName(store: Store, name: string): Promise<StoredPipeline | undefined> {
  const [row] = await store.query<PipelineRow>(`select ${columns} from pipeline where name = $1`, [name]);
  return row && stored(row);
}

/** Saves a new pipeline; the name under which other programs query it is made from its own and stays. */
export async function addPipeline(store: Store, document: Pipeline, folder: string, managed = false): Promise<StoredPipeline> {
  const id = await store.transaction(async (session) => {
    const others = await session.query<{ relname: string }>("select relname from pg_class where relkind in ('r', 'v')");
    const viewName = freeIdentifier(slug(document.name, 'dataset'), new Set(others.map((row) => row.relname)));
    // The view comes with the first publication; until then its name is taken by the row here.
    const taken = await session.query<{ view_name: string }>('select view_name from pipeline');
    const free = freeIdentifier(viewName, new Set(taken.map((row) => row.view_name)));
    const [row] = await session.query<{ id: number }>('insert into pipeline (name, document, folder, managed, view_name) values ($1, $2, $3, $4, $5) returning id', [
      document.name,
      JSON.stringify(document, null, 2),
      folder,
      managed,
      free,
    ]);
    return row.id;
  });
  return (await pipelineById(store, id))!;
}

export const savePipeline = (store: Store, id: number, document: Pipeline, folder: string) =>
  store.execute('update pipeline set name = $2, document = $3, folder = $4 where id = $1', [id, document.name, JSON.stringify(document, null, 2), folder]);

/** Deletes a pipeline with its dataset and history; the reports in its folder stay. */
export async function deletePipeline(store: Store, { id, viewName }: StoredPipeline): Promise<void> {
  await store.execute('update pipeline set publication = null where id = $1', [id]);
  await store.script(`drop view if exists ${quoted(viewName)}`);
  await clearLeftovers(store, id);
  await store.script(`drop table if exists ${quoted(dataTable(id))}`);
  await store.execute('delete from pipeline where id = $1', [id]);
}
