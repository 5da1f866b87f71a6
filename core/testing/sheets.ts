import type { Cell } from '../values/cell';
import { nowhere } from '../sheet/origin';
import type { List } from '../sheet/list';
import { RowBook, Rows, type RowMark } from '../sheet/row';
import { sheet, type Sheet } from '../sheet/sheet';
import type { Around, Paper } from '../steps/step';

/** A sheet of text from rows, the first being the column names; marks may be told row by row. Each cell comes from one word of page 1: row times 100 plus column. */
export function textSheet(
  rows: readonly (readonly (Cell | undefined)[])[],
  marks: readonly Partial<RowMark>[] = [],
): Sheet {
  const [names, ...body] = rows;
  const book = new RowBook();
  for (let word = 0; word < 1500; word++) book.origins.intern(marks[0]?.report ?? 'r1', 1, [word]);
  return sheet(
    names.map((name, column) => ({
      name: String(name),
      type: 'text',
      cells: body.map((row) => row[column] ?? null),
      origins: Int32Array.from(body, (row, at) =>
        row[column] === undefined || row[column] === null ? nowhere : at * 100 + column,
      ),
    })),
    new Rows(
      book,
      Int32Array.from(body, (_, at) =>
        book.add(
          { report: 'r1', table: 'p1t1', page: 1, role: 'body', indent: 0, bold: false, shaded: false, ...marks[at] },
          at,
        ),
      ),
    ),
  );
}

/** The rows of a sheet as plain values, the column names first. */
export const plain = (of: Sheet): Cell[][] => [
  of.columns.map((column) => column.name),
  ...of.rows.map((row) => of.columns.map((column) => column.cells[row])),
];

/** The words behind a cell, as `report page:word`. */
export const wordsBehind = ({ columns, rows }: Sheet, name: string, row: number): string[] =>
  rows.book.origins
    .places(columns.find((column) => column.name === name)!.origins[row])
    .flatMap(({ report, page, words }) => words.map((word) => `${report} ${page}:${word}`));

export const paper = (path = 'week-24.pdf', lines: Record<number, string[]> = {}): Paper => ({
  path,
  pages: Object.keys(lines).map(Number),
  lines: (page) =>
    (lines[page] ?? []).map((text, i) => {
      const found = [...text.matchAll(/\S+/g)];
      return {
        text,
        box: [0, 20 * i, 400, 20 * i + 10] as const,
        words: found.map((_, i) => i),
        starts: found.map((match) => match.index),
      };
    }),
  title: () => undefined,
  pieces: [],
  labelled: () => [],
});

/** A list to look values up in, its name being its version. */
export const sampleList: List = {
  name: 'species.csv',
  rows: 4,
  columns: [
    { name: 'Code', type: 'text', cells: ['HK1', 'SL2', 'CD3', 'CD3'] },
    { name: 'Species', type: 'text', cells: ['Lantern hake', 'Grey sole', 'Fell cod', 'Fell cod, small'] },
    { name: 'Quota', type: 'integer', cells: [120, 45, 7, 9] },
  ],
};

export const around = (of: Paper = paper()): Around => ({
  papers: () => of,
  letPass: () => false,
  lists: (version) => (version === sampleList.name ? sampleList : undefined),
});
