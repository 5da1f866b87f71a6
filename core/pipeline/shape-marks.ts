import { around, extend, overlapX, type Box } from '../page/box';
import type { PageContent } from '../page/page';
import type { Layer } from './carry';

/** What a step that gives the sheet another shape did with the lines of a page. */
export interface ShapeMarks {
  /** Where a table is split: a line across it, above the row at which a part begins; boxes of no height. */
  readonly splits: readonly Box[];
  /** The lines that became one record, a box for each column of print that they stand in. */
  readonly records: readonly Box[];
}

const noMarks: ShapeMarks = { splits: [], records: [] };

/** The marks of a layer on a page of a report. */
export function shapeMarks(layer: Layer, report: string, page: PageContent): ShapeMarks {
  if (layer.begins === undefined && !layer.records) return noMarks;
  const { rows, columns } = layer.sheet;
  const linesOf = (row: number): Box[] =>
    columns
      .flatMap(({ origins }) => (origins[row] < 0 ? [] : rows.book.origins.places(origins[row])))
      .flatMap((place) =>
        place.report === report && place.page === page.number ? place.words.map((word) => page.words[word].box) : [],
      );
  if (layer.records)
    return {
      splits: [],
      records: rows
        .map((row) => row)
        .filter(
          (row) => rows.report(row) === report && rows.page(row) <= page.number && rows.page(row) >= page.number - 1,
        )
        .flatMap((row) => byColumns(linesOf(row))),
    };
  const own = rows.map((row) => row).filter((row) => rows.report(row) === report && rows.page(row) === page.number);
  const table = around(own.flatMap(linesOf));
  const here = new Set(own);
  const tops = (layer.begins ?? [])
    .filter((row) => here.has(row))
    .map((row) => Math.min(...linesOf(row).map(([, top]) => top)) - 1.5);
  return {
    splits: table ? tops.filter(Number.isFinite).map((top): Box => [table[0] - 4, top, table[2] + 4, top]) : [],
    records: [],
  };
}

/** Boxes around words, one for each column of print: words that stand beside each other, or above each other, are of one. */
function byColumns(words: readonly Box[]): Box[] {
  const columns: Box[] = [];
  for (const word of [...words].sort((a, b) => a[1] - b[1] || a[0] - b[0])) {
    const at = columns.findIndex((own) => overlapX([own[0] - 12, 0, own[2] + 12, 0], word) > 0);
    if (at < 0) columns.push(word);
    else columns[at] = extend(columns[at], word);
  }
  // What has grown together since.
  return columns.reduce<Box[]>((out, own) => {
    const at = out.findIndex((other) => overlapX(other, own) > 0);
    return at < 0 ? [...out, own] : out.map((other, i) => (i === at ? extend(other, own) : other));
  }, []);
}
