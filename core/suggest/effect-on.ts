import { cellText, isBlank, type Cell } from '../values/cell';
import type { Column } from '../sheet/column';
import type { RowId } from '../sheet/row';
import type { Sheet } from '../sheet/sheet';
import type { Overwritten } from '../steps/step';

/** What a step would do to the sheet in sight, by places there. */
export interface SeenEffect {
  readonly held: readonly number[];
  /** The cells that would change, and what each becomes. */
  readonly changed: readonly (readonly [row: number, column: number, to: Cell])[];
  readonly leftOut: readonly number[];
  /** Where the rows that it would hold, or the cells that it would change, are printed. */
  readonly printed: readonly { readonly page: number; readonly words: readonly number[] }[];
  readonly rowsIn: number;
  readonly rowsOut: number;
  /** How many rows it would hold: also those that are not in sight. */
  readonly holds: number;
  /** Columns that it would make, with the first few different texts of each. */
  readonly made: readonly { readonly name: string; readonly texts: readonly string[] }[];
}

/** What came of a step that was run. */
interface Ran {
  readonly sheet: Sheet;
  readonly held: Sheet | undefined;
  readonly leftOut: readonly Column[];
  readonly overwritten: readonly Overwritten[];
}

/** Places told of one step: more are not in sight. */
const mostPlaces = 5000;
/** So many rows or cells are drawn on the paper. */
const mostDrawn = 300;
const textsTold = 3;

/** @param sight the sheet in sight @param above the sheet on which the step was run: the same, or what steps between make of it */
export function effectOn(sight: Sheet, above: Sheet, { sheet, held, leftOut, overwritten }: Ran): SeenEffect {
  const places = placesIn(sight);
  const columnOf = columnsIn(sight, places);
  const heldAt = held ? held.rows.map((row) => places(held, row)).filter((at) => at >= 0) : [];
  const types = new Map(above.columns.map(({ name, type }) => [name, type]));
  const written = new Set(overwritten.map(({ column }) => column));
  const changed: (readonly [number, number, Cell])[] = [];
  for (const column of sheet.columns) {
    if (!written.has(column.name) && (!types.has(column.name) || types.get(column.name) === column.type)) continue;
    const at = columnOf(column, sheet);
    if (at < 0) continue;
    const before = sight.columns[at].cells;
    for (let row = 0; row < column.cells.length && changed.length < mostPlaces; row++) {
      const place = places(sheet, row);
      if (place >= 0 && before[place] !== column.cells[row]) changed.push([place, at, column.cells[row]]);
    }
  }
  const shownHeld = heldAt.slice(0, mostPlaces);
  return {
    held: shownHeld,
    changed,
    leftOut: leftOut.map((column) => columnOf(column, above)).filter((at) => at >= 0),
    printed: printedAt(sight, shownHeld.slice(0, mostDrawn), changed.slice(0, mostDrawn)),
    rowsIn: above.rows.length,
    rowsOut: sheet.rows.length,
    holds: held?.rows.length ?? 0,
    made: sheet.columns
      .filter(({ name }) => !types.has(name))
      .map(({ name, cells }) => ({ name, texts: firstTexts(cells) })),
  };
}

/** Finds rows of other sheets in this one: by their numbers in one book, else by their names. @returns the place, or -1 */
function placesIn({ rows }: Sheet): (of: Sheet, row: number) => number {
  let byNumber: Map<number, number> | undefined;
  let byName: Map<string, number> | undefined;
  const name = ({ report, table, ordinal }: RowId) => JSON.stringify([report, table, ordinal]);
  return (of, row) => {
    if (of.rows.book === rows.book) {
      byNumber ??= new Map(Array.from(rows.numbers, (number, place) => [number, place]));
      const number = of.rows.numbers[row];
      // Rows that became one stand where the first of them stands.
      return byNumber.get(number) ?? byNumber.get(rows.book.head(number)) ?? -1;
    }
    byName ??= new Map(rows.map((each) => [name(rows.id(each)), each]));
    return byName.get(name(of.rows.id(row))) ?? -1;
  };
}

/** Finds a column of a sheet further down: by its name, or where steps between named it otherwise by what is printed in it. @returns the place, or -1 */
function columnsIn(sight: Sheet, places: (of: Sheet, row: number) => number): (column: Column, of: Sheet) => number {
  const own = new Map(sight.columns.map(({ name }, at) => [name, at]));
  const wordsAt = ({ rows }: Sheet, origin: number) =>
    origin < 0
      ? ''
      : rows.book.origins
          .places(origin)
          .map(({ page, words }) => `${page} ${Array.from(words).join(' ')}`)
          .join(';');
  return (column, of) => {
    const named = own.get(column.name);
    if (named !== undefined) return named;
    for (let row = 0; row < of.rows.length; row++) {
      const place = column.origins[row] < 0 ? -1 : places(of, row);
      if (place < 0) continue;
      const words = wordsAt(of, column.origins[row]);
      return sight.columns.findIndex(({ origins }) => wordsAt(sight, origins[place]) === words);
    }
    return -1;
  };
}

function firstTexts(cells: readonly Cell[]): string[] {
  const texts = new Set<string>();
  for (const cell of cells) {
    if (texts.size === textsTold) break;
    if (!isBlank(cell)) texts.add(cellText(cell));
  }
  return [...texts];
}

function printedAt(
  { columns, rows }: Sheet,
  held: readonly number[],
  changed: SeenEffect['changed'],
): SeenEffect['printed'] {
  const places = (ids: readonly number[]) =>
    ids
      .filter((id) => id >= 0)
      .flatMap((id) => rows.book.origins.places(id))
      .map(({ page, words }) => ({ page, words: [...words] }));
  const together = (of: readonly { page: number; words: number[] }[]) =>
    [...new Set(of.map(({ page }) => page))].map((page) => ({
      page,
      words: of.filter((each) => each.page === page).flatMap(({ words }) => words),
    }));
  return [
    ...held.flatMap((row) => together(places(columns.map(({ origins }) => origins[row])))),
    ...changed.flatMap(([row, column]) => together(places([columns[column].origins[row]]))),
  ];
}
