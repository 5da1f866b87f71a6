import type { Cell } from '../sheet/cell';
import { Origins, nowhere } from '../sheet/origin';
import { sheet, type RowMark, type Sheet } from '../sheet/sheet';
import type { Around, Paper } from '../steps/step';

/** A sheet of text from rows, the first being the column names; marks may be told row by row. */
export function textSheet(rows: readonly (readonly (Cell | undefined)[])[], marks: readonly Partial<RowMark>[] = []): Sheet {
  const [names, ...body] = rows;
  return sheet(
    names.map((name, column) => ({
      name: String(name),
      type: 'text',
      cells: body.map((row) => row[column] ?? null),
      origins: Int32Array.from(body, (row, at) => (row[column] === undefined || row[column] === null ? nowhere : at * 100 + column)),
    })),
    body.map((_, at) => ({ report: 'r1', table: 'p1t1', page: 1, role: 'body', indent: 0, bold: false, shaded: false, ordinals: [], ...marks[at] })),
  );
}

/** The rows of a sheet as plain values, the column names first. */
export const plain = (of: Sheet): Cell[][] => [of.columns.map((column) => column.name), ...of.rows.map((_, row) => of.columns.map((column) => column.cells[row]))];

/** Word sets for the cells of `textSheet`: each cell comes from the one word that its id names. */
function cellOrigins(): Origins {
  const origins = new Origins();
  for (let word = 0; word < 1500; word++) origins.intern(1, [word]);
  return origins;
}

export const paper = (path = 'week-24.pdf', lines: Record<number, string[]> = {}): Paper => ({
  path,
  origins: cellOrigins(),
  pages: Object.keys(lines).map(Number),
  lines: (page) =>
    (lines[page] ?? []).map((text) => {
      const found = [...text.matchAll(/\S+/g)];
      return { text, words: found.map((_, i) => i), starts: found.map((match) => match.index) };
    }),
  title: () => undefined,
  labelled: () => undefined,
});

export const around = (of: Paper = paper()): Around => ({ papers: () => of, letPass: () => false });
