// What is asked of many published cells at once: what they hold together, and where a text stands. The database works it out.
import { holds, type CellFound, type Sought } from '../../core/sheet/find-cell';
import {
  measured,
  stretchesByColumn,
  wholeColumn,
  type CellRange,
  type ColumnMeasure,
  type Measured,
} from '../../core/sheet/measure';
import { isNumeric, type ValueType } from '../../core/sheet/column';
import { dataTableOf } from './data-table';
import { datasetWindow, type Publication } from './dataset';
import { quoted, type Session, type Store } from './store';

const ordered = new Set<ValueType>(['date', 'time', 'datetime', 'period']);

/** Rows looked at in one statement: pages are asked for between two of them. */
const pieceRows = 50_000;
/** Columns of one statement: a result has fewer than 1,664 entries. */
const pieceColumns = 250;

/** The rows of a publication in SQL, from $2 on and before $3 of the dataset; `at` is the place of each, by key in its part. */
const rowsOf = (table: string) =>
  `${table} d join publication_part pp on pp.publication = $1 and pp.part = d.part and d.ordinal >= $2 - pp.start_row and d.ordinal < $3 - pp.start_row`;
const at = '(pp.start_row + d.ordinal)';

/** Runs a statement for each piece of some rows, each in a turn of its own. */
async function inPieces<Answer>(
  store: Store,
  publication: Publication,
  [first, last]: readonly [number, number],
  ask: (session: Session, table: string, from: number, to: number) => Promise<Answer>,
): Promise<Answer[]> {
  const answers: Answer[] = [];
  for (let from = first; from <= Math.min(last, publication.rows - 1); from += pieceRows)
    // Which table it is may change between two pieces, never within one.
    answers.push(
      await store.patient.transaction(async (session) =>
        ask(
          session,
          quoted(await dataTableOf(session, publication.pipeline)),
          from,
          Math.min(last + 1, from + pieceRows),
        ),
      ),
    );
  return answers;
}

/** What some cells of the published dataset hold together. */
export async function publishedMeasure(
  store: Store,
  publication: Publication,
  ranges: readonly CellRange[],
): Promise<Measured> {
  const parts = new Map<number, ColumnMeasure[]>();
  // Columns of which the same rows are taken are asked about together.
  const byRows = new Map<string, { rows: readonly (readonly [number, number])[]; columns: number[] }>();
  for (const [column, rows] of stretchesByColumn(ranges)) {
    if (!publication.columns[column]) continue;
    const key = JSON.stringify(rows);
    byRows.set(key, { rows, columns: [...(byRows.get(key)?.columns ?? []), column] });
  }
  for (const { rows, columns } of byRows.values())
    for (let from = 0; from < columns.length; from += pieceColumns) {
      const own = columns.slice(from, from + pieceColumns);
      for (const stretch of rows)
        for (const measures of await inPieces(store, publication, stretch, (session, table, first, to) =>
          pieceMeasures(session, table, publication, own, [first, to]),
        ))
          measures.forEach((measure, i) => parts.set(own[i], [...(parts.get(own[i]) ?? []), measure]));
    }
  const { sum, mean, least, most, unit: _, ...counts } = measured([...parts.values()].map(wholeColumn));
  // The units of published columns are not kept: numbers of two of them are not added.
  return counts.columns > 1 || least === undefined
    ? counts
    : { ...counts, ...(sum === undefined ? {} : { sum, mean }), least, most };
}

