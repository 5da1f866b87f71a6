import { countTies } from '../../core/ties/tied';
import type { PartInput } from '../../core/runs/plan';
import type { KeptTotal } from '../contract/answers';
import type { Build } from '../setup/build';
import { dataTableOf, identify, renewDataTable, type DatasetColumn, type NewColumn } from './data-table';
import { publishedView, rowColumns } from './names';
import { addPartLists, clearUnusedLists, type PartList } from './lists';
import { batchRows, literal, quoted, type Session, type Store } from './store';

/** Rows as they go into the database, CSV in batches of at most `batchRows` rows. */
export interface LoadedRows {
  readonly rows: number;
  readonly held: number;
  readonly columns: readonly NewColumn[];
  /** Each line: part, ordinal, report, the found table and the row's place there, page, then the cells in the order of `columns`. */
  readonly batches: AsyncIterable<string> | Iterable<string>;
  readonly misfits: readonly { ordinal: number; heading: string; text: string; expected: string }[];
  readonly totals: readonly KeptTotal[];
}

/** What a part was made of. */
export interface MadeOf {
  /** The version of the document. */
  readonly version: number;
  readonly build: Build;
  readonly inputs: readonly PartInput[];
  /** The lists that steps looked into, and the content of a version. */
  readonly lists?: readonly PartList[];
  readonly listContent?: (version: string) => Promise<string>;
}

/** Named moments of a publish, told to whoever watches it. */
export type Moment = 'batch loaded' | 'before the switch' | 'after the switch';
export type Watch = (moment: Moment) => void | Promise<void>;

/**
 * Gives out the id under which a part will be loaded, so that its rows can carry it.
 * @param report null: the rows of all reports
 */
export async function reservePart(
  store: Store,
  pipeline: number,
  report: number | null,
  resultKey: string,
  { version, build, inputs, lists = [], listContent }: MadeOf,
): Promise<number> {
  return store.transaction(async (session) => {
    const [{ id }] = await session.query<{ id: number }>(
      'insert into part (pipeline, report, result_key, version, build, reading, inputs) values ($1, $2, $3, $4, $5, $6, $7) returning id',
      [pipeline, report, resultKey, version, JSON.stringify(build), build.stages.reading, JSON.stringify(inputs)],
    );
    if (listContent) await addPartLists(session, id, lists, listContent);
    return id;
  });
}

/**
 * Loads the rows of a reserved part in batches, each its own statement. They are not published yet.
 * @param told what is to be known of them beside the cells, kept as JSON
 */
export async function loadPart(
  store: Store,
  pipeline: number,
  id: number,
  part: LoadedRows,
  told: unknown,
  watch: Watch = () => undefined,
  stopped: () => boolean = () => false,
): Promise<void> {
  const columns = await identify(store, pipeline, part.columns);
  const table = await dataTableOf(store, pipeline);
  const names = [...rowColumns, ...columns.map((column) => column.identifier)];
  for await (const csv of part.batches) {
    if (stopped()) throw new Cancelled();
    await store.patient.copyIn(table, names, csv);
    await watch('batch loaded');
  }
  const identifierOf = new Map(columns.map((column) => [column.heading, column.identifier]));
  for (let i = 0; i < part.misfits.length; i += batchRows)
    await store.patient.copyIn(
      'dataset_problem',
      ['part', 'ordinal', 'identifier', 'text', 'expected'],
      part.misfits
        .slice(i, i + batchRows)
        .map((m) => csvLine([id, m.ordinal, identifierOf.get(m.heading)!, m.text, m.expected]))
        .join(''),
    );
  if (part.totals.length > 0)
    await store.copyIn(
      'kept_total',
      [
        'part',
        'position',
        'step',
        'report',
        'source_table',
        'source_row',
        'printed_on',
        'reason',
        'level',
        'covers',
        'differs',
        'ties',
        'amounts_off',
        'cells',
      ],
      part.totals
        .map((t, i) =>
          csvLine([
            id,
            i,
            t.step,
            t.row.report,
            t.row.table,
            t.row.ordinal,
            t.page,
            t.reason,
            t.level,
            JSON.stringify(t.covers),
            JSON.stringify(t.differs),
            JSON.stringify(t.ties),
            countTies(t.ties).off,
            JSON.stringify(t.cells),
          ]),
        )
        .join(''),
    );
  await store.execute('update part set rows = $2, held = $3, misfits = $4, columns = $5, details = $6 where id = $1', [
    id,
    part.rows,
    part.held,
    part.misfits.length,
    JSON.stringify(columns.map((column) => column.identifier)),
    JSON.stringify(told),
  ]);
}

/** The run was cancelled by the user. */
export class Cancelled extends Error {
  constructor() {
    super('The run was cancelled.');
    this.name = 'Cancelled';
  }
}

export const csvCell = (value: string | number | boolean | null): string =>
  value === null ? '' : typeof value === 'string' ? `"${value.replaceAll('"', '""')}"` : String(value);
export const csvLine = (values: readonly (string | number | boolean | null)[]): string =>
  `${values.map(csvCell).join(',')}\n`;

