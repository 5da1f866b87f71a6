import { isNumeric } from '../../core/sheet/column';
import type { DatasetRow } from '../contract/answers';
import { dataTableOf, type DatasetColumn } from './data-table';
import { quoted, type Row, type Session, type Store } from './store';

export interface Publication {
  readonly id: number;
  readonly pipeline: number;
  readonly rows: number;
  readonly misfits: number;
  readonly columns: readonly DatasetColumn[];
  readonly publishedAt: string;
  /** Tells this publication from every other, also of other data folders. */
  readonly token: string;
  /** The version that it was made with; null: by a program that did not know versions. */
  readonly version: number | null;
}

/** The published dataset of a pipeline, if there is one yet. */
export async function publicationOf(store: Session, pipeline: number): Promise<Publication | undefined> {
  const [row] = await store.query<{
    id: number;
    rows: string;
    misfits: string;
    columns: string;
    published_at: string;
    token: string;
    version: number | null;
  }>(
    'select b.id, b.rows, b.misfits, b.columns, b.published_at, b.token, b.version from publication b join pipeline p on p.publication = b.id where p.id = $1',
    [pipeline],
  );
  return (
    row && {
      id: row.id,
      pipeline,
      rows: Number(row.rows),
      misfits: Number(row.misfits),
      columns: JSON.parse(row.columns) as DatasetColumn[],
      publishedAt: row.published_at,
      token: row.token,
      version: row.version,
    }
  );
}

/** A part of a published dataset: which of its rows it holds. */
interface Stretch {
  readonly part: number;
  /** How many rows of the dataset stand before it. */
  readonly startRow: number;
  readonly rows: number;
}

/** All parts of a publication, in order. */
export async function stretchesOf(store: Session, publication: Publication): Promise<Stretch[]> {
  const parts = await store.query<{ part: number; start_row: string; rows: number }>(
    'select pp.part, pp.start_row, t.rows from publication_part pp join part t on t.id = pp.part where pp.publication = $1 order by pp.position',
    [publication.id],
  );
  return parts.map(({ part, start_row, rows }) => ({ part, startRow: Number(start_row), rows }));
}

/** The ordinals of each part at which the rows from `start` on, `count` of them, stand. */
export const ordinalsAt = (
  stretches: readonly Stretch[],
  start: number,
  count: number,
): { part: number; startRow: number; from: number; to: number }[] =>
  stretches
    .map(({ part, startRow, rows }) => ({
      part,
      startRow,
      from: Math.max(0, start - startRow),
      to: Math.min(rows, start + count - startRow),
    }))
    .filter(({ from, to }) => from < to);

/** A published row without its place in the dataset, which others may move. */
export type PartRow = Omit<DatasetRow, 'row'> & { readonly at: number };

/** Rows of a part. Ordinals run from 0 without gaps in every part, so any place is found by key. @param from the first ordinal @param to the one after the last */
export const partRows = async (
  store: Session,
  table: string,
  publication: Publication,
  part: number,
  from: number,
  to: number,
): Promise<PartRow[]> =>
  (await rowsWhere(store, table, publication, `part = ${part} and ordinal >= ${from} and ordinal < ${to}`)).map(
    ({ part: _, ...row }) => row,
  );

/** Rows of the data table that a condition on their part and ordinal takes, in the order of these. */
async function rowsWhere(
  store: Session,
  table: string,
  publication: Publication,
  condition: string,
): Promise<(PartRow & { part: number })[]> {
  // Numbers and yes or no as JSON has them, all else as the database prints it.
  const cells = publication.columns.map(({ identifier, type }) =>
    isNumeric(type) || type === 'boolean' ? quoted(identifier) : `${quoted(identifier)}::text`,
  );
  // As one value: many rows of many columns take twice as long to go from the database.
  const [{ json }] = await store.query<{ json: string | null }>(
    `select json_agg(each)::text as json from (
       select part, ordinal, report, source_table, source_row, page${cells.map((cell) => `, ${cell}`).join('')} from ${quoted(table)}
       where ${condition} order by part, ordinal) each`,
  );
  const rows = JSON.parse(json ?? '[]') as Row[];
  const problems = await store.query<{
    part: number;
    ordinal: number;
    identifier: string;
    text: string;
    expected: string;
  }>(`select part, ordinal, identifier, text, expected from dataset_problem where ${condition}`);
  const problemAt = new Map(
    problems.map((p) => [`${p.part} ${p.ordinal} ${p.identifier}`, { text: p.text, expected: p.expected }]),
  );
  return rows.map((row) => ({
    part: row.part as number,
    at: row.ordinal as number,
    report: row.report as number,
    page: row.page as number,
    table: row.source_table as string,
    ordinal: row.source_row as number,
    cells: publication.columns.map(({ identifier }) => {
      const value = row[identifier] as string | number | boolean | null;
      return value ?? problemAt.get(`${row.part as number} ${row.ordinal as number} ${identifier}`) ?? null;
    }),
  }));
}

/** The published rows of these numbers, in this order. */
export async function rowsAt(
  store: Session,
  publication: Publication,
  places: ArrayLike<number>,
): Promise<DatasetRow[]> {
  if (places.length === 0) return [];
  const stretches = await stretchesOf(store, publication);
  const keys = Array.from(places, (row): readonly [number, number] => {
    const { part, startRow } = stretches.findLast((each) => each.startRow <= row)!;
    return [part, row - startRow];
  });
  const startOf = new Map(stretches.map(({ part, startRow }) => [part, startRow]));
  const found = await rowsWhere(
    store,
    await dataTableOf(store, publication.pipeline),
    publication,
    `(part, ordinal) in (${keys.map(([part, ordinal]) => `(${part}, ${ordinal})`).join(', ')})`,
  );
  const byKey = new Map(found.map(({ part, ...row }) => [`${part} ${row.at}`, inDataset(row, startOf.get(part)!)]));
  return keys.map(([part, ordinal]) => byKey.get(`${part} ${ordinal}`)!);
}

export const inDataset = ({ at, ...row }: PartRow, startRow: number): DatasetRow => ({ row: startRow + at, ...row });

/**
 * A window of the published rows.
 * @param start from 0
 */
export async function datasetWindow(
  store: Session,
  publication: Publication,
  start: number,
  count: number,
): Promise<DatasetRow[]> {
  const table = await dataTableOf(store, publication.pipeline);
  const result: DatasetRow[] = [];
  for (const { part, startRow, from, to } of ordinalsAt(await stretchesOf(store, publication), start, count))
    for (const row of await partRows(store, table, publication, part, from, to)) result.push(inDataset(row, startRow));
  return result;
}

/** The published dataset with a window of its rows, asked for in one turn: it waits for one batch of a publish at most. */
export const publishedWindow = (
  store: Store,
  pipeline: number,
  start: number,
  count: number,
): Promise<{ publication: Publication; rows: DatasetRow[] } | undefined> =>
  store.transaction(async (session) => {
    const publication = await publicationOf(session, pipeline);
    return publication && { publication, rows: await datasetWindow(session, publication, start, count) };
  });
