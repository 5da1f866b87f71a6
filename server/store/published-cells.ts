// What is asked of many published cells at once: what they hold together, and where a text stands. The database works it out.
import { holds, type CellFound, type Sought } from '../../core/sheet/find-cell';
import { measured, stretchesByColumn, type CellRange, type ColumnMeasure, type Measured } from '../../core/sheet/measure';
import type { ValueType } from '../../core/sheet/column';
import { dataTableOf, type DatasetColumn } from './data-table';
import { datasetWindow, ordinalsAt, stretchesOf, type Publication } from './dataset';
import { quoted, type Row, type Session } from './store';

const numeric = new Set<ValueType>(['integer', 'decimal', 'percent']);
const ordered = new Set<ValueType>(['date', 'time', 'datetime', 'period']);

/** What some cells of the published dataset hold together. */
export async function publishedMeasure(session: Session, publication: Publication, ranges: readonly CellRange[]): Promise<Measured> {
  const table = quoted(await dataTableOf(session, publication.pipeline));
  const parts = await stretchesOf(session, publication);
  const measures: ColumnMeasure[] = [];
  const ofColumn: number[] = [];
  for (const [at, rows] of stretchesByColumn(ranges)) {
    const column = publication.columns[at];
    if (!column) continue;
    for (const [first, last] of rows) for (const { part, from, to } of ordinalsAt(parts, first, last - first + 1)) {
      measures.push(await partMeasure(session, table, column, [part, from, to]));
      ofColumn.push(at);
    }
  }
  const { columns: _, sum, mean, least, most, ...counts } = measured(measures);
  // A column comes in parts. The units of published columns are not kept: numbers of two of them are not added.
  const columns = [...new Set(measures.flatMap(({ numbers }, i) => (numbers > 0 ? [ofColumn[i]] : [])))].length;
  return { ...counts, columns, ...(columns > 1 || least === undefined ? {} : { ...(sum === undefined ? {} : { sum, mean }), least, most }) } as Measured;
}

async function partMeasure(session: Session, table: string, { identifier, type }: DatasetColumn, where: readonly [part: number, from: number, to: number]): Promise<ColumnMeasure> {
  const cell = quoted(identifier);
  // Calendar values in order by their letters, as they are ISO texts.
  const ends = numeric.has(type) ? `min(${cell})::text as least, max(${cell})::text as most` : ordered.has(type) ? `min(${cell}::text collate "C") as least, max(${cell}::text collate "C") as most` : 'null as least, null as most';
  const [row] = await session.query<{ cells: string; filled: string; sum: string | null; least: string | null; most: string | null }>(
    `select count(*) as cells, count(${cell}) as filled, ${numeric.has(type) ? `sum(${cell})::text` : 'null'} as sum, ${ends} from ${table} where part = $1 and ordinal >= $2 and ordinal < $3`,
    [...where],
  );
  const [{ misfits }] = await session.query<{ misfits: string }>('select count(*) as misfits from dataset_problem where part = $1 and ordinal >= $2 and ordinal < $3 and identifier = $4', [...where, identifier]);
  const [cells, filled, wrong] = [row.cells, row.filled, misfits].map(Number);
  const value = (text: string) => (numeric.has(type) ? Number(text) : text);
  return {
    type,
    cells,
    blank: cells - filled - wrong,
    misfits: wrong,
    numbers: numeric.has(type) ? filled : 0,
    ...(row.sum === null ? {} : { sum: Number(row.sum) }),
    ...(row.least === null ? {} : { least: value(row.least), most: value(row.most!) }),
  };
}

/** The next published cell that holds a text, line by line from a place on and round the end, and how many there are. Misfits are blank here. */
export async function publishedFind(session: Session, publication: Publication, sought: Sought, from: { readonly row: number; readonly column: number }, back: boolean): Promise<CellFound> {
  const table = quoted(await dataTableOf(session, publication.pipeline));
  const parts = await stretchesOf(session, publication);
  const tests = publication.columns.flatMap(({ identifier, type }) => {
    if (numeric.has(type)) return sought.digits === undefined ? [] : [`position($2::text in trim_scale(${quoted(identifier)}::numeric)::text) > 0`];
    return [`position($1::text in lower(${quoted(identifier)}::text)) > 0`];
  });
  if (tests.length === 0 || sought.text === '') return { count: 0 };
  const needles = [sought.text, sought.digits ?? ''];
  const any = `($1::text || $2::text) is not null and (${tests.map((test) => `coalesce(${test}, false)`).join(' or ')})`;
  let count = 0;
  const rows: { first: number | undefined; last: number | undefined; before: number | undefined; after: number | undefined } = { first: undefined, last: undefined, before: undefined, after: undefined };
  for (const { part, startRow } of parts) {
    const [found] = await session.query<Row & { cells: string; first: number | null; last: number | null; before: number | null; after: number | null }>(
      `select coalesce(sum(${tests.map((test) => `(case when ${test} then 1 else 0 end)`).join(' + ')}), 0) as cells, min(ordinal) as first, max(ordinal) as last,
         max(ordinal) filter (where ordinal < $4) as before, min(ordinal) filter (where ordinal > $4) as after
       from ${table} where part = $3 and ${any}`,
      [...needles, part, from.row - startRow],
    );
    count += Number(found.cells);
    const whole = (ordinal: number | null) => (ordinal === null ? undefined : startRow + ordinal);
    rows.first ??= whole(found.first);
    rows.last = whole(found.last) ?? rows.last;
    rows.before = whole(found.before) ?? rows.before;
    rows.after ??= whole(found.after);
  }
  if (count === 0) return { count };
  const cellsOf = async (row: number | undefined): Promise<number[]> => {
    const [own] = row === undefined || row < 0 ? [] : await datasetWindow(session, publication, row, 1);
    return own?.cells.flatMap((cell, column) => (holds(cell, sought) ? [column] : [])) ?? [];
  };
  const here = await cellsOf(from.row);
  const inRow = back ? here.findLast((column) => column < from.column) : here.find((column) => column > from.column);
  if (inRow !== undefined) return { count, place: { row: from.row, column: inRow } };
  const row = back ? (rows.before ?? rows.last)! : (rows.after ?? rows.first)!;
  const cells = await cellsOf(row);
  return { count, place: { row, column: (back ? cells.at(-1) : cells[0]) ?? 0 } };
}