export interface PublishedPart {
  readonly part: number;
  readonly stale: boolean;
}

/**
 * Makes loaded parts the published dataset: prepares the publication, then moves the pointer in one short transaction.
 * Readers see the dataset before or the one after, never anything between.
 */
export async function publish(
  store: Store,
  pipeline: number,
  run: number,
  version: number,
  parts: readonly PublishedPart[],
  columns: readonly NewColumn[],
  watch: Watch,
): Promise<{ publication: number; rows: number; misfits: number }> {
  const identified = await identify(store, pipeline, columns);
  const sizes = new Map(
    (
      await store.query<{ id: number; rows: number; misfits: number }>(
        'select id, rows, misfits from part where pipeline = $1',
        [pipeline],
      )
    ).map((part) => [part.id, part]),
  );
  const rows = parts.reduce((sum, { part }) => sum + sizes.get(part)!.rows, 0);
  const misfits = parts.reduce((sum, { part }) => sum + sizes.get(part)!.misfits, 0);
  const [{ id: publication }] = await store.query<{ id: number }>(
    'insert into publication (pipeline, run, version, rows, misfits, columns) values ($1, $2, $3, $4, $5, $6) returning id',
    [pipeline, run, version, rows, misfits, JSON.stringify(identified)],
  );
  let start = 0;
  const lines = parts.map(({ part, stale }, position) => {
    const line = csvLine([publication, position, part, start, stale]);
    start += sizes.get(part)!.rows;
    return line;
  });
  if (lines.length > 0)
    await store.copyIn('publication_part', ['publication', 'position', 'part', 'start_row', 'stale'], lines.join(''));
  await watch('before the switch');
  await store.transaction(async (session) => {
    await session.execute('update publication set published_at = now() where id = $1', [publication]);
    await session.execute('update pipeline set publication = $1 where id = $2', [publication, pipeline]);
    await session.execute(
      "update run set state = 'published', ended_at = now(), publication = $1, rows = $2 where id = $3",
      [publication, rows, run],
    );
    await replaceView(session, pipeline, await dataTableOf(session, pipeline), identified);
  });
  await watch('after the switch');
  return { publication, rows, misfits };
}

/** The view under the pipeline's documented name: the rows of the published parts. */
async function replaceView(
  session: Session,
  pipeline: number,
  table: string,
  columns: readonly DatasetColumn[],
): Promise<void> {
  const [{ view_name }] = await session.query<{ view_name: string }>('select view_name from pipeline where id = $1', [
    pipeline,
  ]);
  const view = publishedView(view_name);
  await session.script(`drop view if exists ${view}`);
  await session.script(
    `create view ${view} as select ${['report', 'page', ...columns.map((c) => c.identifier)].map((name) => `d.${quoted(name)}`).join(', ')}
     from ${quoted(table)} d join publication_part pp on pp.part = d.part join pipeline p on p.publication = pp.publication
     where p.id = ${pipeline}`,
  );
  for (const column of columns)
    await session.script(`comment on column ${view}.${quoted(column.identifier)} is ${literal(column.heading)}`);
}

/**
 * Clears what no publication needs: parts and publications left by a broken or superseded run, in small statements.
 * @param inUse publications that somebody is still reading
 */
export async function clearLeftovers(
  store: Store,
  pipeline: number,
  inUse: ReadonlySet<number> = new Set(),
): Promise<void> {
  const [current] = await store.query<{ publication: number | null }>(
    'select publication from pipeline where id = $1',
    [pipeline],
  );
  const keep = [...inUse, ...(current?.publication ? [current.publication] : [])];
  const kept = keep.length > 0 ? keep.join(', ') : '-1';
  await store.execute(`delete from publication where pipeline = $1 and id not in (${kept})`, [pipeline]);
  const dead = await store.query<{ id: number }>(
    'select id from part where pipeline = $1 and not exists (select 1 from publication_part pp where pp.part = part.id)',
    [pipeline],
  );
  const dataTable = await dataTableOf(store, pipeline);
  const [{ there }] = await store.query<{ there: boolean }>('select to_regclass($1) is not null as there', [dataTable]);
  const table = quoted(dataTable);
  for (const { id } of dead) {
    let from = 0;
    // A part left by a broken run does not know its count: delete until nothing is left.
    while (
      there &&
      (await store.patient.execute(`delete from ${table} where part = $1 and ordinal < $2`, [
        id,
        (from += batchRows),
      ])) > 0
    );
    await store.execute('delete from part where id = $1', [id]);
  }
  await clearUnusedLists(store);
}

/** Makes room in a data table that has gathered many columns, at the beginning of a run. @param many from how many on */
export const makeRoomForColumns = (store: Store, pipeline: number, many?: number): Promise<void> =>
  renewDataTable(
    store,
    pipeline,
    async (session, table) => {
      const [current] = await session.query<{ columns: string }>(
        'select b.columns from publication b join pipeline p on p.publication = b.id where p.id = $1',
        [pipeline],
      );
      if (current) await replaceView(session, pipeline, table, JSON.parse(current.columns) as DatasetColumn[]);
    },
    many,
  );
