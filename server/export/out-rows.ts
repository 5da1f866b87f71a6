// The published rows as ways out take them: in pieces, each asked for in a turn of its own, all of one publication.
import { isNumeric } from '../../core/sheet/column';
import { dataTableOf, type DatasetColumn } from '../store/data-table';
import { stretchesOf, type Publication } from '../store/dataset';
import { quoted, type CopyDialect, type Store } from '../store/store';
import type { OutRow } from './out-row';
import { problemKey, rowsFrom, type RowText } from './row-text';

/** A column as a way out describes it. */
export interface OutColumn extends DatasetColumn {
  /** Of numbers: most digits behind the point, and most before it. */
  readonly digits?: number;
  readonly whole?: number;
}

/** Some rows of a part that follow one another, or rows by their places one by one. */
type Piece =
  | { readonly part: number; readonly from: number; readonly to: number }
  | { readonly places: readonly (readonly [part: number, ordinal: number])[] };

/** Rows of a piece: less than a load, as pages are asked for between two of them. */
const pieceRows = 5_000;

/** The rows of a publication in pieces. @param places rows by their number in the dataset, in the order wanted; all in theirs if left out */
async function piecesOf(store: Store, publication: Publication, places?: Uint32Array): Promise<Piece[]> {
  const stretches = await stretchesOf(store, publication);
  if (!places)
    return stretches.flatMap(({ part, rows }) =>
      Array.from({ length: Math.ceil(rows / pieceRows) }, (_, n) => ({
        part,
        from: n * pieceRows,
        to: Math.min(rows, (n + 1) * pieceRows),
      })),
    );
  const partOf = (row: number): readonly [number, number] => {
    const stretch = stretches.findLast(({ startRow }) => startRow <= row)!;
    return [stretch.part, row - stretch.startRow];
  };
  return Array.from({ length: Math.ceil(places.length / pieceRows) }, (_, n) => ({
    places: Array.from(places.subarray(n * pieceRows, (n + 1) * pieceRows), partOf),
  }));
}

/** The rows of a piece in SQL, `d` with its report as `r`, and what they are ordered by. */
function rowsIn(piece: Piece, table: string): { from: string; order: string } {
  const report = 'left join report r on r.id = d.report';
  if ('part' in piece)
    return {
      from: `${quoted(table)} d ${report} where d.part = ${piece.part} and d.ordinal >= ${piece.from} and d.ordinal < ${piece.to}`,
      order: 'd.ordinal',
    };
  return {
    from: `(values ${piece.places.map(([part, ordinal], n) => `(${part}, ${ordinal}, ${n})`).join(', ')}) w (part, ordinal, nth) join ${quoted(table)} d on d.part = w.part and d.ordinal = w.ordinal ${report}`,
    order: 'w.nth',
  };
}

/** Which rows are wanted, and who is told how they get on. */
export interface RowsAsked {
  /** Rows by their number in the dataset, in the order wanted; all if left out. */
  readonly places?: Uint32Array | undefined;
  /** Told how many rows have been taken so far. */
  readonly taken?: ((rows: number) => void) | undefined;
}

interface Asked extends RowsAsked {
  readonly columns: readonly DatasetColumn[];
}

/** Work on each piece, in its order; what is told of a piece is told when the next is asked for. */
async function* byPieces<Made>(
  store: Store,
  publication: Publication,
  { places, taken }: RowsAsked,
  work: (piece: Piece) => Promise<Made>,
): AsyncGenerator<Made> {
  let rows = 0;
  for (const piece of await piecesOf(store, publication, places)) {
    yield await work(piece);
    rows += 'part' in piece ? piece.to - piece.from : piece.places.length;
    taken?.(rows);
  }
}