async function pieceMeasures(
  session: Session,
  table: string,
  publication: Publication,
  columns: readonly number[],
  [from, to]: readonly [number, number],
): Promise<ColumnMeasure[]> {
  const about = columns.map((column) => publication.columns[column]);
  const asked = about.map(({ identifier, type }, i) => {
    const cell = `d.${quoted(identifier)}`;
    // Calendar values in order by their letters, as they are ISO texts.
    const ends = isNumeric(type)
      ? [`min(${cell})::text`, `max(${cell})::text`]
      : ordered.has(type)
        ? [`min(${cell}::text collate "C")`, `max(${cell}::text collate "C")`]
        : ['null', 'null'];
    return `count(${cell}) as filled${i}, ${isNumeric(type) ? `sum(${cell})::text` : 'null'} as sum${i}, ${ends[0]} as least${i}, ${ends[1]} as most${i}`;
  });
  const [row] = await session.query<Record<string, string | null>>(
    `select count(*) as cells, ${asked.join(', ')} from ${rowsOf(table)}`,
    [publication.id, from, to],
  );
  const misfits = await session.query<{ identifier: string; count: string }>(
    `select d.identifier, count(*) as count from ${rowsOf('dataset_problem')} group by d.identifier`,
    [publication.id, from, to],
  );
  const misfitsOf = new Map(misfits.map(({ identifier, count }) => [identifier, Number(count)]));
  return about.map(({ identifier, type }, i): ColumnMeasure => {
    const [cells, filled, wrong] = [Number(row['cells']), Number(row[`filled${i}`]), misfitsOf.get(identifier) ?? 0];
    const value = (text: string) => (isNumeric(type) ? Number(text) : text);
    const [sum, least, most] = [row[`sum${i}`], row[`least${i}`], row[`most${i}`]];
    return {
      type,
      cells,
      blank: cells - filled - wrong,
      misfits: wrong,
      numbers: isNumeric(type) ? filled : 0,
      ...(sum === null ? {} : { sum: Number(sum) }),
      ...(least === null ? {} : { least: value(least), most: value(most!) }),
    };
  });
}

/** The next published cell that holds a text, line by line from a place on and round the end, and how many there are. Misfits are blank here. */
export async function publishedFind(
  store: Store,
  publication: Publication,
  sought: Sought,
  from: { readonly row: number; readonly column: number },
  back: boolean,
): Promise<CellFound> {
  const tests = publication.columns.flatMap(({ identifier, type }) => {
    if (isNumeric(type))
      return sought.digits === undefined
        ? []
        : [`coalesce(position($5::text in trim_scale(d.${quoted(identifier)}::numeric)::text) > 0, false)`];
    return [`coalesce(position($4::text in lower(d.${quoted(identifier)}::text)) > 0, false)`];
  });
  if (tests.length === 0 || sought.text === '') return { count: 0 };
  type Found = {
    cells: string;
    first: string | null;
    last: string | null;
    before: string | null;
    after: string | null;
  };
  const pieces = await inPieces(store, publication, [0, publication.rows - 1], async (session, table, first, to) => {
    const [found] = await session.query<Found>(
      `select coalesce(sum(${tests.map((test) => `(case when ${test} then 1 else 0 end)`).join(' + ')}), 0) as cells, min(${at}) as first, max(${at}) as last,
         max(${at}) filter (where ${at} < $6) as before, min(${at}) filter (where ${at} > $6) as after
       from ${rowsOf(table)} where ($4::text || $5::text) is not null and (${tests.join(' or ')})`,
      [publication.id, first, to, sought.text, sought.digits ?? '', from.row],
    );
    return found;
  });
  const count = pieces.reduce((sum, { cells }) => sum + Number(cells), 0);
  if (count === 0) return { count };
  const told = (which: keyof Found) => pieces.flatMap((piece) => (piece[which] === null ? [] : [Number(piece[which])]));
  const cellsOf = async (row: number): Promise<number[]> => {
    const [own] = row < 0 ? [] : await store.transaction((session) => datasetWindow(session, publication, row, 1));
    return own?.cells.flatMap((cell, column) => (holds(cell, sought) ? [column] : [])) ?? [];
  };
  const here = await cellsOf(from.row);
  const inRow = back ? here.findLast((column) => column < from.column) : here.find((column) => column > from.column);
  if (inRow !== undefined) return { count, place: { row: from.row, column: inRow } };
  const row = (back ? (told('before').at(-1) ?? told('last').at(-1)) : (told('after')[0] ?? told('first')[0]))!;
  const cells = await cellsOf(row);
  return { count, place: { row, column: (back ? cells.at(-1) : cells[0]) ?? 0 } };
}
