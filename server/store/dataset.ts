import type { ValueType } from '../../core/sheet/column';
import type { DatasetRow } from '../contract/answers';
import { dataTable } from './names';
import { batchRows, csvCell, type DatasetColumn } from './publish';
import { quoted, type Row, type Session, type Store } from './store';

export interface Publication {
  readonly id: number;
  readonly pipeline: number;
  readonly rows: number;
  readonly misfits: number;
  readonly columns: readonly DatasetColumn[];
  readonly publishedAt: string;
  /** The version that it was made with; null: by a program that did not know versions. */
  readonly version: number | null;
}

/** The published dataset of a pipeline, if there is one yet. */
export async function publicationOf(store: Session, pipeline: number): Promise<Publication | undefined> {
  const [row] = await store.query<{ id: number; rows: string; misfits: string; columns: string; published_at: string; version: number | null }>(
    'select b.id, b.rows, b.misfits, b.columns, b.published_at, b.version from publication b join pipeline p on p.publication = b.id where p.id = $1',
    [pipeline],
  );
  return row && { id: row.id, pipeline, rows: Number(row.rows), misfits: Number(row.misfits), columns: JSON.parse(row.columns) as DatasetColumn[], publishedAt: row.published_at, version: row.version };
}

interface Stretch {
  part: number;
  start_row: string;
  rows: number;
}

/** The parts that hold the rows from `start` on, `count` of them: which ordinals of each. */
async function stretchesOf(store: Session, publication: Publication, start: number, count: number) {
  const parts = await store.query<Stretch>(
    `select pp.part, pp.start_row, t.rows from publication_part pp join part t on t.id = pp.part
     where pp.publication = $1 and pp.start_row < $2 and pp.start_row + t.rows > $3 order by pp.position`,
    [publication.id, start + count, start],
  );
  return parts.map(({ part, start_row, rows }) => {
    const first = Number(start_row);
    return { part, startRow: first, from: Math.max(0, start - first), to: Math.min(rows, start + count - first) };
  });
}

const numeric = new Set<ValueType>(['integer', 'decimal', 'percent']);

/**
 * A window of the published rows. Ordinals run from 0 without gaps in every part, so any place is found by key.
 * @param start from 0
 */
export async function datasetWindow(store: Session, publication: Publication, start: number, count: number): Promise<DatasetRow[]> {
  const names = publication.columns.map((column) => quoted(column.identifier));
  const result: DatasetRow[] = [];
  for (const { part, startRow, from, to } of await stretchesOf(store, publication, start, count)) {
    const rows = await store.query<Row>(
      `select ordinal, report, source_table, source_row, page${names.map((name) => `, ${name}`).join('')} from ${quoted(dataTable(publication.pipeline))}
       where part = $1 and ordinal >= $2 and ordinal < $3 order by ordinal`,
      [part, from, to],
    );
    const problems = await store.query<{ ordinal: number; identifier: string; text: string; expected: string }>(
      'select ordinal, identifier, text, expected from dataset_problem where part = $1 and ordinal >= $2 and ordinal < $3',
      [part, from, to],
    );
    const problemAt = new Map(problems.map((p) => [`${p.ordinal} ${p.identifier}`, { text: p.text, expected: p.expected }]));
    for (const row of rows)
      result.push({
        row: startRow + (row.ordinal as number),
        report: row.report as number,
        page: row.page as number,
        table: row.source_table as string,
        ordinal: row.source_row as number,
        cells: publication.columns.map(({ identifier, type }) => {
          const value = row[identifier] as string | number | boolean | null;
          if (value === null) return problemAt.get(`${row.ordinal as number} ${identifier}`) ?? null;
          return numeric.has(type) ? Number(value) : value;
        }),
      });
  }
  return result;
}

/** The published dataset with a window of its rows, asked for in one turn: it waits for one batch of a publish at most. */
export const publishedWindow = (store: Store, pipeline: number, start: number, count: number): Promise<{ publication: Publication; rows: DatasetRow[] } | undefined> =>
  store.transaction(async (session) => {
    const publication = await publicationOf(session, pipeline);
    return publication && { publication, rows: await datasetWindow(session, publication, start, count) };
  });

/** The published rows as CSV in pieces of at most `batchRows` rows, the headings first. Error cells are blank. */
export async function* datasetCsv(store: Store, publication: Publication): AsyncGenerator<Uint8Array | string> {
  yield `${publication.columns.map(({ heading }) => (/[",\r\n]/.test(heading) ? csvCell(heading) : heading)).join(',')}\n`;
  const cells = publication.columns.map(({ identifier, type }) => (type === 'boolean' ? `${quoted(identifier)}::text` : quoted(identifier))).join(', ');
  for (let start = 0; start < publication.rows; start += batchRows)
    for (const { part, from, to } of await stretchesOf(store, publication, start, batchRows))
      yield await store.copyOut(
        `select ${cells} from ${quoted(dataTable(publication.pipeline))} where part = ${part} and ordinal >= ${from} and ordinal < ${to} order by ordinal`,
      );
}