/** The values of a select list as CSV without headings (or in COPY's text form), piece by piece. @param cells of `d`, a row of the data table, and `r`, its report */
export async function* copyOf(
  store: Store,
  publication: Publication,
  cells: readonly string[],
  { separator, quoteAll, escaped, ...rows }: RowsAsked & CopyDialect = {},
): AsyncGenerator<Uint8Array> {
  yield* byPieces(store, publication, rows, (piece) =>
    // Which table it is may change between two pieces, never within one.
    store.patient.transaction(async (session) => {
      const { from, order } = rowsIn(piece, await dataTableOf(session, publication.pipeline));
      const query = `select ${cells.join(', ')} from ${from} order by ${order}`;
      return session.copyOut(query, { separator, quoteAll, escaped });
    }),
  );
}

/** The rows themselves, piece by piece, not taken apart yet. */
export async function* rowTexts(
  store: Store,
  publication: Publication,
  { columns, ...rows }: Asked,
): AsyncGenerator<RowText> {
  // All but numbers and texts as the database prints them.
  const cells = columns.map(({ identifier, type }) =>
    isNumeric(type) || type === 'text' ? `d.${quoted(identifier)}` : `d.${quoted(identifier)}::text`,
  );
  yield* byPieces(store, publication, rows, (piece) =>
    store.patient.transaction(async (session) => {
      const { from, order } = rowsIn(piece, await dataTableOf(session, publication.pipeline));
      const csv = await session.copyOut(
        `select ${['d.part', 'd.ordinal', `coalesce(r.path, '')`, 'd.page', ...cells].join(', ')} from ${from} order by ${order}`,
      );
      if (publication.misfits === 0) return { csv, problems: [] };
      const problems = await session.query<{
        part: number;
        ordinal: number;
        identifier: string;
        text: string;
        expected: string;
      }>(
        `select p.part, p.ordinal, p.identifier, p.text, p.expected from dataset_problem p join (select d.part, d.ordinal from ${from}) d on d.part = p.part and d.ordinal = p.ordinal`,
      );
      return {
        csv,
        problems: problems.map(
          ({ part, ordinal, identifier, text, expected }) =>
            [problemKey(part, ordinal, identifier), { text, expected }] as const,
        ),
      };
    }),
  );
}

/** The rows piece by piece, error cells with their texts. */
export async function* rowsOf(store: Store, publication: Publication, asked: Asked): AsyncGenerator<OutRow[]> {
  for await (const text of rowTexts(store, publication, asked)) yield rowsFrom(text, asked.columns);
}

/** Rows looked at in one statement, where only a few numbers come back. */
const measuredRows = 50_000;

/** Columns measured in one statement: a result has fewer than 1,664 entries. */
const measuredAtOnce = 500;

/** The columns with how many digits their decimals have. */
export async function measuredColumns(store: Store, publication: Publication): Promise<OutColumn[]> {
  const decimals = publication.columns.filter(({ type }) => type === 'decimal' || type === 'percent');
  const most = new Map(decimals.map(({ identifier }) => [identifier, { digits: 0, whole: 1 }]));
  for (let at = 0; at < decimals.length; at += measuredAtOnce) {
    const some = decimals.slice(at, at + measuredAtOnce);
    // Numbers come into the database without zeros at their end.
    const asked = some.map(
      ({ identifier }, i) =>
        `max(scale(${quoted(identifier)})) as d${i}, trunc(max(abs(${quoted(identifier)})))::text as w${i}`,
    );
    for (const { part, rows } of await stretchesOf(store, publication))
      for (let from = 0; from < rows; from += measuredRows) {
        const [row] = await store.patient.transaction(async (session) =>
          session.query<Record<string, string | number | null>>(
            `select ${asked.join(', ')} from ${quoted(await dataTableOf(session, publication.pipeline))} where part = $1 and ordinal >= $2 and ordinal < $3`,
            [part, from, from + measuredRows],
          ),
        );
        some.forEach(({ identifier }, i) => {
          const own = most.get(identifier)!;
          most.set(identifier, {
            digits: Math.max(own.digits, Number(row[`d${i}`] ?? 0)),
            whole: Math.max(own.whole, String(row[`w${i}`] ?? '0').length),
          });
        });
      }
  }
  return publication.columns.map((column) => ({ ...column, ...most.get(column.identifier) }));
}
