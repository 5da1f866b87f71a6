import * as v from 'valibot';
import { cellText, type Cell } from '../values/cell';
import { nowhere } from '../sheet/origin';
import type { Problem } from '../sheet/problem';
import type { Column, ValueType } from '../sheet/column';
import { RowBook, Rows, type NumberedCell } from '../sheet/row';
import { sheet, type Sheet } from '../sheet/sheet';
import { sameName } from '../sheet/column';
import { renamedTo } from '../steps/rename';

/** Column names of all lists: in the order first seen, a new one after the name it stands behind in its own list. */
export function mergedNames(lists: readonly (readonly string[])[]): string[] {
  const names: string[] = [];
  for (const list of lists) {
    let at = -1;
    for (const name of list) {
      const known = names.indexOf(name);
      if (known >= 0) at = known;
      else names.splice(++at, 0, name);
    }
  }
  return names;
}

/** Columns that not all parts have, and which parts lack each, by their place. */
export const partialColumns = (lists: readonly (readonly string[])[]): { name: string; lacks: number[] }[] =>
  mergedNames(lists)
    .map((name) => ({ name, lacks: lists.flatMap((list, i) => (list.includes(name) ? [] : [i])) }))
    .filter(({ lacks }) => lacks.length > 0);

/** Spellings of column names that become one name where parts are appended. */
export const spelling = v.object({
  to: v.pipe(v.string(), v.minLength(1, 'A column needs a name.')),
  from: v.array(v.string()),
});
export type Spelling = v.InferOutput<typeof spelling>;

/** The sheet with its columns named by the table of spellings. */
export function spelled(of: Sheet, spellings: readonly Spelling[], problems: Problem[]): Sheet {
  if (spellings.length === 0) return of;
  return renamedTo(
    of,
    (column) => spellings.find(({ from }) => from.some((name) => sameName(name, column.name)))?.to ?? column.name,
    problems,
  );
}

const numbers: readonly ValueType[] = ['integer', 'decimal'];

function commonType(types: readonly ValueType[]): ValueType | undefined {
  const distinct = [...new Set(types)];
  if (distinct.length <= 1) return distinct[0] ?? 'text';
  return distinct.every((type) => numbers.includes(type)) ? 'decimal' : undefined;
}

/** Sheets of one report share a book; those of several get one that holds what all of theirs hold. */
function inOneBook(sheets: readonly Sheet[]): { rows: Rows; parts: readonly Sheet[]; moved: Moved } {
  const books = [...new Set(sheets.filter(({ rows }) => rows.length > 0).map(({ rows }) => rows.book))];
  const { book, renumbered } = books.length === 1 ? { book: books[0], renumbered: undefined } : RowBook.joined(books);
  const numbers = new Int32Array(sheets.reduce((sum, { rows }) => sum + rows.length, 0));
  let start = 0;
  const parts = sheets.map((part): Sheet => {
    const own = renumbered?.[books.indexOf(part.rows.book)];
    const told = own ? part.rows.numbers.map(own.row) : part.rows.numbers;
    numbers.set(told, start);
    start += told.length;
    if (!own) return part;
    return {
      rows: new Rows(book, told),
      columns: part.columns.map((column) => ({
        ...column,
        ...(column.namedBy === undefined ? {} : { namedBy: own.origin(column.namedBy) }),
        origins: column.origins.map(own.origin),
      })),
    };
  });
  return {
    rows: new Rows(book, numbers),
    parts,
    moved: (own, cell) => renumbered?.[books.indexOf(own)]?.cell(cell) ?? cell,
  };
}

/** Where a cell of a sheet is in what it was appended to. */
export type Moved = (book: RowBook, cell: NumberedCell) => NumberedCell;

/** Appends sheets by column name, in order. A column that a sheet lacks is blank there; types that clash become text. */
export function append(sheets: readonly Sheet[]): { sheet: Sheet; problems: Problem[]; moved: Moved } {
  if (sheets.length === 1) return { sheet: sheets[0], problems: [], moved: (_, cell) => cell };
  const problems: Problem[] = [];
  const { rows, parts, moved } = inOneBook(sheets);
  const columns = mergedNames(parts.map((each) => each.columns.map((column) => column.name))).map((name): Column => {
    const own = parts.map((each) => each.columns.find((column) => column.name === name));
    // An empty sheet has nothing to say about the type.
    const types = own.flatMap((column) => (column && column.cells.length > 0 ? [column.type] : []));
    const type = commonType(types);
    if (!type)
      problems.push({
        kind: 'step',
        column: name,
        expected: 'one type in all parts that are appended',
        came: [...new Set(types)].join(' and '),
        remedy: 'Set the type of this column in every part, or after the append; it is text until then.',
      });
    const units = [
      ...new Set(own.flatMap((column) => (column && column.cells.length > 0 && column.unit ? [column.unit] : []))),
    ];
    if (units.length > 1)
      problems.push({
        kind: 'step',
        column: name,
        expected: 'one unit in all parts that are appended',
        came: units.join(' and '),
        remedy: 'Set the same unit in every part; amounts of different units must not be added.',
      });
    const cells: Cell[] = [];
    const origins = new Int32Array(rows.length).fill(nowhere);
    own.forEach((column, i) => {
      if (column) origins.set(column.origins, cells.length);
      for (let row = 0; row < parts[i].rows.length; row++) {
        const cell = column ? column.cells[row] : null;
        cells.push(type || cell === null ? cell : cellText(cell));
      }
    });
    const namedBy = rows.book.origins.union(own.flatMap((column) => column?.namedBy ?? []));
    return {
      name,
      ...(namedBy === nowhere ? {} : { namedBy }),
      type: type ?? 'text',
      ...(units.length === 1 ? { unit: units[0] } : {}),
      cells,
      origins,
    };
  });
  return { sheet: sheet(columns, rows), problems, moved };
}
